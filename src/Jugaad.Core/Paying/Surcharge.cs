using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Paying;

/// <summary>
/// What a payer is charged for paying by card: a percentage, rounded half away from zero, and a fixed amount. It is a
/// charge of its own; the invoice is paid with the amount that it was computed on.
/// </summary>
/// <param name="Percent">With at most 2 decimals.</param>
/// <param name="Fixed">Minor units of the home currency.</param>
public sealed record Surcharge(decimal Percent, long Fixed)
{
    public static Surcharge None { get; } = new(0, 0);

    public bool IsNone => Percent == 0 && Fixed == 0;

    /// <param name="amount">What is paid, in minor units, above zero.</param>
    /// <returns>Minor units; 0 where nothing is charged.</returns>
    public long On(long amount) => IsNone || amount <= 0 ? 0 : Rounding.Percent(amount, Percent) + Fixed;

    /// <summary>
    /// Whether it may be charged at all: in the European Union nobody who is not a business may be charged for paying
    /// by card (Directive (EU) 2015/2366, article 62).
    /// </summary>
    /// <param name="country">Where the business is, two letters of ISO 3166-1.</param>
    public static bool MayCharge(string country, CustomerKind payer) =>
        payer != CustomerKind.Consumer || !Countries.InUnion(country);

    /// <summary>Splits a surcharge over what it was paid for, by amount; the parts add up to it.</summary>
    /// <param name="parts">What is paid of each, in minor units; 0 where none can be charged on it.</param>
    public static long[] Split(long surcharge, IReadOnlyList<long> parts) =>
        parts.Any(p => p > 0) ? Apportion.ByWeight(surcharge, parts) : new long[parts.Count];
}
