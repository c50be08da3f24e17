using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Layouts.Spelling;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Layouts;

/// <summary>A line as the paper prints it; figures are written out already.</summary>
/// <param name="Running">The line amounts up to and with this one, in minor units, for carrying over.</param>
/// <param name="Role">What the line is for: words, headings and subtotals have no figures of their own.</param>
public sealed record PaperLine(
    string Text,
    string Quantity,
    string Unit,
    string Price,
    string Discount,
    string Tax,
    string Amount,
    long Running,
    LineRole Role = LineRole.Item,
    string TheirNumber = ""
);

/// <summary>A row of the totals.</summary>
public sealed record PaperTotal(string Label, string Amount, bool Strong = false);

/// <summary>A row of the tax table.</summary>
/// <param name="Home">The tax in home currency; empty where that is the paper's own.</param>
public sealed record PaperTax(string Label, string Taxable, string Tax, string Home = "");

/// <summary>All that a paper says, written out in the business's format.</summary>
public sealed record PaperContent
{
    public required string Heading { get; init; }

    public required string Number { get; init; }

    public required Sender Sender { get; init; }

    public required Addressee Addressee { get; init; }

    public required string CurrencyCode { get; init; }

    public required Func<long, string> Amount { get; init; }

    public IReadOnlyList<(string Label, string Value)> Facts { get; init; } = [];

    public IReadOnlyList<PaperLine> Lines { get; init; } = [];

    public IReadOnlyList<PaperTotal> Totals { get; init; } = [];

    public IReadOnlyList<PaperTax> Taxes { get; init; } = [];

    /// <summary>The home currency's code, where tax is charged in another; empty otherwise.</summary>
    public string HomeCode { get; init; } = "";

    /// <summary>At what rate tax stands in home currency; empty where it does not.</summary>
    public string HomeRate { get; init; } = "";

    public IReadOnlyList<string> Closing { get; init; } = [];

    public string Note { get; init; } = "";

    /// <summary>What a square code says so that a telephone can fill in the transfer; empty for none.</summary>
    public string TransferCode { get; init; } = "";

    /// <summary>Stands above the lines.</summary>
    public string Opening { get; init; } = "";

    /// <summary>Such as <c>Copy</c>; empty for none.</summary>
    public string Mark { get; init; } = "";

    public bool ShowsPrices { get; init; } = true;

    public bool HasLogo { get; init; }

    public bool IsDraft { get; init; }

    /// <summary>False where nothing is said of tax.</summary>
    public bool ShowsTax { get; init; } = true;

    public bool HasSignature { get; init; }

    /// <summary>Tables in place of lines and totals; null for a bill.</summary>
    public IReadOnlyList<PaperTable>? Tables { get; init; }

    /// <summary>The program's own words on it.</summary>
    public PaperWords Words { get; init; } = PaperWords.English;

    /// <summary>What kind of paper it is, of <see cref="PaperKinds"/>.</summary>
    public string Kind { get; init; } = nameof(DocumentKind.Invoice);

    /// <summary>Whether it is to a business, not to a person.</summary>
    public bool ToBusiness { get; init; } = true;

    /// <summary>Whether it is printed here, not mailed.</summary>
    public bool ForPrint { get; init; }

    /// <summary>What it says besides, by the names of <see cref="PaperFields"/>.</summary>
    public IReadOnlyDictionary<string, string> Values { get; init; } = new Dictionary<string, string>();

