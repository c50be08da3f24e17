using System.Numerics;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Documents;

/// <summary>
/// A line or charge that is billed in stages. Amounts are minor units in the price mode of the document.
/// </summary>
/// <param name="Whole">What all of it comes to, its share of the document's discount taken off.</param>
/// <param name="Before">What earlier stages billed of it.</param>
public sealed record StagedPart(long Whole, long Before)
{
    public long Left => Whole - Before;
}

/// <summary>
/// Works out what a stage bills of each part: by percentage of each, by amount, or all that is left. Whatever the way,
/// no part is ever billed beyond what it comes to, and the stage that takes the rest takes exactly what is left.
/// </summary>
public static class Staging
{
    /// <summary>
    /// A percentage of each part, rounded; where that is more than what is left of a part, what is left.
    /// </summary>
    /// <param name="percent">Above 0, at most 100, with at most 4 decimals.</param>
    /// <exception cref="RefusalException">When the percentage cannot be, or is more than is left of the
    /// whole.</exception>
    public static long[] ByPercent(IReadOnlyList<StagedPart> parts, decimal percent, Currency currency)
    {
        if (percent is <= 0 or > 100 || PlainDecimal.DecimalsOf(percent) > Limits.PercentDecimals)
            throw new RefusalException("percent", "Give a percentage above 0 and up to 100, with at most 4 decimals.");
        var whole = parts.Sum(p => p.Whole);
        var left = parts.Sum(p => p.Left);
        // Earlier stages may have been rounded up by a minor unit on each part; what is more than that is a mistake.
        if (Rounding.Percent(whole, percent) > left + parts.Count)
            throw new RefusalException(
                "percent",
                $"{percent} % is {new Money(Rounding.Percent(whole, percent), currency)}, and {new Money(left, currency)} is left. Give less, or bill all that is left."
            );
        return [.. parts.Select(p => Within(p, Rounding.Percent(p.Whole, percent)))];
    }

    /// <summary>An amount, apportioned over what is left of each part.</summary>
    /// <param name="amount">Minor units, in the price mode of the document.</param>
    /// <exception cref="RefusalException">When it is not above zero, or more than is left.</exception>
    public static long[] ByAmount(IReadOnlyList<StagedPart> parts, long amount, Currency currency)
    {
        var left = parts.Sum(p => p.Left);
        if (amount <= 0)
            throw new RefusalException("amount", "Give the amount of this stage, above zero.");
        if (amount > left)
            throw new RefusalException(
                "amount",
                $"{new Money(amount, currency)} is {new Money(amount - left, currency)} more than is left to bill. Give at most {new Money(left, currency)}."
            );
        return Apportion.ByExactShares(amount, [.. parts.Select(p => new BigInteger(p.Left) * amount)], left);
    }

    /// <summary>All that is left of the chosen parts, and nothing of the others.</summary>
    public static long[] Rest(IReadOnlyList<StagedPart> parts, Func<int, bool> chosen) =>
        [.. parts.Select((p, i) => chosen(i) ? p.Left : 0)];

    private static long Within(StagedPart part, long amount) =>
        part.Left >= 0 ? Math.Clamp(amount, 0, part.Left) : Math.Clamp(amount, part.Left, 0);
}
