using CsCheck;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Tests;

/// <summary>Random documents and accounts that could be real.</summary>
internal static class Generators
{
    internal static readonly Currency Eur = Currency.Of("EUR");

    internal static readonly Gen<Currency> Currencies = Gen.OneOf("EUR", "JPY", "KWD", "UYW", "USD")
        .Select(c => Currency.Of(c));

    private static readonly Gen<Treatment> Treatments =
        from category in Gen.OneOf(TaxCategory.Standard, TaxCategory.Zero, TaxCategory.Exempt)
        from parts in (
            from percent in Gen.Int[0, 300_000]
            from compound in Gen.Bool
            select (Percent: percent / 10_000m, Compound: compound)
        ).Array[0, 3]
        select new Treatment(
            category,
            parts
                .Select(
                    (p, i) =>
                        new TreatmentPart(
                            i + 1,
                            $"T{i}",
                            category == TaxCategory.Standard ? p.Percent : 0,
                            p.Compound && i > 0
                        )
                )
                .ToList()
        );

    private static readonly Gen<decimal?> Percents = Gen.Int[0, 1_000_000].Select(p => (decimal?)(p / 10_000m));

    /// <param name="negative">Whether some lines are returns.</param>
    internal static Gen<DocumentFigures> Documents(bool negative) =>
        from currency in Currencies
        from treatments in Treatments.Array[1, 3]
        from lines in (
            from quantity in Gen.Long[1, 50_000_000]
            from price in Gen.Long[0, 900_000_000]
            from sign in Gen.Int[0, 5]
            from tax in Gen.Int[0, 2]
            from discount in Gen.Frequency((2, Gen.Const((decimal?)null)), (1, Percents))
            select new LineFigures(
                (negative && sign == 0 ? -1 : 1) * quantity / 1_000_000m,
                price / 1_000_000m,
                treatments[tax % treatments.Length],
                discount
            )
        ).List[1, 8]
        from charges in (
            from amount in Gen.Long[0, 100_000]
            from tax in Gen.Int[0, 2]
            select new ChargeFigures(amount, treatments[tax % treatments.Length])
        ).List[0, 2]
        from discount in Gen.Frequency((2, Gen.Const((decimal?)null)), (1, Percents))
        from inclusive in Gen.Bool
        from rounding in Gen.OneOf(TaxRounding.Document, TaxRounding.Line)
        select new DocumentFigures(currency, lines)
        {
            Charges = charges,
            DiscountPercent = negative ? null : discount,
            PricesIncludeTax = inclusive,
            TaxRounding = rounding,
        };

    internal static AccountItem Item(
        AccountItemKind kind,
        int number,
        DateOnly date,
        int term,
        long amount,
        decimal rate = 1,
        Currency? currency = null
    ) => new(kind, 1, $"{kind}-{number:0000}", date, date.AddDays(term), currency ?? Eur, amount, rate, Eur);
}
