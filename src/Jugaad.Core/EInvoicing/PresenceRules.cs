using Jugaad.Core.Trade;

namespace Jugaad.Core.EInvoicing;

/// <summary>What has to be there: BR-1 to BR-65, and those of BR-CO that ask for something.</summary>
internal static class PresenceRules
{
    /// <summary>As the standard's own checkers count it.</summary>
    private const int MostOfCard = 10;

    internal static IReadOnlyList<EInvoiceRule> All { get; } =
    [
        Whole("BR-1", "An invoice names its specification.", "BT-24", i => i.Specification),
        Whole("BR-2", "An invoice has a number.", "BT-1", i => i.Number),
        Whole("BR-3", "An invoice has the day of its issue.", "BT-2", i => i.Issued),
        Whole("BR-4", "An invoice has a type.", "BT-3", i => i.TypeCode),
        Whole("BR-5", "An invoice has a currency.", "BT-5", i => i.Currency),
        Whole("BR-6", "An invoice has the seller's name.", "BT-27", i => i.Seller.Name),
        Whole("BR-7", "An invoice has the buyer's name.", "BT-44", i => i.Buyer.Name),
        Whole("BR-8", "An invoice has the seller's postal address.", "BG-5", i => i.Seller.Address),
        Whole("BR-9", "The seller's address has its country.", "BT-40", i => i.Seller.Address?.Country),
        Whole("BR-10", "An invoice has the buyer's postal address.", "BG-8", i => i.Buyer.Address),
        Whole("BR-11", "The buyer's address has its country.", "BT-55", i => i.Buyer.Address?.Country),
        Whole("BR-12", "An invoice has the sum of its lines.", "BT-106", i => i.Totals.Lines),
        Whole("BR-13", "An invoice has its total without tax.", "BT-109", i => i.Totals.WithoutTax),
        Whole("BR-14", "An invoice has its total with tax.", "BT-112", i => i.Totals.WithTax),
        Whole("BR-15", "An invoice has what is to be paid.", "BT-115", i => i.Totals.Payable),
        new("BR-16", "An invoice has a line.", i => Missing(i.Lines.Count == 0, "BG-25")),
        If("BR-17", "Another payee than the seller has a name.", "BT-59", i => i.Payee, p => p.Name),
        If("BR-18", "A tax representative has a name.", "BT-62", i => i.Representative, r => r.Name),
        If("BR-19", "A tax representative has a postal address.", "BG-12", i => i.Representative, r => r.Address),
        If(
            "BR-20",
            "A tax representative's address has its country.",
            "BT-69",
            i => i.Representative,
            r => r.Address?.Country
        ),
        Line("BR-21", "A line has its identifier.", "BT-126", l => l.Id),
        Line("BR-22", "A line has a quantity.", "BT-129", l => l.Quantity),
        Line("BR-23", "A line has a unit.", "BT-130", l => l.Unit),
        Line("BR-24", "A line has a net amount.", "BT-131", l => l.Net),
        Line("BR-25", "A line names its item.", "BT-153", l => l.Name),
        Line("BR-26", "A line has a net price.", "BT-146", l => l.Price),
        Lines("BR-27", "A net price is not below zero.", "BT-146", l => l.Price < 0, "is below zero"),
        Lines("BR-28", "A gross price is not below zero.", "BT-148", l => l.GrossPrice < 0, "is below zero"),
        new(
            "BR-29",
            "A period does not end before it begins.",
            i =>
                Wrong(
                    i.Period is { From: { } from, Until: { } until } && until < from,
                    "BT-74",
                    "is before the period begins"
                )
        ),
        Lines(
            "BR-30",
            "A line's period does not end before it begins.",
            "BT-135",
            l => l.Period is { From: { } from, Until: { } until } && until < from,
            "is before the period begins"
        ),
        Each("BR-31", "An allowance has an amount.", "BT-92", i => i.Allowances, a => a.Amount is null),
        Each(
            "BR-32",
            "An allowance has a tax category.",
            "BT-95",
            i => i.Allowances,
            a => string.IsNullOrEmpty(a.Tax?.Category)
        ),
        Each("BR-33", "An allowance says why it is given.", "BT-97", i => i.Allowances, Unexplained),
        Each("BR-36", "A charge has an amount.", "BT-99", i => i.Charges, a => a.Amount is null),
        Each(
            "BR-37",
            "A charge has a tax category.",
            "BT-102",
            i => i.Charges,
            a => string.IsNullOrEmpty(a.Tax?.Category)
        ),
        Each("BR-38", "A charge says what it is for.", "BT-104", i => i.Charges, Unexplained),
        Lines(
            "BR-41",
            "A line's allowance has an amount.",
            "BT-136",
            l => l.Allowances.Any(a => a.Amount is null),
            "is missing"
        ),
        Lines(
            "BR-42",
            "A line's allowance says why it is given.",
            "BT-139",
            l => l.Allowances.Any(Unexplained),
            "is missing"
        ),
        Lines(
            "BR-43",
            "A line's charge has an amount.",
            "BT-141",
            l => l.Charges.Any(a => a.Amount is null),
            "is missing"
        ),
        Lines("BR-44", "A line's charge says what it is for.", "BT-144", l => l.Charges.Any(Unexplained), "is missing"),
        Each("BR-45", "A tax has what it is on.", "BT-116", i => i.Taxes, t => t.Taxable is null),
        Each("BR-46", "A tax has its amount.", "BT-117", i => i.Taxes, t => t.Tax is null),
        Each("BR-47", "A tax has a category.", "BT-118", i => i.Taxes, t => t.Category.Length == 0),
        Each(
            "BR-48",
            "A tax has a rate, unless it is outside the scope.",
            "BT-119",
            i => i.Taxes,
            t => t.Rate is null && t.Category != "O"
        ),
        If("BR-49", "How to pay has a code.", "BT-81", i => i.Payment, p => p.Means),
        new(
            "BR-50",
            "An account to pay to has its number.",
            i => Wrong(i.Payment?.Transfers.Any(t => t.Account.Length == 0) == true, "BT-84", "is missing")
        ),
        new(
            "BR-51",
            "Of the number of a card no more than the last digits are told.",
            i => Wrong(i.Payment?.Card is { Number.Length: > MostOfCard }, "BT-87", "tells more than its last digits")
        ),
        Each(
            "BR-52",
            "A supporting document has its reference.",
            "BT-122",
            i => i.Documents,
            d => d.Reference.Length == 0
        ),
        new(
            "BR-53",
            "Where tax is told in another currency, its total is given in it.",
            i =>
                Wrong(
                    i.TaxCurrency.Length > 0 && i.Totals.TaxInTaxCurrency is null,
                    "BT-111",
                    $"is missing, and tax is told in {i.TaxCurrency} (BT-6)"
                )
        ),
        Each(
            "BR-54",
            "An attribute of an item has its name and its value.",
            "BG-32",
            i => i.Lines.SelectMany(l => l.Traits).ToList(),
            a => a.Name.Length == 0 || a.Value.Length == 0
        ),
        Each("BR-55", "A preceding invoice has its number.", "BT-25", i => i.Preceding, p => p.Number.Length == 0),
        If("BR-56", "A tax representative has a tax number.", "BT-63", i => i.Representative, r => r.TaxId),
        If("BR-57", "Where it is delivered to has its country.", "BT-80", i => i.Delivery.Address, a => a.Country),
        new(
            "BR-61",
            "Where it is paid by transfer there is an account to pay to.",
            i =>
                Wrong(
                    i.Payment is { Means: "30" or "58", Transfers.Count: 0 },
                    "BT-84",
                    "is missing, and it is to be paid by transfer (BT-81)"
                )
        ),
        Scheme("BR-62", "The seller's electronic address has a scheme.", "BT-34", i => [i.Seller.Electronic]),
        Scheme("BR-63", "The buyer's electronic address has a scheme.", "BT-49", i => [i.Buyer.Electronic]),
        Scheme("BR-64", "An item's standard number has a scheme.", "BT-157", i => i.Lines.Select(l => l.StandardId)),
        Scheme("BR-65", "An item's class has its list.", "BT-158", i => i.Lines.SelectMany(l => l.Classes)),
        new(
            "BR-CO-3",
            "The day of the tax point and its code exclude each other.",
            i => Wrong(i.TaxPoint is not null && i.TaxPointCode.Length > 0, "BT-7", "is given together with BT-8")
        ),
        Lines(
            "BR-CO-4",
            "A line has a tax category.",
            "BT-151",
            l => string.IsNullOrEmpty(l.Tax?.Category),
            "is missing"
        ),
        new(
            "BR-CO-9",
            "A tax number begins with the country that gave it.",
            i =>
                new[] { ("BT-31", i.Seller.TaxId), ("BT-48", i.Buyer.TaxId), ("BT-63", i.Representative?.TaxId ?? "") }
                    .Where(n => n.Item2.Length > 0 && !HasPrefix(n.Item2))
                    .Select(n => (n.Item1, $"“{n.Item2}” begins with no country"))
        ),
        new("BR-CO-18", "An invoice has a tax breakdown.", i => Missing(i.Taxes.Count == 0, "BG-23")),
        new(
            "BR-CO-19",
            "A period has its first day, its last, or both.",
            i => Wrong(i.Period is { From: null, Until: null }, "BG-14", "has no day")
        ),
        Lines(
            "BR-CO-20",
            "A line's period has its first day, its last, or both.",
            "BG-26",
            l => l.Period is { From: null, Until: null },
            "has no day"
        ),
        new(
            "BR-CO-25",
            "What is still to be paid has a due day or terms.",
            i =>
                Wrong(
                    i.Totals.Payable > 0 && i.Due is null && i.Terms.Length == 0,
                    "BT-9",
                    "is missing, and so are the terms (BT-20), and something is to be paid"
                )
        ),
        new(
            "BR-CO-26",
            "The seller has an identifier, a registration or a tax number.",
            i =>
                Missing(
                    i.Seller.Ids.Count == 0 && i.Seller.Registration is null && i.Seller.TaxId.Length == 0,
                    "BT-29, BT-30 or BT-31"
                )
        ),
    ];

