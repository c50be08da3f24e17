using System.Numerics;

namespace Jugaad.Core.Amounts;

/// <summary>
/// Apportioning by largest remainder: exact shares are cut down to minor units, and the units left over go one each
/// to the largest remainders; a tie goes to the earlier. The shares always add up to the total.
/// </summary>
public static class Apportion
{
    /// <param name="total">What is shared out, in minor units; not below zero.</param>
    /// <param name="weights">None below zero; at least one above zero unless the total is zero.</param>
    /// <exception cref="ArgumentException">When a weight is below zero, or all are zero and the total is
    /// not.</exception>
    public static long[] ByWeight(long total, IReadOnlyList<long> weights)
    {
        Int128 sum = 0;
        foreach (var weight in weights)
        {
            if (weight < 0)
                throw new ArgumentException("A weight is below zero.", nameof(weights));
            sum += weight;
        }

        if (sum == 0)
            return total == 0
                ? new long[weights.Count]
                : throw new ArgumentException("All weights are zero.", nameof(weights));

        var exact = new BigInteger[weights.Count];
        for (var i = 0; i < exact.Length; i++)
            exact[i] = new BigInteger(total) * weights[i];
        return ByExactShares(total, exact, (BigInteger)sum);
    }

    /// <summary>
    /// Whole shares of <paramref name="total"/> that follow exact ones. The exact shares add up to the total or to a
    /// fraction that rounds to it; they may be of either sign.
    /// </summary>
    /// <param name="total">Minor units.</param>
    /// <param name="numerators">The exact shares over <paramref name="denominator"/>.</param>
    /// <param name="denominator">Above zero.</param>
    public static long[] ByExactShares(long total, IReadOnlyList<BigInteger> numerators, BigInteger denominator)
    {
        var shares = new long[numerators.Count];
        var remainders = new BigInteger[numerators.Count];
        var left = new BigInteger(total);
        for (var i = 0; i < shares.Length; i++)
        {
            var floor = BigInteger.DivRem(numerators[i], denominator, out var rest);
            if (rest.Sign < 0)
            {
                floor--;
                rest += denominator;
            }

            shares[i] = (long)floor;
            remainders[i] = rest;
            left -= floor;
        }

        foreach (var i in Enumerable.Range(0, shares.Length).OrderByDescending(i => remainders[i]))
        {
            if (left <= 0)
                break;
            shares[i]++;
            left--;
        }

        if (!left.IsZero)
            throw new ArgumentException("The exact shares do not add up to the total.", nameof(numerators));
        return shares;
    }

    /// <summary>In proportion to parts of either sign; on the first where they come to nothing.</summary>
    /// <returns>Parts that add up to <paramref name="total"/>, in minor units.</returns>
    public static long[] Spread(long total, IReadOnlyList<long> parts)
    {
        var sum = parts.Sum();
        if (sum == 0)
            return [.. parts.Select((_, i) => i == 0 ? total : 0)];
        return ByExactShares(
            total,
            [.. parts.Select(p => new BigInteger(p) * total * Math.Sign(sum))],
            new BigInteger(Math.Abs(sum))
        );
    }
}
