namespace Jugaad.Core.EInvoicing;

/// <summary>Amounts have at most two decimals: BR-DEC-1 to BR-DEC-28. Prices and quantities may have more.</summary>
internal static class DecimalRules
{
    internal static IReadOnlyList<EInvoiceRule> All { get; } =
    [
        Of("BR-DEC-1", "BT-92", i => i.Allowances.Select(a => a.Amount)),
        Of("BR-DEC-2", "BT-93", i => i.Allowances.Select(a => a.Base)),
        Of("BR-DEC-5", "BT-99", i => i.Charges.Select(a => a.Amount)),
        Of("BR-DEC-6", "BT-100", i => i.Charges.Select(a => a.Base)),
        Of("BR-DEC-9", "BT-106", i => [i.Totals.Lines]),
        Of("BR-DEC-10", "BT-107", i => [i.Totals.Allowances]),
        Of("BR-DEC-11", "BT-108", i => [i.Totals.Charges]),
        Of("BR-DEC-12", "BT-109", i => [i.Totals.WithoutTax]),
        Of("BR-DEC-13", "BT-110", i => [i.Totals.Tax]),
        Of("BR-DEC-14", "BT-112", i => [i.Totals.WithTax]),
        Of("BR-DEC-15", "BT-111", i => [i.Totals.TaxInTaxCurrency]),
        Of("BR-DEC-16", "BT-113", i => [i.Totals.Paid]),
        Of("BR-DEC-17", "BT-114", i => [i.Totals.Rounding]),
        Of("BR-DEC-18", "BT-115", i => [i.Totals.Payable]),
        Of("BR-DEC-19", "BT-116", i => i.Taxes.Select(t => t.Taxable)),
        Of("BR-DEC-20", "BT-117", i => i.Taxes.Select(t => t.Tax)),
        Of("BR-DEC-23", "BT-131", i => i.Lines.Select(l => l.Net)),
        Of("BR-DEC-24", "BT-136", i => i.Lines.SelectMany(l => l.Allowances).Select(a => a.Amount)),
        Of("BR-DEC-25", "BT-137", i => i.Lines.SelectMany(l => l.Allowances).Select(a => a.Base)),
        Of("BR-DEC-27", "BT-141", i => i.Lines.SelectMany(l => l.Charges).Select(a => a.Amount)),
        Of("BR-DEC-28", "BT-142", i => i.Lines.SelectMany(l => l.Charges).Select(a => a.Base)),
    ];

    private static EInvoiceRule Of(string number, string term, Func<EInvoice, IEnumerable<decimal?>> amounts) =>
        new(
            number,
            $"An amount ({term}) has at most two decimals.",
            i =>
                amounts(i)
                    .OfType<decimal>()
                    .Where(a => a.Scale > 2)
                    .Select(a => (term, $"{a} has more than two decimals"))
        );
}