    private static bool Unexplained(Adjustment a) => a.Reason.Length == 0 && a.ReasonCode.Length == 0;

    private static bool HasPrefix(string number) =>
        number.Length > 2 && (number[..2] == "EL" || CodeLists.Countries.Contains(number[..2]));

    private static IEnumerable<(string, string)> Missing(bool missing, string place) =>
        Wrong(missing, place, "is missing");

    internal static IEnumerable<(string, string)> Wrong(bool wrong, string place, string problem) =>
        wrong ? [(place, problem)] : [];

    private static bool IsEmpty(object? value) => value is null or "";

    private static EInvoiceRule Whole(string number, string words, string term, Func<EInvoice, object?> of) =>
        new(number, words, i => Missing(IsEmpty(of(i)), term));

    private static EInvoiceRule If<T>(
        string number,
        string words,
        string term,
        Func<EInvoice, T?> group,
        Func<T, object?> of
    )
        where T : class => new(number, words, i => Missing(group(i) is { } there && IsEmpty(of(there)), term));

    private static EInvoiceRule Line(string number, string words, string term, Func<InvoiceLine, object?> of) =>
        Lines(number, words, term, l => IsEmpty(of(l)), "is missing");

    private static EInvoiceRule Lines(
        string number,
        string words,
        string term,
        Func<InvoiceLine, bool> wrong,
        string problem
    ) =>
        new(
            number,
            words,
            i => i.Lines.Index().Where(l => wrong(l.Item)).Select(l => (PlaceOf(term, l.Item, l.Index), problem))
        );

    internal static string PlaceOf(string term, InvoiceLine line, int index) =>
        $"{term} of line {(line.Id.Length > 0 ? line.Id : $"{index + 1}")}";

    private static EInvoiceRule Each<T>(
        string number,
        string words,
        string term,
        Func<EInvoice, IReadOnlyList<T>> group,
        Func<T, bool> wrong
    ) =>
        new(
            number,
            words,
            i => group(i).Index().Where(g => wrong(g.Item)).Select(g => ($"{term}, number {g.Index + 1}", "is missing"))
        );

    private static EInvoiceRule Scheme(
        string number,
        string words,
        string term,
        Func<EInvoice, IEnumerable<Identifier?>> of
    ) =>
        new(
            number,
            words,
            i => of(i).Where(n => n is { Scheme: "" }).Select(n => (term, $"“{n!.Value}” has no scheme"))
        );
}
