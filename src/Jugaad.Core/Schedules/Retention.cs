using System.Globalization;

namespace Jugaad.Core.Schedules;

/// <summary>
/// Which backups are kept: the newest of each of so many days, weeks and months in which there is one.
/// </summary>
public sealed record Retention(int Days, int Weeks, int Months)
{
    public const int Most = 400;

    /// <summary>Weeks are those of ISO 8601. The newest of all is kept whatever the numbers say.</summary>
    /// <returns>Those of <paramref name="made"/> that are kept; a day without a backup takes no place from one that
    /// has.</returns>
    public IReadOnlySet<DateTime> Keep(IEnumerable<DateTime> made)
    {
        var newestFirst = made.OrderDescending().ToList();
        return newestFirst
            .Take(1)
            .Concat(NewestOfEach(newestFirst, m => m.Date, Days))
            .Concat(NewestOfEach(newestFirst, m => (ISOWeek.GetYear(m), ISOWeek.GetWeekOfYear(m)), Weeks))
            .Concat(NewestOfEach(newestFirst, m => (m.Year, m.Month), Months))
            .ToHashSet();
    }

    private static IEnumerable<DateTime> NewestOfEach<T>(
        IEnumerable<DateTime> newestFirst,
        Func<DateTime, T> span,
        int most
    ) => newestFirst.GroupBy(span).Take(most).Select(g => g.First());
}
