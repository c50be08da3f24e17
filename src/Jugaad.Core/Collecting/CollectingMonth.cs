using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Collecting;

/// <summary>How collecting went in a month. Amounts are minor units of the home currency.</summary>
/// <param name="First">Its first day.</param>
/// <param name="Owed">What was owed at its end.</param>
/// <param name="Billed">What was billed in the three months up to its end, less credits.</param>
/// <param name="DaysOutstanding">Days sales outstanding: owed ÷ billed × the days of the three months, as far as the books
/// go back, rounded half away from zero; null where nothing was billed.</param>
/// <param name="Paid">What was paid of what was billed.</param>
/// <param name="DaysLate">How late that was, weighted by amount, in whole days rounded half away from zero; null where
/// nothing was paid.</param>
/// <param name="PercentOnTime">What of it came on the due day or before, in whole percent rounded half away from zero;
/// null where nothing was paid.</param>
public sealed record CollectingMonth(
    DateOnly First,
    long Owed,
    long Billed,
    int? DaysOutstanding,
    long Paid,
    int? DaysLate,
    int? PercentOnTime
)
{
    /// <param name="first">The month's first day.</param>
    /// <param name="owed">What was owed at its end.</param>
    /// <param name="billed">What was billed in it and the two before.</param>
    /// <param name="parts">What was paid; that of other months is left aside.</param>
    /// <param name="begun">The first day of the books: what was billed in days before it is not known, and they do not
    /// count.</param>
    public static CollectingMonth Of(
        DateOnly first,
        long owed,
        long billed,
        IEnumerable<PaidPart> parts,
        DateOnly begun = default
    )
    {
        var within = parts
            .Where(p => p.Amount > 0 && p.Paid.Year == first.Year && p.Paid.Month == first.Month)
            .ToList();
        var paid = within.Sum(p => p.Amount);
        var since = first.AddMonths(-2) < begun ? begun : first.AddMonths(-2);
        var days = first.AddMonths(1).DayNumber - since.DayNumber;
        return new CollectingMonth(
            first,
            owed,
            billed,
            billed <= 0 ? null : (int)Rounding.Divide((Int128)Math.Max(0, owed) * days, billed),
            paid,
            paid == 0
                ? null
                : (int)
                    Rounding.Divide(
                        within.Aggregate((Int128)0, (sum, p) => sum + ((Int128)p.Amount * p.DaysLate)),
                        paid
                    ),
            paid == 0
                ? null
                : (int)Rounding.Divide((Int128)within.Where(p => p.DaysLate <= 0).Sum(p => p.Amount) * 100, paid)
        );
    }
}
