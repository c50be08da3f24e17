using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Layouts;

/// <summary>Something on an account as a statement tells it. Amounts are minor units.</summary>
/// <param name="Due">Null for what lowers the balance.</param>
/// <param name="Amount">Above zero where it raises the balance, below where it lowers it.</param>
/// <param name="Open">What was open of it on the day, with the same sign.</param>
public sealed record StatementItem(string What, string Number, DateOnly Date, DateOnly? Due, long Amount, long Open)
{
    public AccountItemKind Kind { get; init; }
}

/// <summary>What a statement is told from.</summary>
/// <param name="From">Null for open items only; otherwise all that moved from that day on.</param>
/// <param name="Day">At its end.</param>
/// <param name="Items">Those that were open; or those that moved, in their order.</param>
/// <param name="Opening">The balance at the end of the day before <paramref name="From"/>.</param>
/// <param name="Balance">The balance at the end of the day.</param>
public sealed record StatementFacts(
    DateOnly? From,
    DateOnly Day,
    IReadOnlyList<StatementItem> Items,
    long Opening,
    long Balance,
    AgedBalance Aged,
    IReadOnlyList<int> Edges
)
{
    /// <summary>Where the customer sees their account; empty where that is not said.</summary>
    public string Page { get; init; } = "";
}

/// <summary>What a statement of account says, in the business's format.</summary>
public static class StatementContent
{
    private const double Left = 20;
    private const double Right = 190;

    /// <param name="customer">Whose account it is; the amounts are in their currency.</param>
    public static PaperContent Of(StatementFacts facts, Business business, Customer customer, Sender sender)
    {
        var format = business.Format;
        string Amount(long minor) => format.Amount(minor, customer.Currency);
        var reference = customer.Code.Length > 0 ? customer.Code : customer.Name;
        return new PaperContent
        {
            Heading = "Statement",
            Number = format.Date(facts.Day),
            Sender = sender,
            Addressee = Parties.AddresseeOf(customer, business),
            CurrencyCode = customer.Currency.Code,
            Amount = Amount,
            Facts =
            [
                facts.From is { } from
                    ? ("All movement", $"{format.Date(from)} to {format.Date(facts.Day)}")
                    : ("What is open at the end of", format.Date(facts.Day)),
                ("Customer", reference),
                ("Currency", customer.Currency.Code),
            ],
            Tables =
            [
                facts.From is null ? Open(facts, format, Amount) : Movement(facts, format, Amount),
                Ages(facts, Amount),
            ],
            Totals = [],
            TransferCode = Code(facts, customer, sender, reference),
            Closing = Words(facts, customer, sender, reference, Amount),
            ShowsTax = false,
            HasLogo = business.Logo is not null,
        };
    }

    private static PaperTable Open(StatementFacts facts, DisplayFormat format, Func<long, string> amount) =>
        new(
            [
                new("What", Left),
                new("Date", 68),
                new("Due", 94),
                new("Days late", 134, Anchor.End),
                new("Amount", 162, Anchor.End),
                new("Open", Right, Anchor.End),
            ],
            [
                .. facts.Items.Select(i => new PaperRow([
                    $"{i.What} {i.Number}",
                    format.Date(i.Date),
                    i.Due is { } due ? format.Date(due) : "",
                    i.Due is { } late && late < facts.Day ? $"{facts.Day.DayNumber - late.DayNumber}" : "",
                    amount(i.Amount),
                    amount(i.Open),
                ])),
                new(["Owed in all", "", "", "", "", amount(facts.Balance)], Strong: true),
            ]
        );

    private static PaperTable Movement(StatementFacts facts, DisplayFormat format, Func<long, string> amount)
    {
        var rows = new List<PaperRow> { new(["", "Balance before", "", "", amount(facts.Opening)], Strong: true) };
        var running = facts.Opening;
        foreach (var item in facts.Items)
        {
            running += item.Amount;
            rows.Add(
                new PaperRow([
                    format.Date(item.Date),
                    $"{item.What} {item.Number}",
                    item.Amount > 0 ? amount(item.Amount) : "",
                    item.Amount < 0 ? amount(-item.Amount) : "",
                    amount(running),
                ])
            );
        }

        rows.Add(new(["", "Owed in all", "", "", amount(facts.Balance)], Strong: true));
        return new PaperTable(
            [
                new("Date", Left),
                new("What", 48),
                new("Billed", 134, Anchor.End),
                new("Paid or credited", 162, Anchor.End),
                new("Balance", Right, Anchor.End),
            ],
            rows
        );
    }

    /// <summary>How late it is, at the foot.</summary>
    private static PaperTable Ages(StatementFacts facts, Func<long, string> amount)
    {
        List<(string Head, long Amount)> ages =
        [
            ("Not yet due", facts.Aged.NotYetDue),
            .. Ageing.Heads(facts.Edges).Zip(facts.Aged.Late, (head, late) => ($"{head} days late", late)),
        ];
        if (facts.Aged.Disputed > 0)
            ages.Add(("In dispute", facts.Aged.Disputed));
        if (facts.Aged.Credit > 0)
            ages.Add(("Credit", -facts.Aged.Credit));
        var width = (Right - Left) / ages.Count;
        return new PaperTable(
            [.. ages.Select((a, i) => new PaperColumn(a.Head, Left + ((i + 1) * width), Anchor.End))],
            [new PaperRow([.. ages.Select(a => amount(a.Amount))])]
        );
    }

    private static List<string> Words(
        StatementFacts facts,
        Customer customer,
        Sender sender,
        string reference,
        Func<long, string> amount
    )
    {
        var words = new List<string>();
        if (facts.Page.Length > 0)
            words.Add($"Your account with us, at any time: {facts.Page}");
        if (facts.Balance <= 0)
        {
            words.Insert(
                0,
                facts.Balance < 0
                    ? $"You have {amount(-facts.Balance)} {customer.Currency} of credit with us."
                    : "Nothing is owed. Thank you."
            );
            return words;
        }

        var asked = new List<string>();
        if (facts.Aged.Overdue > 0)
            asked.Add($"{amount(facts.Aged.Overdue)} {customer.Currency} is past its due day.");
        if (sender.Iban.Length > 0)
            asked.Add(
                $"Please pay to {Iban.Grouped(sender.Iban)}, {sender.Name}, and name {Named(reference)} or the invoices."
            );
        return [.. asked, .. words];
    }

    /// <summary>The reference that banks carry by itself (ISO 11649), where there is one, else the plain one.</summary>
    private static string Named(string reference) =>
        StructuredReference.Of(reference) is { Length: > 0 } structured
            ? $"{StructuredReference.Grouped(structured)} ({reference})"
            : reference;

    /// <summary>For a transfer of all that is owed, in euro.</summary>
    private static string Code(StatementFacts facts, Customer customer, Sender sender, string reference) =>
        customer.Currency.Code == "EUR" && sender.Iban.Length > 0 && facts.Balance is > 0 and <= TransferCode.MostMinor
            ? TransferCode.Of(sender.Name, sender.Iban, sender.Bic, facts.Balance, reference)
            : "";
}
