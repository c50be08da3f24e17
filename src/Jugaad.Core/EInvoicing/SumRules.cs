namespace Jugaad.Core.EInvoicing;

/// <summary>What has to add up, to the cent: BR-CO-10 to BR-CO-17.</summary>
internal static class SumRules
{
    /// <summary>
    /// The least that its currency has: a tax may differ from its rate by that for rounding it, and by half of it for each
    /// line that was rounded by itself.
    /// </summary>
    private static decimal Least(EInvoice invoice) =>
        Amounts.Currency.TryOf(invoice.Currency, out var known) && known.MinorPerUnit == 1 ? 1 : 0.01m;

    internal static IReadOnlyList<EInvoiceRule> All { get; } =
    [
        Sum(
            "BR-CO-10",
            "The sum of the lines is what the lines add up to.",
            "BT-106",
            i => i.Totals.Lines,
            i => i.Lines.Sum(l => l.Net ?? 0)
        ),
        Sum(
            "BR-CO-11",
            "The sum of allowances is what they add up to.",
            "BT-107",
            i => i.Totals.Allowances ?? 0,
            i => i.Allowances.Sum(a => a.Amount ?? 0)
        ),
        Sum(
            "BR-CO-12",
            "The sum of charges is what they add up to.",
            "BT-108",
            i => i.Totals.Charges ?? 0,
            i => i.Charges.Sum(a => a.Amount ?? 0)
        ),
        Sum(
            "BR-CO-13",
            "The total without tax is that of the lines, less allowances, with charges.",
            "BT-109",
            i => i.Totals.WithoutTax,
            i => (i.Totals.Lines ?? 0) - (i.Totals.Allowances ?? 0) + (i.Totals.Charges ?? 0)
        ),
        Sum(
            "BR-CO-14",
            "The total of tax is what the taxes add up to.",
            "BT-110",
            i => i.Totals.Tax ?? 0,
            i => i.Taxes.Sum(t => t.Tax ?? 0)
        ),
        Sum(
            "BR-CO-15",
            "The total with tax is the one without it, and the tax.",
            "BT-112",
            i => i.Totals.WithTax,
            i => (i.Totals.WithoutTax ?? 0) + (i.Totals.Tax ?? 0)
        ),
        Sum(
            "BR-CO-16",
            "What is to be paid is the total with tax, less what was paid, with what rounding adds.",
            "BT-115",
            i => i.Totals.Payable,
            i => (i.Totals.WithTax ?? 0) - (i.Totals.Paid ?? 0) + (i.Totals.Rounding ?? 0)
        ),
        new("BR-CO-17", "A tax is what it is on, at its rate.", i => OffTheirRate(i, _ => true)),
    ];

    /// <summary>Taxes that are further off their rate than rounding takes them.</summary>
    internal static IEnumerable<(string, string)> OffTheirRate(EInvoice invoice, Func<TaxBreakdown, bool> which) =>
        invoice
            .Taxes.Where(t => which(t) && t is { Taxable: not null, Tax: not null })
            .Select(t => (Tax: t, Should: t.Taxable!.Value * (t.Rate ?? 0) / 100))
            .Where(t =>
                Math.Abs(t.Tax.Tax!.Value - t.Should) > Least(invoice) + (Least(invoice) / 2 * PartsOf(invoice, t.Tax))
            )
            .Select(t =>
                (
                    $"BT-117 of {t.Tax.Category} {t.Tax.Rate:0.##} %",
                    $"is {t.Tax.Tax}, and {t.Tax.Rate ?? 0:0.####} % of {t.Tax.Taxable} are {Math.Round(t.Should, 2, MidpointRounding.AwayFromZero)}"
                )
            );

    private static int PartsOf(EInvoice invoice, TaxBreakdown tax) =>
        invoice.Lines.Count(l => l.Tax?.Category == tax.Category && (l.Tax.Rate ?? 0) == (tax.Rate ?? 0));

    private static EInvoiceRule Sum(
        string number,
        string words,
        string term,
        Func<EInvoice, decimal?> has,
        Func<EInvoice, decimal> should
    ) =>
        new(
            number,
            words,
            i =>
                has(i) is { } there && there != should(i)
                    ? [(term, $"is {there:0.00##}, and should be {should(i):0.00##}")]
                    : []
        );
}