    /// <param name="document">With its lines, charges and taxes.</param>
    /// <param name="business">For the format and the logo.</param>
    /// <param name="sender">For a draft; an issued document has its own.</param>
    /// <param name="words">In the language in which it is written, with the way that this writes figures and dates.</param>
    /// <param name="theirNumbers">For a draft, by item, the numbers by which the customer knows them; an issued document
    /// has its own.</param>
    public static PaperContent Of(
        Document document,
        Business business,
        Customer customer,
        Sender sender,
        PaperWords words,
        IReadOnlyDictionary<int, string>? theirNumbers = null
    )
    {
        var format = words.FormatOf(business);
        var currency = document.Currency;
        string Amount(long minor) => format.Amount(minor, currency);
        string NumberOf(DocumentLine line) =>
            document.Facts?.Of(line.ItemId)?.BuyersNumber
            ?? (line.ItemId is { } item ? theirNumbers?.GetValueOrDefault(item) : null)
            ?? "";
        var home = business.HomeCurrency;
        var inHome = document.Policy.Posts && !currency.Equals(home) && document.Taxes.Any(t => t.Tax != 0);
        string Home(DocumentTax tax) => inHome ? format.Amount(tax.HomeTax(document, home), home) : "";
        // Each rate at which a tax is told: the document's, or those of authorities that have their own.
        var rates = document
            .Taxes.OrderBy(t => t.Position)
            .Where(t => t.Tax != 0)
            .Select(t => t.ToldRate ?? document.ExchangeRate)
            .Distinct();
        // Where anything is said of tax, what is outside of its scope is said too, so that the bases add up.
        var showsTax = document.Taxes.Any(t => t.Component.Length > 0 || t.Category != TaxCategory.OutOfScope);
        return new PaperContent
        {
            Words = words,
            Kind = $"{document.Kind}",
            ToBusiness = Parties.IsBusiness(customer),
            Values = ValuesOf(document, customer, words, format),
            Heading = words.Title(document.Kind),
            Number = document.Number ?? "",
            Sender = document.Sender ?? sender,
            Addressee = document.Addressee ?? Parties.AddresseeOf(customer, business),
            CurrencyCode = currency.Code,
            Amount = Amount,
            Facts = FactsOf(document, customer, words, format),
            Lines = LinesOf(document, words, business.Format, format, Amount, NumberOf),
            Totals = TotalsOf(document, Amount, words, format),
            Taxes = showsTax
                ?
                [
                    .. document
                        .Taxes.OrderBy(t => t.Position)
                        .Select(t => new PaperTax(
                            TaxLabel(t, words, format),
                            Amount(t.Taxable),
                            Amount(t.Tax),
                            Home(t)
                        )),
                ]
                : [],
            HomeCode = inHome ? home.Code : "",
            HomeRate = inHome ? string.Join("; ", rates.Select(r => r.Words(currency, home, format.Typed))) : "",
            Closing = ClosingOf(document, words, format).ToList(),
            Note = document.Note,
            TransferCode = Documents.TransferCode.Of(document, document.Sender ?? sender),
            Opening = document.Particulars.Opening,
            ShowsPrices = document.Policy.ShowsPrices,
            HasLogo = business.Logo is not null,
            IsDraft = document.IsDraft,
            ShowsTax = showsTax,
            HasSignature = business.Signature is not null && !document.IsDraft,
        };
    }

    /// <summary>Each by its name, for layouts that put them where they like.</summary>
    private static Dictionary<string, string> ValuesOf(
        Document document,
        Customer customer,
        PaperWords words,
        DisplayFormat format
    )
    {
        var (more, currency) = (document.Particulars, document.Currency);
        return new Dictionary<string, string>
        {
            ["CustomerCode"] = customer.Code,
            ["Kind"] = words.TitleWithin(document.Kind),
            ["Date"] = format.Date(document.Date),
            ["TaxDate"] = document.TaxDate is { } taxDate && taxDate != document.Date ? format.Date(taxDate) : "",
            ["Until"] = (document.DueDate ?? document.ValidUntil) is { } until ? format.Date(until) : "",
            ["PurchaseOrder"] = document.PurchaseOrder,
            ["Project"] = more.Project,
            ["Reference"] = more.Reference,
            ["Corrects"] = more.Corrects,
            ["Delivered"] = DeliveredOf(more, words, format),
            ["Total"] = format.WithCode(document.Payable, currency),
            ["Paid"] = document.PaidWords.Replace(" · ", "\n", StringComparison.Ordinal),
            ["Remarks"] = string.Join('\n', ClosingOf(document, words, format, paid: false)),
            ["TotalNumber"] = format.Amount(document.Payable, currency),
            ["TotalInWords"] = MoneySpelling.Of(document.Payable, currency, words.Language),
            ["WithoutTax"] = format.Amount(document.Net, currency),
            ["TotalTax"] = format.Amount(document.Tax, currency),
        };
    }

    private static string DeliveredOf(Particulars more, PaperWords words, DisplayFormat format) =>
        more.DeliveredFrom is not { } from ? ""
        : more.DeliveredUntil is { } last && last != from
            ? words.Fill(PaperWord.FromTo, format.Date(from), format.Date(last))
        : format.Date(from);

