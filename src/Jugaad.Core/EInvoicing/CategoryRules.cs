namespace Jugaad.Core.EInvoicing;

/// <summary>What holds for each category of tax: BR-S, -Z, -E, -AE, -IC, -G and -O.</summary>
internal static class CategoryRules
{
    /// <param name="Code">Of UNTDID 5305.</param>
    /// <param name="Mark">In the numbers of its rules.</param>
    /// <param name="Word">For people.</param>
    private sealed record Category(string Code, string Mark, string Word);

    internal static IReadOnlyList<EInvoiceRule> All { get; } =
    [
        .. Of(new("S", "S", "taxed")),
        .. Of(new("Z", "Z", "zero rated")),
        .. Of(new("E", "E", "exempt")),
        .. Of(new("AE", "AE", "under reverse charge")),
        .. Of(new("K", "IC", "supplied within the union")),
        new(
            "BR-IC-11",
            "What is supplied within the union has a day of delivery or a period.",
            i =>
                PresenceRules.Wrong(
                    HasBreakdown(i, "K") && i.Delivery.On is null && i.Period is null,
                    "BT-72",
                    "is missing, and so is a period (BG-14)"
                )
        ),
        new(
            "BR-IC-12",
            "What is supplied within the union names the country that it is delivered to.",
            i =>
                PresenceRules.Wrong(
                    HasBreakdown(i, "K") && string.IsNullOrEmpty(i.Delivery.Address?.Country),
                    "BT-80",
                    "is missing"
                )
        ),
        .. Of(new("G", "G", "exported")),
        .. Of(new("O", "O", "outside the scope of tax")),
        new(
            "BR-O-11",
            "Where something is outside the scope of tax, there is no other breakdown.",
            i =>
                PresenceRules.Wrong(
                    HasBreakdown(i, "O") && i.Taxes.Any(t => t.Category != "O"),
                    "BG-23",
                    "has another category beside O"
                )
        ),
        Alone("BR-O-12", "no line", "BT-151", i => i.Lines.Select(l => l.Tax)),
        Alone("BR-O-13", "no allowance", "BT-95", i => i.Allowances.Select(a => a.Tax)),
        Alone("BR-O-14", "no charge", "BT-102", i => i.Charges.Select(a => a.Tax)),
    ];

    private static bool HasBreakdown(EInvoice invoice, string code) => invoice.Taxes.Any(t => t.Category == code);

    private static EInvoiceRule Alone(
        string number,
        string what,
        string term,
        Func<EInvoice, IEnumerable<LineTax?>> of
    ) =>
        new(
            number,
            $"Where something is outside the scope of tax, {what} is of another category.",
            i =>
                PresenceRules.Wrong(
                    HasBreakdown(i, "O") && of(i).Any(t => t is { } tax && tax.Category != "O"),
                    term,
                    "is of another category than O"
                )
        );

