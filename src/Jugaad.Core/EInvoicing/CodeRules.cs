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
        Formed(
            "BR-CL-10",
            "schemes of identifiers (ISO 6523)",
            "BT-29 or BT-46",
            CodeLists.IsIdentifierScheme,
            i => i.Seller.Ids.Concat(i.Buyer.Ids)
        ),
        Formed(
            "BR-CL-11",
            "schemes of registrations (ISO 6523)",
            "BT-30 or BT-47",
            CodeLists.IsIdentifierScheme,
            i => [i.Seller.Registration, i.Buyer.Registration]
        ),
        Formed(
            "BR-CL-13",
            "lists of classifications (UNTDID 7143)",
            "BT-158",
            CodeLists.IsClassificationList,
            i => i.Lines.SelectMany(l => l.Classes)
        ),
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
        Formed(
            "BR-CL-21",
            "schemes of standard numbers (ISO 6523)",
            "BT-157",
            CodeLists.IsIdentifierScheme,
            i => i.Lines.Select(l => l.StandardId)
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

    /// <summary>A scheme that is named has the form of its list's codes.</summary>
    private static EInvoiceRule Formed(
        string number,
        string list,
        string term,
        Func<string, bool> isOne,
        Func<EInvoice, IEnumerable<Identifier?>> of
    ) =>
        new(
            number,
            $"A scheme ({term}) is one of the {list}.",
            i =>
                of(i)
                    .Select(id => id?.Scheme ?? "")
                    .Where(s => s.Length > 0 && !isOne(s))
                    .Distinct()
                    .Select(s => (term, $"“{s}” is none of the {list}"))
        );

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
