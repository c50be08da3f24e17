using System.Numerics;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Exchange;

/// <summary>
/// An amount in home currency: amount × rate, or amount ÷ rate where it is quoted for one unit of home, rounded once,
/// half away from zero, to the home currency's minor unit.
/// </summary>
public static class HomeAmount
{
    /// <param name="minor">Minor units of <paramref name="currency"/>.</param>
    /// <exception cref="RefusalException">When the home amount is more than an amount can be.</exception>
    public static long Of(long minor, Currency currency, QuotedRate rate, Currency home)
    {
        if (currency.Equals(home))
            return minor;
        return Fitting(rate.Convert(minor, currency.MinorPerUnit, home.MinorPerUnit, back: false), home);
    }

    /// <summary>The other way: what an amount of home is in a currency, in minor units of it.</summary>
    /// <inheritdoc cref="Of"/>
    public static long Back(long homeMinor, Currency home, QuotedRate rate, Currency currency)
    {
        if (currency.Equals(home))
            return homeMinor;
        return Fitting(rate.Convert(homeMinor, currency.MinorPerUnit, home.MinorPerUnit, back: true), currency);
    }

    private static long Fitting(BigInteger amount, Currency currency) =>
        BigInteger.Abs(amount) <= Limits.AmountMinor
            ? (long)amount
            : throw new RefusalException(
                "amount",
                $"In {currency} this is more than an amount can be. Give less, or look at the exchange rate."
            );

    /// <summary>
    /// Converts parts so that they add up to the converted whole; a difference goes on the largest part that may bear
    /// it, and on the largest of all where none may.
    /// </summary>
    /// <param name="parts">They add up to <paramref name="whole"/>.</param>
    /// <param name="bears">Whether a part may bear the difference: a net may, a tax may not. All may where it is left
    /// out.</param>
    public static long[] Parts(
        long whole,
        IReadOnlyList<long> parts,
        Currency currency,
        QuotedRate rate,
        Currency home,
        Func<int, bool>? bears = null
    )
    {
        var converted = parts.Select(p => Of(p, currency, rate, home)).ToArray();
        if (converted.Length == 0)
            return converted;
        var bearing = Enumerable.Range(0, converted.Length).Where(i => bears?.Invoke(i) ?? true).ToList();
        var largest = (bearing.Count > 0 ? bearing : [.. Enumerable.Range(0, converted.Length)]).MaxBy(i =>
            Math.Abs(converted[i])
        );
        converted[largest] += Of(whole, currency, rate, home) - converted.Sum();
        return converted;
    }
}
