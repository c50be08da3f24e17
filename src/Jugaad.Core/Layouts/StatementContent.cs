using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Layouts;

/// <summary>Something on an account as a statement tells it. Amounts are minor units.</summary>
/// <param name="Due">Null for what lowers the balance.</param>
/// <param name="Amount">Above zero where it raises the balance, below where it lowers it.</param>
/// <param name="Open">What was open of it on the day, with the same sign.</param>
public sealed record StatementItem(
    AccountItemKind Kind,
    string Number,
    DateOnly Date,
    DateOnly? Due,
    long Amount,
    long Open
)
{
    /// <summary>In its own currency, where the statement is in another; null otherwise.</summary>
    public Money? Original { get; init; }
}

/// <summary>What a statement is told from.</summary>
/// <param name="Currency">Of its amounts.</param>
/// <param name="From">Null for open items only; otherwise all that moved from that day on.</param>
/// <param name="Day">At its end.</param>
/// <param name="Items">Those that were open; or those that moved, in their order.</param>
/// <param name="Opening">The balance at the end of the day before <paramref name="From"/>.</param>
/// <param name="Balance">The balance at the end of the day.</param>
public sealed record StatementFacts(
    Currency Currency,
    DateOnly? From,
    DateOnly Day,
    IReadOnlyList<StatementItem> Items,
    long Opening,
    long Balance,
    AgedBalance Aged,
    IReadOnlyList<int> Edges
)
{
    /// <summary>
    /// Whether it is the whole of an account in several currencies, at what it is kept at at home: for ourselves, as
    /// nobody pays that sum.
    /// </summary>
    public bool IsWhole { get; init; }

    /// <summary>Whether there is nothing to tell.</summary>
    public bool IsEmpty => Items.Count == 0 && Opening == 0 && Balance == 0;

    /// <summary>Where the customer sees their account; empty where that is not said.</summary>
    public string Page { get; init; } = "";
}

/// <summary>What a statement of account says, in the business's format.</summary>
public static class StatementContent
{
    private const double Left = 20;
    private const double Right = 190;

    /// <param name="customer">Whose account it is.</param>
    /// <param name="words">In the language in which the customer is written to.</param>
    public static PaperContent Of(
        StatementFacts facts,
        Business business,
        Customer customer,
        Sender sender,
        PaperWords words
    )
    {
        var format = words.FormatOf(business);
        string Amount(long minor) => format.Amount(minor, facts.Currency);
        var reference = customer.Code.Length > 0 ? customer.Code : customer.Name;
        return new PaperContent
        {
            Kind = PaperKinds.Statement,
            ToBusiness = Parties.IsBusiness(customer),
            Values = new Dictionary<string, string> { ["CustomerCode"] = customer.Code },
            Words = words,
            Heading = words[PaperWord.Statement],
            Number = format.Date(facts.Day),
            Sender = sender,
            Addressee = Parties.AddresseeOf(customer, business),
            CurrencyCode = facts.Currency.Code,
            Amount = Amount,
            Facts =
            [
                facts.From is { } from
                    ? (
                        words[PaperWord.AllMovement],
                        words.Fill(PaperWord.FromTo, format.Date(from), format.Date(facts.Day))
                    )
                    : (words[PaperWord.OpenAtEndOf], format.Date(facts.Day)),
                (words[PaperWord.Customer], reference),
                (words[PaperWord.CurrencyWord], facts.Currency.Code),
            ],
            Tables =
            [
                facts.From is null ? Open(facts, words, format, Amount) : Movement(facts, words, format, Amount),
                Ages(facts, words, Amount),
            ],
            Totals = [],
            TransferCode = Code(facts, sender, reference),
            Closing = facts.IsWhole ? [] : Asked(facts, sender, reference, words, Amount),
            ShowsTax = false,
            HasLogo = business.Logo is not null,
        };
    }

    private static PaperTable Open(
        StatementFacts facts,
        PaperWords words,
        DisplayFormat format,
        Func<long, string> amount
    ) =>
        new(
            [
                new(words[PaperWord.What], Left),
                new(words[PaperWord.Date], 68),
                new(words[PaperWord.Due], 94),
                new(words[PaperWord.DaysLate], 134, Anchor.End),
                new(words[PaperWord.Amount], 162, Anchor.End),
                new(words[PaperWord.OpenAmount], Right, Anchor.End),
            ],
            [
                .. facts.Items.Select(i => new PaperRow([
                    Named(i, facts, words, format),
                    format.Date(i.Date),
                    i.Due is { } due ? format.Date(due) : "",
                    i.Due is { } late && late < facts.Day ? $"{facts.Day.DayNumber - late.DayNumber}" : "",
                    amount(i.Amount),
                    amount(i.Open),
                ])),
                new([words[PaperWord.OwedInAll], "", "", "", "", amount(facts.Balance)], Strong: true),
            ]
        );

