namespace Jugaad.Core.Collecting;

/// <summary>The days on which the business writes to anybody: some days of the week, but not its holidays.</summary>
public sealed class WorkingDays
{
    // Longer holidays than this are a mistake, and would have the next working day looked for without an end.
    private const int LongestRest = 366;
    private readonly HashSet<DayOfWeek> _weekdays;
    private readonly HashSet<DateOnly> _holidays;

    /// <exception cref="RefusalException">When no day of the week is one.</exception>
    public WorkingDays(IEnumerable<DayOfWeek> weekdays, IEnumerable<DateOnly> holidays)
    {
        (_weekdays, _holidays) = ([.. weekdays], [.. holidays]);
        if (_weekdays.Count == 0)
            throw new RefusalException("weekdays", "Choose at least one day of the week on which you write.");
    }

    /// <summary>Monday to Friday.</summary>
    public static IReadOnlyList<DayOfWeek> UsualWeek { get; } =
    [DayOfWeek.Monday, DayOfWeek.Tuesday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Friday];

    public bool Has(DateOnly day) => _weekdays.Contains(day.DayOfWeek) && !_holidays.Contains(day);

    /// <summary>The day itself where it is a working day, otherwise the first one after it.</summary>
    /// <exception cref="RefusalException">When there is none for a year.</exception>
    public DateOnly From(DateOnly day)
    {
        for (var rest = 0; rest < LongestRest; rest++)
            if (Has(day.AddDays(rest)))
                return day.AddDays(rest);
        throw new RefusalException("holidays", $"There is no working day for a year from {day}. Take holidays out.");
    }
}
