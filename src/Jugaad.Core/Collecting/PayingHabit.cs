using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Collecting;

/// <summary>
/// How late somebody pays, in whole days after the due day (below zero: before it), weighted by amount over what was
/// paid in the last 12 months.
/// </summary>
/// <param name="Mean">Rounded half away from zero.</param>
/// <param name="Lower">The lower quartile: a quarter of the money came by then.</param>
/// <param name="Upper">The upper quartile: three quarters of the money had come by then.</param>
public sealed record PayingHabit(int Mean, int Lower, int Upper)
{
    /// <summary>With fewer payments than this nothing can be said of a customer, and the business's own habit
    /// serves.</summary>
    public const int FewestPayments = 3;

    /// <summary>Nothing was ever paid: on the due day.</summary>
    public static PayingHabit OnTime { get; } = new(0, 0, 0);

    /// <summary>Reads the habit at the end of a day; null where there are too few payments.</summary>
    public static PayingHabit? On(DateOnly day, IEnumerable<PaidPart> parts)
    {
        var within = parts
            .Where(p => p.Amount > 0 && p.Paid > day.AddYears(-1) && p.Paid <= day)
            .OrderBy(p => p.DaysLate)
            .ToList();
        if (within.Count < FewestPayments)
            return null;
        var paid = within.Aggregate((Int128)0, (sum, p) => sum + p.Amount);
        var weighted = within.Aggregate((Int128)0, (sum, p) => sum + ((Int128)p.Amount * p.DaysLate));
        return new PayingHabit(
            (int)Rounding.Divide(weighted, paid),
            Quartile(within, paid, 1),
            Quartile(within, paid, 3)
        );
    }

    /// <summary>The days late by which so many quarters of the money had come.</summary>
    private static int Quartile(List<PaidPart> earliestFirst, Int128 paid, int quarters)
    {
        var sum = (Int128)0;
        foreach (var part in earliestFirst)
        {
            sum += part.Amount;
            if (sum * 4 >= paid * quarters)
                return part.DaysLate;
        }

        return earliestFirst[^1].DaysLate;
    }
}
