using Jugaad.Core.Amounts;

namespace Jugaad.Core.Exchange;

/// <summary>A claim or a debt in another currency at the rate of a day. Home amounts are minor units of home.</summary>
/// <param name="Amount">Minor units of <paramref name="Currency"/>; below zero where we owe it.</param>
/// <param name="Rate">As it was quoted.</param>
/// <param name="Home">What it is worth on the day.</param>
/// <param name="Kept">What the books keep it at, of the same sign as the amount.</param>
public sealed record Valued(Currency Currency, long Amount, QuotedRate Rate, long Home, long Kept)
{
    /// <summary>What was gained so far (above zero) or lost (below), and is not realised.</summary>
    public long Difference => Home - Kept;
}

/// <summary>
/// What claims and debts in other currencies are worth on a day, less what they are kept at: what exchange rates gained
/// or lost, as long as nobody paid.
/// </summary>
public static class Valuation
{
    /// <summary>Rounded once, half away from zero, to the home currency's minor unit.</summary>
    /// <param name="amount">Minor units; below zero where we owe it.</param>
    /// <param name="kept">What the books keep it at, in minor units of home.</param>
    /// <exception cref="RefusalException">When what it is worth is more than an amount can be.</exception>
    public static Valued Of(Currency currency, long amount, long kept, QuotedRate rate, Currency home) =>
        new(currency, amount, rate, HomeAmount.Of(amount, currency, rate, home), kept);
}