    private static List<(string, string)> FactsOf(
        Document document,
        Customer customer,
        PaperWords words,
        DisplayFormat format
    )
    {
        var facts = new List<(string, string)> { (words[PaperWord.Date], format.Date(document.Date)) };
        if (
            document.Taxes.Any(t => t.Component.Length > 0)
            && document.TaxDate is { } taxDate
            && taxDate != document.Date
        )
            facts.Add((words[PaperWord.TaxDate], format.Date(taxDate)));
        if (document.DueDate is { } due)
            facts.Add((words[PaperWord.Due], format.Date(due)));
        if (document.ValidUntil is { } until)
            facts.Add((words[PaperWord.HoldsUntil], format.Date(until)));
        facts.Add((words[PaperWord.Customer], customer.Code));
        if (document.PurchaseOrder.Length > 0)
            facts.Add((words[PaperWord.YourOrder], document.PurchaseOrder));
        var more = document.Particulars;
        if (more.Corrects.Length > 0)
            facts.Add((words[PaperWord.Corrects], more.Corrects));
        if (more.Project.Length > 0)
            facts.Add((words[PaperWord.Project], more.Project));
        if (more.Reference.Length > 0)
            facts.Add((words[PaperWord.Reference], more.Reference));
        if (more.DeliveredFrom is not null)
            facts.Add((words[PaperWord.Delivered], DeliveredOf(more, words, format)));
        return facts;
    }

    private static List<PaperLine> LinesOf(
        Document document,
        PaperWords words,
        DisplayFormat kept,
        DisplayFormat format,
        Func<long, string> amount,
        Func<DocumentLine, string> numberOf
    )
    {
        string Said(string text) => LineWords.In(words, text, kept, format);
        var running = 0L;
        var lines = new List<PaperLine>();
        var ordered = document.Lines.OrderBy(l => l.Position).ToList();
        var subtotals = Subtotals.Of(ordered);
        var section = -1;
        void EndSection()
        {
            // A subtotal that was typed at the section's end says the same.
            if (section >= 0 && lines[^1].Role != LineRole.Subtotal)
                lines.Add(
                    new PaperLine(
                        Said(ordered[section].Text),
                        "",
                        "",
                        "",
                        "",
                        "",
                        amount(subtotals[section] ?? 0),
                        running,
                        LineRole.Subtotal
                    )
                );
        }

        for (var i = 0; i < ordered.Count; i++)
        {
            var line = ordered[i];
            if (line.Role == LineRole.Section)
            {
                EndSection();
                section = i;
            }

            if (line.Counts)
                running += line.Amount;
            lines.Add(
                line.Role.HasFigures()
                    ? FiguresLine(line, Said(line.Text), running, document.Currency, words, format, amount) with
                    {
                        TheirNumber = numberOf(line),
                    }
                    : new PaperLine(
                        line.Role == LineRole.Subtotal && line.Text.Length == 0
                            ? words[PaperWord.Subtotal]
                            : Said(line.Text),
                        "",
                        "",
                        "",
                        "",
                        "",
                        line.Role == LineRole.Subtotal ? amount(subtotals[i] ?? 0) : "",
                        running,
                        line.Role
                    )
            );
        }

        // One section needs no sum of its own: the totals say the same.
        if (ordered.Count(l => l.Role == LineRole.Section) > 1)
            EndSection();
        return lines;
    }

    /// <summary>What is the customer's to choose says so, and stands in brackets where it is not chosen.</summary>
    private static PaperLine FiguresLine(
        DocumentLine line,
        string text,
        long running,
        Currency currency,
        PaperWords words,
        DisplayFormat format,
        Func<long, string> amount
    )
    {
        var kind = words[line.Choice == LineChoice.Optional ? PaperWord.IfYouWish : PaperWord.EitherThis];
        var choice =
            line.Choice == LineChoice.Firm ? "" : $"{(line.Chosen ? words.Fill(PaperWord.ChosenToo, kind) : kind)}: ";
        return new PaperLine(
            choice + text,
            format.Figure(line.Quantity),
            words.Unit(line.Unit),
            format.Price(line.UnitPrice, currency),
            DiscountWords(line, format, amount),
            RateText(line.Treatment, format),
            line.Counts ? amount(line.Amount) : $"({amount(line.Amount)})",
            running,
            line.Role
        );
    }

    /// <summary>
    /// What a line is reduced by, in the unit in which that was given: percentages as such, also where they were the
    /// document's, else money.
    /// </summary>
    private static string DiscountWords(DocumentLine line, DisplayFormat format, Func<long, string> amount)
    {
        var percents = new[] { line.DiscountPercent, line.FoldedPercent }
            .Where(p => p is > 0)
            .Select(p => p!.Value)
            .ToList();
        var after = percents.Aggregate(line.Extension, (left, percent) => left - Rounding.Percent(left, percent));
        var money = after - line.Amount;
        // A part may differ by a cent from its price, so that all parts add up; that is no discount.
        var rounds = line.Share is not null && Math.Abs(money) <= percents.Count + 1;
        return string.Join(" + ", percents.Select(format.Percent).Concat(money == 0 || rounds ? [] : [amount(money)]));
    }

