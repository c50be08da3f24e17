using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.EInvoicing;

/// <summary>
/// Tells a summary by the semantic model of EN 16931-1: one line for each sale and each way in which it is taxed, at the
/// figures that the sale has. All of it is paid.
/// </summary>
public static class SummaryMaker
{
    /// <param name="documents">Those that it tells of, in their order, with their taxes.</param>
    /// <param name="preceding">For returns: the summaries in which the sales were told.</param>
    public static EInvoice Of(
        SalesSummary summary,
        IReadOnlyList<Document> documents,
        IReadOnlyList<PrecedingInvoice> preceding
    )
    {
        decimal Units(long minor) => new Money(minor, summary.Currency).Units;
        var taxes = documents
            .SelectMany(d => d.Taxes.OrderBy(t => t.Position).Select(t => (Document: d, Tax: t)))
            .GroupBy(t => EInvoiceTaxes.Of(t.Tax.Treatment))
            .ToList();
        var outside = taxes.TrueForAll(t => t.Key.Category == "O");
        var lines = new List<InvoiceLine>();
        foreach (var document in documents)
        {
            foreach (var same in document.Taxes.OrderBy(t => t.Position).GroupBy(t => EInvoiceTaxes.Of(t.Treatment)))
                lines.Add(Line(lines.Count + 1, document, same.Key, Units(same.Sum(t => t.Taxable))));
        }

        return new EInvoice
        {
            Number = summary.Number,
            Issued = summary.Date,
            TypeCode = summary.IsReturns ? "381" : "380",
            Currency = summary.Currency.Code,
            Terms = summary.IsReturns ? "Paid back" : "Paid",
            BuyerReference = summary.Addressee.Parts?.BuyerReference ?? "",
            Specification = EInvoice.CoreSpecification,
            Period = new Period(summary.From, summary.Until),
            Preceding = preceding,
            Seller = EInvoiceParties.Seller(summary.Sender, outside),
            Buyer = EInvoiceParties.Buyer(summary.Addressee, outside),
            Lines = lines,
            Taxes =
            [
                .. taxes.Select(same => new TaxBreakdown
                {
                    Taxable = Units(same.Sum(t => t.Tax.Taxable)),
                    Tax = Units(same.Sum(t => t.Tax.Tax)),
                    Category = same.Key.Category,
                    Rate = same.Key.Rate,
                    Reason = same.Key.Category is "S" or "Z"
                        ? ""
                        : ReasonOf(same.First().Document, same.First().Tax.Category.Word()),
                    ReasonCode = EInvoiceTaxes.UsualExemption(same.Key.Category),
                }),
            ],
            Totals = new DocumentTotals
            {
                Lines = lines.Sum(l => l.Net),
                WithoutTax = Units(summary.Net),
                Tax = Units(summary.Tax),
                WithTax = Units(summary.Total),
                Paid = Units(summary.Payable),
                Rounding = summary.Payable == summary.Total ? null : Units(summary.Payable - summary.Total),
                Payable = 0,
            },
        };
    }

    private static string ReasonOf(Document document, string otherwise)
    {
        var words = document.TaxWords.Replace("\n", " ", StringComparison.Ordinal).Trim();
        return words.Length > 0 ? words : otherwise;
    }

    private static InvoiceLine Line(int position, Document document, LineTax tax, decimal net) =>
        new()
        {
            Id = $"{position}",
            Name = document.Number!,
            Description = string.Create(
                System.Globalization.CultureInfo.InvariantCulture,
                $"{document.Policy.Title} of {document.Date:yyyy-MM-dd}"
            ),
            // What came off is a quantity below zero; a price never is (BR-27).
            Quantity = net < 0 ? -1 : 1,
            Unit = "C62",
            Price = Math.Abs(net),
            Net = net,
            Tax = tax,
        };
}
