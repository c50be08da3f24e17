using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
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
    LineRole Role = LineRole.Item
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

    /// <summary>Whether it is a letter: its heading is what it is about, and may take several lines.</summary>
    public bool IsLetter { get; init; }

    /// <param name="document">With its lines, charges and taxes.</param>
    /// <param name="business">For the format and the logo.</param>
    /// <param name="sender">For a draft; an issued document has its own.</param>
    public static PaperContent Of(Document document, Business business, Customer customer, Sender sender)
    {
        var format = business.Format;
        var currency = document.Currency;
        string Amount(long minor) => format.Amount(minor, currency);
        var home = business.HomeCurrency;
        var inHome = document.Policy.Posts && !currency.Equals(home) && document.Taxes.Any(t => t.Tax != 0);
        string Home(long tax) =>
            inHome ? format.Amount(HomeAmount.Of(tax, currency, document.ExchangeRate, home), home) : "";
        // Where anything is said of tax, what is outside of its scope is said too, so that the bases add up.
        var showsTax = document.Taxes.Any(t => t.Component.Length > 0 || t.Category != TaxCategory.OutOfScope);
        return new PaperContent
        {
            Heading = document.Policy.Title,
            Number = document.Number ?? "",
            Sender = document.Sender ?? sender,
            Addressee = document.Addressee ?? Parties.AddresseeOf(customer, business),
            CurrencyCode = currency.Code,
            Amount = Amount,
            Facts = FactsOf(document, customer, format),
            Lines = LinesOf(document, format, Amount),
            Totals = TotalsOf(document, Amount, format),
            Taxes = showsTax
                ?
                [
                    .. document
                        .Taxes.OrderBy(t => t.Position)
                        .Select(t => new PaperTax(TaxLabel(t, format), Amount(t.Taxable), Amount(t.Tax), Home(t.Tax))),
                ]
                : [],
            HomeCode = inHome ? home.Code : "",
            HomeRate = inHome ? $"1 {currency} = {format.Typed(document.ExchangeRate)} {home}" : "",
            Closing = ClosingOf(document, format).ToList(),
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

    private static List<(string, string)> FactsOf(Document document, Customer customer, DisplayFormat format)
    {
        var facts = new List<(string, string)> { ("Date", format.Date(document.Date)) };
        if (
            document.Taxes.Any(t => t.Component.Length > 0)
            && document.TaxDate is { } taxDate
            && taxDate != document.Date
        )
            facts.Add(("Tax date", format.Date(taxDate)));
        if (document.DueDate is { } due)
            facts.Add(("Due", format.Date(due)));
        if (document.ValidUntil is { } until)
            facts.Add(("Holds until", format.Date(until)));
        facts.Add(("Customer", customer.Code));
        if (document.PurchaseOrder.Length > 0)
            facts.Add(("Your order", document.PurchaseOrder));
        var more = document.Particulars;
        if (more.Corrects.Length > 0)
            facts.Add(("Corrects", more.Corrects));
        if (more.Project.Length > 0)
            facts.Add(("Project", more.Project));
        if (more.Reference.Length > 0)
            facts.Add(("Reference", more.Reference));
        if (more.DeliveredFrom is { } from)
            facts.Add(
                (
                    "Delivered",
                    more.DeliveredUntil is { } last && last != from
                        ? $"{format.Date(from)} to {format.Date(last)}"
                        : format.Date(from)
                )
            );
        return facts;
    }

    private static List<PaperLine> LinesOf(Document document, DisplayFormat format, Func<long, string> amount)
    {
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
                        ordered[section].Text,
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
                    ? FiguresLine(line, running, document.Currency, format, amount)
                    : new PaperLine(
                        line.Role == LineRole.Subtotal && line.Text.Length == 0 ? "Subtotal" : line.Text,
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
        long running,
        Currency currency,
        DisplayFormat format,
        Func<long, string> amount
    )
    {
        var choice =
            line.Choice == LineChoice.Firm
                ? ""
                : $"{(line.Choice == LineChoice.Optional ? "If you wish" : "Either this")}{(line.Chosen ? ", chosen" : "")}: ";
        return new PaperLine(
            choice + line.Text,
            format.Figure(line.Quantity),
            Units.Short(line.Unit),
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

    private static List<PaperTotal> TotalsOf(Document document, Func<long, string> amount, DisplayFormat format)
    {
        var totals = new List<PaperTotal>();
        if (document.Discount != 0 || document.Charges.Count > 0)
            totals.Add(new PaperTotal("Subtotal", amount(document.Subtotal)));
        if (document.Discount != 0)
        {
            var percent = document.DiscountPercent is { } p ? $" {format.Percent(p)}" : "";
            totals.Add(new PaperTotal($"Discount{percent}", amount(-document.Discount)));
        }

        totals.AddRange(
            document.Charges.OrderBy(c => c.Position).Select(c => new PaperTotal(c.Text, amount(c.Amount)))
        );
        var tax = document.Taxes.Any(t => t.Percent != 0);
        if (tax && !document.PricesIncludeTax)
        {
            totals.Add(new PaperTotal("Without tax", amount(document.Net)));
            totals.Add(new PaperTotal("Tax", amount(document.Tax)));
        }

        if (document.Payable != document.Total)
            totals.Add(new PaperTotal("Rounding", amount(document.Payable - document.Total)));
        var what = document.Policy.HasDueDay ? "To pay" : "Total";
        totals.Add(new PaperTotal($"{what} {document.Currency.Code}", amount(document.Payable), true));
        if (tax && document.PricesIncludeTax)
            totals.Add(new PaperTotal("Tax within", amount(document.Tax)));
        return totals;
    }

    private static IEnumerable<string> ClosingOf(Document document, DisplayFormat format)
    {
        foreach (var words in document.TaxWords.Split('\n', StringSplitOptions.RemoveEmptyEntries))
            yield return words;
        var more = document.Particulars;
        if (more.Reason.Length > 0)
            yield return more.Corrects.Length > 0 ? $"Given on {more.Corrects}: {more.Reason}" : more.Reason;
        if (more.Carrier.Length > 0)
            yield return $"Carried by {more.Carrier}.";
        if (more.DeliveryTerms.Length > 0)
            yield return $"Delivery terms: {more.DeliveryTerms}";
        if (document.PaidWords.Length > 0)
            yield return $"Paid: {document.PaidWords}.";
        if (document.Place is { } place)
            yield return $"{(document.PlaceId == 0 ? "Handed over at" : "Delivered to")} {string.Join(", ", place.Lines(""))}.";
        if (document.Policy.HasValidity && document.ValidUntil is { } until)
            yield return $"This offer holds until {format.Date(until)}.";
        if (document.Policy.HasValidity && DepositAsked.TotalOf(document) is { } deposit)
            yield return $"Once it is accepted, a deposit of {format.WithCode(deposit, document.Currency)}{(document.Particulars.DepositPercent is { } share ? $" ({format.Percent(share)})" : "")} is to be paid; it is taken off later bills.";
        if (document.DueDate is { } due && document.PaidWords.Length == 0)
            yield return $"Please pay by {format.Date(due)}{(document is { DueByHand: false, TermsText.Length: > 0 } ? $" ({document.TermsText})" : "")}, stating {document.Number ?? "the number"}{ReferenceText(document)}.";
        if (document.EarlyUntil is { } early)
            yield return $"{format.Percent(document.EarlyPercent)} less if paid by {format.Date(early)}.";
    }

    private static string ReferenceText(Document document) =>
        document.Number is { } number && StructuredReference.Of(number) is { Length: > 0 } reference
            ? $" or the reference {StructuredReference.Grouped(reference).Replace(' ', '\u00a0')}"
            : "";

    private static string TaxLabel(DocumentTax tax, DisplayFormat format) =>
        tax.Component.Length > 0 && tax.Category == TaxCategory.Standard
            ? $"{tax.Component} {format.Percent(tax.Percent)}"
        : tax.Component.Length > 0 ? $"{tax.Component} {format.Percent(tax.Percent)}, {tax.Category.Word()}"
        : $"No tax, {tax.Category.Word()}";

    private static string RateText(string treatment, DisplayFormat format)
    {
        var parts = Treatment.Parse(treatment).Parts;
        return parts.Count == 0 ? "–" : string.Join(" + ", parts.Select(p => format.Percent(p.Percent)));
    }
}