    private static List<PaperTotal> TotalsOf(
        Document document,
        Func<long, string> amount,
        PaperWords words,
        DisplayFormat format
    )
    {
        var totals = new List<PaperTotal>();
        if (document.Discount != 0 || document.Charges.Count > 0)
            totals.Add(new PaperTotal(words[PaperWord.Subtotal], amount(document.Subtotal)));
        if (document.Discount != 0)
        {
            var percent = document.DiscountPercent is { } p ? $" {format.Percent(p)}" : "";
            totals.Add(new PaperTotal($"{words[PaperWord.Discount]}{percent}", amount(-document.Discount)));
        }

        totals.AddRange(
            document.Charges.OrderBy(c => c.Position).Select(c => new PaperTotal(c.Text, amount(c.Amount)))
        );
        var tax = document.Taxes.Any(t => t.Percent != 0);
        if (tax && !document.PricesIncludeTax)
        {
            totals.Add(new PaperTotal(words[PaperWord.WithoutTax], amount(document.Net)));
            totals.Add(new PaperTotal(words[PaperWord.Tax], amount(document.Tax)));
        }

        if (document.Payable != document.Total)
            totals.Add(new PaperTotal(words[PaperWord.Rounding], amount(document.Payable - document.Total)));
        var what = words[document.Policy.HasDueDay ? PaperWord.ToPay : PaperWord.Total];
        totals.Add(new PaperTotal($"{what} {document.Currency.Code}", amount(document.Payable), true));
        if (tax && document.PricesIncludeTax)
            totals.Add(new PaperTotal(words[PaperWord.TaxWithin], amount(document.Tax)));
        return totals;
    }

    private static IEnumerable<string> ClosingOf(
        Document document,
        PaperWords words,
        DisplayFormat format,
        bool paid = true
    )
    {
        foreach (var reason in document.TaxWords.Split('\n', StringSplitOptions.RemoveEmptyEntries))
            yield return reason;
        var more = document.Particulars;
        if (more.Reason.Length > 0)
            yield return more.Corrects.Length > 0
                ? words.Fill(PaperWord.GivenOn, more.Corrects, more.Reason)
                : more.Reason;
        if (more.Carrier.Length > 0)
            yield return words.Fill(PaperWord.CarriedBy, more.Carrier);
        if (more.DeliveryTerms.Length > 0)
            yield return words.Fill(PaperWord.DeliveryTerms, more.DeliveryTerms);
        if (paid && document.PaidWords.Length > 0)
            yield return words.Fill(PaperWord.Paid, document.PaidWords);
        if (document.Place is { } place)
            yield return words.Fill(
                document.PlaceId == 0 ? PaperWord.HandedOverAt : PaperWord.DeliveredTo,
                string.Join(", ", place.Lines(""))
            );
        if (document.Policy.HasValidity && document.ValidUntil is { } until)
            yield return words.Fill(PaperWord.OfferHolds, format.Date(until));
        if (document.Policy.HasValidity && DepositAsked.TotalOf(document) is { } deposit)
            yield return words.Fill(
                PaperWord.DepositAsked,
                $"{format.WithCode(deposit, document.Currency)}{(document.Particulars.DepositPercent is { } share ? $" ({format.Percent(share)})" : "")}"
            );
        if (document.DueDate is { } due && document.PaidWords.Length == 0)
            yield return words.Fill(
                PaperWord.PleasePay,
                $"{format.Date(due)}{(document is { DueByHand: false, TermsText.Length: > 0 } ? $" ({document.TermsText})" : "")}",
                Stating(document, words)
            );
        if (document.EarlyUntil is { } early)
            yield return words.Fill(PaperWord.EarlyLess, format.Percent(document.EarlyPercent), format.Date(early));
    }

    /// <summary>What is to be stated with the payment.</summary>
    private static string Stating(Document document, PaperWords words) =>
        document.Number is not { } number ? "…"
        : StructuredReference.Of(number) is { Length: > 0 } reference
            ? words.Fill(PaperWord.ByReference, number, StructuredReference.Grouped(reference).Replace(' ', '\u00a0'))
        : words.Fill(PaperWord.ByNumber, number);

    private static string TaxLabel(DocumentTax tax, PaperWords words, DisplayFormat format) =>
        tax.Component.Length > 0 && tax.Category == TaxCategory.Standard
            ? $"{tax.Component} {format.Percent(tax.Percent)}"
        : tax.Component.Length > 0 ? $"{tax.Component} {format.Percent(tax.Percent)}, {words.Category(tax.Category)}"
        : words.Fill(PaperWord.NoTax, words.Category(tax.Category));

    private static string RateText(string treatment, DisplayFormat format)
    {
        var parts = Treatment.Parse(treatment).Parts;
        return parts.Count == 0 ? "–" : string.Join(" + ", parts.Select(p => format.Percent(p.Percent)));
    }
}
