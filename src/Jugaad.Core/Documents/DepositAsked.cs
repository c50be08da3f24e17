using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Documents;

/// <summary>All that a quote or an order sells under one treatment, as a deposit on it is taxed.</summary>
/// <param name="Whole">Minor units, in the price mode of the document.</param>
public sealed record DepositGroup(string Treatment, int TaxCodeId, int LedgerAccountId, long Whole);

/// <summary>Works out a deposit: what of each treatment it asks for, and what it comes to with its tax.</summary>
public static class DepositAsked
{
    /// <summary>In the order in which treatments first appear; those that come to nothing are left out.</summary>
    /// <exception cref="InvalidOperationException">When the document was read without its charges.</exception>
    public static IReadOnlyList<DepositGroup> GroupsOf(Document source)
    {
        if (source.Charges.Sum(c => c.Amount) != source.ChargesTotal)
            throw new InvalidOperationException("A deposit is divided over lines and charges; read both.");
        return
        [
            .. source
                .Lines.Where(l => l.Counts)
                .OrderBy(l => l.Position)
                .Select(l => new DepositGroup(l.Treatment, l.TaxCodeId, l.LedgerAccountId, l.Base))
                .Concat(
                    source
                        .Charges.OrderBy(c => c.Position)
                        .Select(c => new DepositGroup(c.Treatment, c.TaxCodeId, c.LedgerAccountId, c.Amount))
                )
                .GroupBy(l => l.Treatment)
                .Select(g => g.First() with { Whole = g.Sum(l => l.Whole) })
                .Where(g => g.Whole > 0),
        ];
    }

    /// <summary>What a deposit asks for of each group, in minor units.</summary>
    /// <param name="gone">What is billed already, or asked for by other deposits.</param>
    /// <param name="percent">Of all of it; null for an amount.</param>
    /// <param name="amount">Minor units, in the price mode of the document.</param>
    /// <exception cref="RefusalException">When it is nothing, or more than is left.</exception>
    public static long[] Of(
        IReadOnlyList<DepositGroup> groups,
        long gone,
        decimal? percent,
        long? amount,
        Currency currency
    )
    {
        var before = Apportion.ByWeight(
            Math.Clamp(gone, 0, groups.Sum(g => g.Whole)),
            [.. groups.Select(g => g.Whole)]
        );
        var parts = groups.Select((g, i) => new StagedPart(g.Whole, before[i])).ToList();
        return percent is { } p
            ? Staging.ByPercent(parts, p, currency)
            : Staging.ByAmount(parts, amount ?? 0, currency);
    }

    /// <summary>
    /// What the deposit that a quote asks for comes to, tax included, by the quote's own rates; null where it asks for
    /// none, or for more than is chosen of it. Minor units.
    /// </summary>
    public static long? TotalOf(Document quote)
    {
        var asked = quote.Particulars;
        var groups = GroupsOf(quote);
        var whole = groups.Sum(g => g.Whole);
        if (!asked.AsksDeposit || whole == 0 || asked.DepositAmount > whole)
            return null;
        var now = Of(groups, 0, asked.DepositPercent, asked.DepositAmount, quote.Currency);
        return Calculator
            .Compute(
                new DocumentFigures(
                    quote.Currency,
                    [
                        .. groups.Select(
                            (g, i) =>
                                new LineFigures(
                                    1,
                                    new Money(now[i], quote.Currency).Units,
                                    Treatment.Parse(g.Treatment)
                                )
                        ),
                    ]
                )
                {
                    PricesIncludeTax = quote.PricesIncludeTax,
                    TaxRounding = quote.TaxRounding,
                }
            )
            .Total;
    }
}