    private static IEnumerable<EInvoiceRule> Of(Category category)
    {
        var (code, mark, word) = category;
        string Number(int n) => $"BR-{mark}-{n}";
        IEnumerable<LineTax?> OnLines(EInvoice i) => i.Lines.Select(l => l.Tax).Where(t => t?.Category == code);
        IEnumerable<LineTax?> Off(EInvoice i) => i.Allowances.Select(a => a.Tax).Where(t => t?.Category == code);
        IEnumerable<LineTax?> On(EInvoice i) => i.Charges.Select(a => a.Tax).Where(t => t?.Category == code);
        yield return new(
            Number(1),
            $"Where something is {word}, there is {(code == "S" ? "a" : "exactly one")} breakdown of it.",
            i =>
            {
                var count = i.Taxes.Count(t => t.Category == code);
                var used = OnLines(i).Concat(Off(i)).Concat(On(i)).Any();
                return PresenceRules.Wrong(
                    (used && count == 0) || (code != "S" && count > 1) || (!used && count > 0),
                    $"BG-23 of {code}",
                    count == 0 ? "is missing"
                        : used ? "is there more than once"
                        : "is there, and nothing is of it"
                );
            }
        );
        yield return Numbers(2, "a line", OnLines);
        yield return Numbers(3, "an allowance", Off);
        yield return Numbers(4, "a charge", On);
        yield return Rate(5, "A line", "BT-152", OnLines);
        yield return Rate(6, "An allowance", "BT-96", Off);
        yield return Rate(7, "A charge", "BT-103", On);
        yield return new(
            Number(8),
            $"What is {word} is taxed on what its lines come to, less allowances, with charges{(code == "S" ? ", at each rate" : "")}.",
            i =>
                i.Taxes.Where(t => t.Category == code && t.Taxable is not null)
                    .Select(t => (Tax: t, Should: TaxableOf(i, code, code == "S" ? t.Rate : null)))
                    .Where(t => t.Tax.Taxable != t.Should)
                    .Select(t =>
                        ($"BT-116 of {code} {t.Tax.Rate:0.##} %", $"is {t.Tax.Taxable}, and should be {t.Should}")
                    )
        );
        yield return code == "S"
            ? new(
                Number(9),
                "A tax is what it is on, at its rate.",
                i => SumRules.OffTheirRate(i, t => t.Category == code)
            )
            : new(
                Number(9),
                $"What is {word} has no tax.",
                i =>
                    i.Taxes.Where(t => t.Category == code && t.Tax is not null and not 0)
                        .Select(t => ($"BT-117 of {code}", $"is {t.Tax}, and should be nothing"))
            );
        yield return code is "S" or "Z"
            ? new(
                Number(10),
                $"What is {word} says no reason for an exemption.",
                i =>
                    i.Taxes.Where(t => t.Category == code && (t.Reason.Length > 0 || t.ReasonCode.Length > 0))
                        .Select(_ => ($"BT-120 of {code}", "is there, and nothing is exempt"))
            )
            : new(
                Number(10),
                $"What is {word} says why there is no tax.",
                i =>
                    i.Taxes.Where(t => t.Category == code && t.Reason.Length == 0 && t.ReasonCode.Length == 0)
                        .Select(_ => ($"BT-120 of {code}", "is missing, and so is its code (BT-121)"))
            );

        EInvoiceRule Numbers(int n, string what, Func<EInvoice, IEnumerable<LineTax?>> used) =>
            new(
                Number(n),
                $"Where {what} is {word}, {Asked(code)}.",
                i => used(i).Any() && Lacking(i, code) is { } lacking ? [lacking] : []
            );
        EInvoiceRule Rate(int n, string what, string term, Func<EInvoice, IEnumerable<LineTax?>> used) =>
            new(
                Number(n),
                $"{what} that is {word} has {RateWords(code)}.",
                i =>
                    PresenceRules.Wrong(
                        used(i)
                            .Any(t =>
                                code == "S" ? !(t!.Rate > 0)
                                : code == "O" ? t!.Rate is not null
                                : t!.Rate != 0
                            ),
                        $"{term} of {code}",
                        $"is not {RateWords(code)}"
                    )
            );
    }

    private static string RateWords(string code) =>
        code switch
        {
            "S" => "a rate above zero",
            "O" => "no rate",
            _ => "the rate zero",
        };

    private static string Asked(string code) =>
        code switch
        {
            "O" => "neither the seller's tax number is given nor the buyer's",
            "K" => "both tax numbers are given",
            "AE" => "the seller's tax number and the buyer's tax number or registration are given",
            _ => "the seller's tax number is given",
        };

    private static (string, string)? Lacking(EInvoice i, string code)
    {
        var ours = i.Seller.TaxId.Length > 0 || i.Representative?.TaxId.Length > 0;
        var registered = ours || i.Seller.TaxRegistration.Length > 0;
        return code switch
        {
            "O" when ours => ("BT-31", "is given, and what is billed is outside the scope of tax"),
            "O" when i.Buyer.TaxId.Length > 0 => ("BT-48", "is given, and what is billed is outside the scope of tax"),
            "O" => null,
            "G" or "K" when !ours => ("BT-31", "is missing"),
            _ when !registered => ("BT-31", "is missing, and so is BT-32"),
            "K" when i.Buyer.TaxId.Length == 0 => ("BT-48", "is missing"),
            "AE" when i.Buyer.TaxId.Length == 0 && i.Buyer.Registration is null => (
                "BT-48",
                "is missing, and so is BT-47"
            ),
            _ => null,
        };
    }

    private static decimal TaxableOf(EInvoice i, string code, decimal? rate)
    {
        bool Is(LineTax? tax) => tax?.Category == code && (rate is null || tax.Rate == rate);
        return i.Lines.Where(l => Is(l.Tax)).Sum(l => l.Net ?? 0)
            - i.Allowances.Where(a => Is(a.Tax)).Sum(a => a.Amount ?? 0)
            + i.Charges.Where(a => Is(a.Tax)).Sum(a => a.Amount ?? 0);
    }
}
