using System.Numerics;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Collecting;

/// <summary>A yearly rate that holds from a day on, in percent with at most 4 decimals.</summary>
public sealed record InterestRate(DateOnly From, decimal Percent);

/// <summary>What was open from a day on, in minor units.</summary>
public sealed record OpenFrom(DateOnly From, long Amount);

/// <summary>Days, both of them included, for which no interest is asked.</summary>
public sealed record Pause(DateOnly From, DateOnly Until)
{
    public bool Has(DateOnly day) => day >= From && day <= Until;
}

/// <summary>
/// Simple interest on what is paid late: open amount × yearly rate ÷ 100 × days ÷ 365, over the stretches in which
/// open amount and rate were the same, rounded once at the end, half away from zero. The first day that counts is the
/// one after the due day; what is paid on a day was open for the whole of it.
/// </summary>
public static class LateInterest
{
    private const int RateDecimals = 4;
    private const long Denominator = 10_000L * 100 * 365;

    /// <summary>The interest from the due day to the end of <paramref name="day"/>, in minor units.</summary>
    /// <param name="open">What was open at the end of each day, where it changed; the earliest first.</param>
    /// <param name="rates">The earliest first; none before the first.</param>
    /// <param name="pauses">Days of a dispute.</param>
    public static long To(
        DateOnly day,
        DateOnly due,
        IReadOnlyList<OpenFrom> open,
        IReadOnlyList<InterestRate> rates,
        IReadOnlyList<Pause> pauses
    )
    {
        // A day counts with what was open when it began, which is what was open at the end of the one before.
        var changes = open.Select(o => o.From.AddDays(1))
            .Concat(rates.Select(r => r.From))
            .Concat(pauses.Select(p => p.From))
            .Concat(pauses.Select(p => p.Until.AddDays(1)))
            .Append(due.AddDays(1))
            .Append(day.AddDays(1))
            .Where(d => d > due && d <= day.AddDays(1))
            .Distinct()
            .Order()
            .ToList();
        var sum = BigInteger.Zero;
        foreach (var (from, next) in changes.Zip(changes.Skip(1)))
        {
            if (pauses.Any(p => p.Has(from)))
                continue;
            var amount = open.LastOrDefault(o => o.From < from)?.Amount ?? 0;
            var rate = rates.LastOrDefault(r => r.From <= from)?.Percent ?? 0;
            sum +=
                (BigInteger)amount
                * (BigInteger)Rounding.Scaled(rate, RateDecimals)
                * (next.DayNumber - from.DayNumber);
        }

        return (long)Rounding.Divide(sum, Denominator);
    }
}
