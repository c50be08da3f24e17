using Jugaad.Core.Amounts;

namespace Jugaad.Core.Accounts;

/// <summary>Money that was set against an invoice. Amounts are minor units of the customer's currency.</summary>
/// <param name="Due">The invoice's due day.</param>
/// <param name="Paid">The day on which the money was set against it, or came, whichever is later.</param>
public sealed record PaidPart(DateOnly Due, DateOnly Paid, long Amount)
{
    public int DaysLate => Paid.DayNumber - Due.DayNumber;
}

/// <summary>One month of habits.</summary>
/// <param name="DaysLate">Weighted by amount, rounded to whole days half away from zero; null where nothing was
/// paid.</param>
public sealed record HabitMonth(DateOnly First, long Paid, int? DaysLate);

/// <summary>How a customer pays: what they paid within the last 12 months, by how late it was.</summary>
/// <param name="Paid">All that was paid, in minor units.</param>
/// <param name="DaysLate">After the due day (below zero: before it), weighted by amount, in tenths of a day, rounded
/// half away from zero.</param>
/// <param name="PercentOnTime">What of it came on the due day or before, in whole percent, rounded half away from
/// zero.</param>
/// <param name="Months">The 12 months up to that of the day, the earliest first.</param>
public sealed record PaymentHabits(long Paid, decimal DaysLate, int PercentOnTime, IReadOnlyList<HabitMonth> Months)
{
    /// <summary>Reads the habits on a day; null where nothing was paid within the 12 months.</summary>
    public static PaymentHabits? On(DateOnly day, IEnumerable<PaidPart> parts)
    {
        var first = new DateOnly(day.Year, day.Month, 1).AddMonths(-11);
        var within = parts.Where(p => p.Amount > 0 && p.Paid >= first && p.Paid <= day).ToList();
        var paid = within.Sum(p => p.Amount);
        if (paid == 0)
            return null;
        var months = Enumerable
            .Range(0, 12)
            .Select(m => first.AddMonths(m))
            .Select(m =>
            {
                var same = within.Where(p => p.Paid.Year == m.Year && p.Paid.Month == m.Month).ToList();
                var sum = same.Sum(p => p.Amount);
                return new HabitMonth(m, sum, sum == 0 ? null : (int)Rounding.Divide(Weighted(same), sum));
            })
            .ToList();
        var onTime = within.Where(p => p.DaysLate <= 0).Sum(p => p.Amount);
        return new PaymentHabits(
            paid,
            (long)Rounding.Divide(Weighted(within) * 10, paid) / 10m,
            (int)Rounding.Divide((Int128)onTime * 100, paid),
            months
        );
    }

    private static Int128 Weighted(List<PaidPart> parts) =>
        parts.Aggregate((Int128)0, (sum, p) => sum + ((Int128)p.Amount * p.DaysLate));
}
