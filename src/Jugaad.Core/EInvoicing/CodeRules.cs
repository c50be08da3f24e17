using Jugaad.Core.Trade;

namespace Jugaad.Core.EInvoicing;

/// <summary>Codes are of their lists: BR-CL.</summary>
internal static class CodeRules
{
    internal static IReadOnlyList<EInvoiceRule> All { get; } =
    [
        Of("BR-CL-1", "types of documents (UNTDID 1001)", "BT-3", CodeLists.Types, i => [i.TypeCode]),
        Of("BR-CL-4", "currencies (ISO 4217)", "BT-5", CodeLists.Currencies, i => [i.Currency]),
        Of("BR-CL-5", "currencies (ISO 4217)", "BT-6", CodeLists.Currencies, i => [i.TaxCurrency]),
        Of("BR-CL-14", "countries (ISO 3166-1)", "BT-40, BT-55, BT-69 or BT-80", CodeLists.Countries, CountriesOf),
        Of("BR-CL-16", "means of payment (UNTDID 4461)", "BT-81", CodeLists.Means, i => [i.Payment?.Means]),
        Of(
            "BR-CL-17",
            "tax categories (UNTDID 5305)",
            "BT-118",
            CodeLists.Categories,
            i => i.Taxes.Select(t => t.Category)
        ),
        Of(
            "BR-CL-18",
            "tax categories (UNTDID 5305)",
            "BT-151, BT-95 or BT-102",
            CodeLists.Categories,
            i =>
                i.Lines.Select(l => l.Tax)
                    .Concat(i.Allowances.Select(a => a.Tax))
                    .Concat(i.Charges.Select(a => a.Tax))
                    .Select(t => t?.Category)
        ),
        Of(
            "BR-CL-22",
            "reasons for an exemption (VATEX)",
            "BT-121",
            CodeLists.Exemptions,
            i => i.Taxes.Select(t => t.ReasonCode)
        ),
        new(
            "BR-CL-23",
            "A unit is one of Recommendation 20 or 21.",
            i =>
                i.Lines.Index()
                    .Where(l => l.Item.Unit.Length > 0 && !CodeLists.IsUnit(l.Item.Unit))
                    .Select(l =>
                        (PresenceRules.PlaceOf("BT-130", l.Item, l.Index), $"“{l.Item.Unit}” is no unit of the list")
                    )
        ),
        Of(
            "BR-CL-24",
            "kinds of files",
            "BT-125",
            CodeLists.Kinds,
            i => i.Documents.Where(d => d.Content is not null).Select(d => d.Kind)
        ),
        Of(
            "BR-CL-25",
            "schemes of electronic addresses (EAS)",
            "BT-34 or BT-49",
            CodeLists.ElectronicSchemes,
            i => [i.Seller.Electronic?.Scheme, i.Buyer.Electronic?.Scheme]
        ),
    ];

    private static IEnumerable<string?> CountriesOf(EInvoice i) =>
        [
            i.Seller.Address?.Country,
            i.Buyer.Address?.Country,
            i.Representative?.Address?.Country,
            i.Delivery.Address?.Country,
            .. i.Lines.Select(l => l.Origin),
        ];

    private static EInvoiceRule Of(
        string number,
        string list,
        string term,
        IReadOnlySet<string> codes,
        Func<EInvoice, IEnumerable<string?>> of
    ) =>
        new(
            number,
            $"A code ({term}) is one of the list of {list}.",
            i =>
                of(i)
                    .OfType<string>()
                    .Where(c => c.Length > 0 && !codes.Contains(c))
                    .Distinct()
                    .Select(c => (term, $"“{c}” is no code of the list of {list}"))
        );
}
