namespace Jugaad.Core.Schedules;

/// <summary>What a schedule counts in.</summary>
public enum Pace
{
    Days,
    Weeks,
    Months,
    Years,
}

/// <summary>
/// Repeats every so many days, weeks, months or years from its first day. The day of the month is remembered: from
/// 31 January it goes to 28 or 29 February and then to 31 March. It ends never, after a day, or after a count.
/// </summary>
/// <param name="Every">At least 1.</param>
/// <param name="Until">The last day on which it may occur; null for no such day.</param>
/// <param name="Times">How often in all; null for no limit.</param>
public sealed record Schedule(DateOnly First, int Every, Pace Pace, DateOnly? Until = null, int? Times = null)
{
    private const int MostTimes = 10_000;

    /// <summary>The day of an occurrence, counted from 0.</summary>
    public DateOnly DayOf(int index) =>
        Pace switch
        {
            Pace.Days => First.AddDays(Every * index),
            Pace.Weeks => First.AddDays(7 * Every * index),
            // From the first day each time, so that the day of the month is not forgotten on the way.
            Pace.Months => First.AddMonths(Every * index),
            _ => First.AddYears(Every * index),
        };

    /// <summary>Whether there is such an occurrence before the schedule ends.</summary>
    public bool Has(int index) =>
        index >= 0 && index < (Times ?? MostTimes) && (Until is not { } until || DayOf(index) <= until);

    /// <summary>The occurrences from <paramref name="index"/> on that have come by <paramref name="day"/>.</summary>
    public IEnumerable<(int Index, DateOnly Day)> DueFrom(int index, DateOnly day)
    {
        for (var i = index; Has(i) && DayOf(i) <= day; i++)
            yield return (i, DayOf(i));
    }

    /// <summary>The next few occurrences from <paramref name="index"/> on.</summary>
    public IEnumerable<(int Index, DateOnly Day)> Next(int index, int most)
    {
        for (var i = index; i < index + most && Has(i); i++)
            yield return (i, DayOf(i));
    }

    /// <summary>The last day of the period that begins with an occurrence.</summary>
    public DateOnly PeriodEnd(int index) => DayOf(index + 1).AddDays(-1);

    /// <summary>
    /// In words, such as <c>every 3 months from 31 January 2025</c>; days are written by <paramref name="written"/>.
    /// </summary>
    public string Words(Func<DateOnly, string> written)
    {
        var one = Pace.ToString().ToLowerInvariant()[..^1];
        var every = Every == 1 ? $"every {one}" : $"every {Every} {one}s";
        return $"{every} from {written(First)}{(Until is { } until ? $" until {written(until)}" : "")}{(Times is { } times ? $", {times} times" : "")}";
    }

    /// <summary>Refuses a schedule that cannot be.</summary>
    public void Check(Refusals refusals)
    {
        if (Every is < 1 or > 999)
            refusals.Add("every", "Give a whole number from 1 to 999.");
        if (First.Year is < 1990 or > 2199)
            refusals.Add("first", "Give the first day, between 1990 and 2199.");
        if (Until < First)
            refusals.Add("until", "It would end before it begins. Choose its first day or a later one.");
        if (Times is < 1 or > MostTimes)
            refusals.Add("times", $"Give how often, from 1 to {MostTimes}.");
    }
}
