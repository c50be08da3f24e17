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

/// <summary>Days, both of them included, on which the same was open at the same yearly rate.</summary>
/// <param name="Amount">Minor units, at the beginning of each of the days.</param>
/// <param name="Percent">With at most 4 decimals; 0 where there was no rate.</param>
public sealed record InterestStretch(DateOnly From, DateOnly Until, long Amount, decimal Percent)
{
    public int Days => Until.DayNumber - From.DayNumber + 1;
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
    /// <inheritdoc cref="Stretches"/>
    public static long To(
        DateOnly day,
        DateOnly due,
        IReadOnlyList<OpenFrom> open,
        IReadOnlyList<InterestRate> rates,
        IReadOnlyList<Pause> pauses
    ) => Of(Stretches(day, due, open, rates, pauses));

    /// <summary>What stretches come to, in minor units: rounded once, half away from zero.</summary>
    public static long Of(IEnumerable<InterestStretch> stretches) =>
        (long)
            Rounding.Divide(
                stretches.Aggregate(
                    BigInteger.Zero,
                    (sum, s) =>
                        sum + ((BigInteger)s.Amount * (BigInteger)Rounding.Scaled(s.Percent, RateDecimals) * s.Days)
                ),
                Denominator
            );

    /// <summary>
    /// The stretches from the day after the due day to <paramref name="day"/>, one after the other without a gap; a
    /// pause is one in which nothing counts.
    /// </summary>
    /// <param name="open">What was open at the end of each day, where it changed; the earliest first.</param>
    /// <param name="rates">The earliest first; none before the first.</param>
    /// <param name="pauses">Days of a dispute.</param>
    public static IReadOnlyList<InterestStretch> Stretches(
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
        return
        [
            .. changes
                .Zip(changes.Skip(1))
                .Select(s => new InterestStretch(
                    s.First,
                    s.Second.AddDays(-1),
                    pauses.Any(p => p.Has(s.First)) ? 0 : open.LastOrDefault(o => o.From < s.First)?.Amount ?? 0,
                    rates.LastOrDefault(r => r.From <= s.First)?.Percent ?? 0
                )),
        ];
    }

    /// <summary>Whether stretches go from the day after the due day to a day, without a gap and without overlap.</summary>
    public static bool Covers(IReadOnlyList<InterestStretch> stretches, DateOnly due, DateOnly day) =>
        stretches.Count > 0
        && stretches[0].From == due.AddDays(1)
        && stretches[^1].Until == day
        && stretches.All(s => s.Days > 0 && s.Amount >= 0 && s.Percent >= 0)
        && stretches.Zip(stretches.Skip(1)).All(s => s.Second.From == s.First.Until.AddDays(1));
}