    /// <summary>What it is, its number, and what it is in its own currency where that is another.</summary>
    private static string Named(StatementItem item, StatementFacts facts, PaperWords words, DisplayFormat format)
    {
        var said = $"{words.Entry(item.Kind)} {item.Number}";
        return item.Original is { } original && !original.Currency.Equals(facts.Currency)
            ? $"{said}, {format.WithCode(original.Minor, original.Currency)}"
            : said;
    }

    private static PaperTable Movement(
        StatementFacts facts,
        PaperWords words,
        DisplayFormat format,
        Func<long, string> amount
    )
    {
        var rows = new List<PaperRow>
        {
            new(["", words[PaperWord.BalanceBefore], "", "", amount(facts.Opening)], Strong: true),
        };
        var running = facts.Opening;
        foreach (var item in facts.Items)
        {
            running += item.Amount;
            rows.Add(
                new PaperRow([
                    format.Date(item.Date),
                    Named(item, facts, words, format),
                    item.Amount > 0 ? amount(item.Amount) : "",
                    item.Amount < 0 ? amount(-item.Amount) : "",
                    amount(running),
                ])
            );
        }

        rows.Add(new(["", words[PaperWord.OwedInAll], "", "", amount(facts.Balance)], Strong: true));
        return new PaperTable(
            [
                new(words[PaperWord.Date], Left),
                new(words[PaperWord.What], 48),
                new(words[PaperWord.Billed], 134, Anchor.End),
                new(words[PaperWord.PaidOrCredited], 162, Anchor.End),
                new(words[PaperWord.Balance], Right, Anchor.End),
            ],
            rows
        );
    }

    /// <summary>How late it is, at the foot.</summary>
    private static PaperTable Ages(StatementFacts facts, PaperWords words, Func<long, string> amount)
    {
        List<(string Head, long Amount)> ages =
        [
            (words[PaperWord.NotYetDue], facts.Aged.NotYetDue),
            .. Ageing
                .Heads(facts.Edges)
                .Zip(facts.Aged.Late, (head, late) => (words.Fill(PaperWord.DaysLateOf, Span(head, words)), late)),
        ];
        if (facts.Aged.Disputed > 0)
            ages.Add((words[PaperWord.InDispute], facts.Aged.Disputed));
        if (facts.Aged.Credit > 0)
            ages.Add((words[PaperWord.CreditBalance], -facts.Aged.Credit));
        var width = (Right - Left) / ages.Count;
        return new PaperTable(
            [.. ages.Select((a, i) => new PaperColumn(a.Head, Left + ((i + 1) * width), Anchor.End))],
            [new PaperRow([.. ages.Select(a => amount(a.Amount))])]
        );
    }

    /// <summary>A span of days, such as <c>31–60</c> or <c>over 90</c>.</summary>
    private static string Span(string head, PaperWords words)
    {
        const string over = "over ";
        return head.StartsWith(over, StringComparison.Ordinal)
            ? words.Fill(PaperWord.OverDays, head[over.Length..])
            : head;
    }

    private static List<string> Asked(
        StatementFacts facts,
        Sender sender,
        string reference,
        PaperWords words,
        Func<long, string> amount
    )
    {
        var said = new List<string>();
        if (facts.Balance <= 0)
            said.Add(
                facts.Balance < 0
                    ? words.Fill(PaperWord.CreditWithUs, $"{amount(-facts.Balance)} {facts.Currency}")
                    : words[PaperWord.NothingOwed]
            );
        else
        {
            if (facts.Aged.Overdue > 0)
                said.Add(words.Fill(PaperWord.PastDue, $"{amount(facts.Aged.Overdue)} {facts.Currency}"));
            if (sender.Iban.Length > 0)
                said.Add(words.Fill(PaperWord.PayTo, Iban.Grouped(sender.Iban), sender.Name, Named(reference)));
        }

        if (facts.Page.Length > 0)
            said.Add(words.Fill(PaperWord.AccountPage, facts.Page));
        return said;
    }

    /// <summary>The reference that banks carry by itself (ISO 11649), where there is one, else the plain one.</summary>
    private static string Named(string reference) =>
        StructuredReference.Of(reference) is { Length: > 0 } structured
            ? $"{StructuredReference.Grouped(structured)} ({reference})"
            : reference;

    /// <summary>For a transfer of all that is owed, in euro.</summary>
    private static string Code(StatementFacts facts, Sender sender, string reference) =>
        !facts.IsWhole
        && facts.Currency.Code == "EUR"
        && sender.Iban.Length > 0
        && facts.Balance is > 0 and <= TransferCode.MostMinor
            ? TransferCode.Of(sender.Name, sender.Iban, sender.Bic, facts.Balance, reference)
            : "";
}
