using System.Numerics;

namespace Jugaad.Core.Amounts;

/// <summary>
/// Rounding of exact fractions to whole numbers, half away from zero. Nothing here goes through floating point.
/// </summary>
public static class Rounding
{
    /// <summary><paramref name="numerator"/> ÷ <paramref name="denominator"/>, half away from zero.</summary>
    /// <param name="denominator">Above zero.</param>
    public static Int128 Divide(Int128 numerator, Int128 denominator)
    {
        var magnitude = Int128.Abs(numerator);
        var (quotient, rest) = Int128.DivRem(magnitude, denominator);
        if (rest >= denominator - rest)
            quotient++;
        return numerator < 0 ? -quotient : quotient;
    }

    /// <inheritdoc cref="Divide(Int128, Int128)"/>
    public static BigInteger Divide(BigInteger numerator, BigInteger denominator)
    {
        var quotient = BigInteger.DivRem(BigInteger.Abs(numerator), denominator, out var rest);
        if (rest * 2 >= denominator)
            quotient++;
        return numerator.Sign < 0 ? -quotient : quotient;
    }

    /// <summary>
    /// <paramref name="amount"/> × <paramref name="part"/> ÷ <paramref name="whole"/>, half away from zero.
    /// </summary>
    /// <param name="whole">Not zero; may be negative.</param>
    public static long Share(long amount, long part, long whole)
    {
        var product = (Int128)amount * part;
        return checked((long)(whole < 0 ? Divide(-product, -(Int128)whole) : Divide(product, whole)));
    }

    /// <summary>A percentage of an amount. The percentage has at most 4 decimals.</summary>
    public static long Percent(long amount, decimal percent) =>
        checked((long)Divide((Int128)amount * Scaled(percent, Limits.PercentDecimals), 1_000_000));

    /// <summary>The nearest multiple of <paramref name="step"/>, half away from zero.</summary>
    public static long ToStep(long amount, long step) => checked((long)(Divide((Int128)amount, step) * step));

    /// <summary>The value as a whole number of its last allowed decimal.</summary>
    /// <exception cref="ArgumentException">When the value has more decimals than that.</exception>
    public static Int128 Scaled(decimal value, int decimals)
    {
        var scaled = value;
        for (var i = 0; i < decimals; i++)
            scaled *= 10;
        if (scaled != decimal.Truncate(scaled))
            throw new ArgumentException($"{value} has more than {decimals} decimals.", nameof(value));
        return (Int128)scaled;
    }
}
