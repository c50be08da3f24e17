namespace Jugaad.Core.Collecting;

/// <summary>Why money is expected on a day.</summary>
public enum ExpectedBecause
{
    Promise,
    Plan,
    Habit,

    /// <summary>The day that their habit makes has passed.</summary>
    PastHabit,
}

/// <summary>When something open should be paid.</summary>
/// <param name="Early">The first day of the likely range.</param>
/// <param name="Late">The last day of the likely range.</param>
public sealed record ExpectedDay(DateOnly Day, DateOnly Early, DateOnly Late, ExpectedBecause Because)
{
    /// <summary>What was promised or planned for a day; one that has passed within its grace is expected
    /// tomorrow.</summary>
    public static ExpectedDay Said(DateOnly today, DateOnly day, ExpectedBecause because)
    {
        var at = NotBefore(today.AddDays(1), day);
        return new(at, at, at, because);
    }

    /// <summary>
    /// By habit: the due day and the habit's days. Where that has passed, the day by which three quarters of their money
    /// comes; tomorrow at the earliest.
    /// </summary>
    public static ExpectedDay By(PayingHabit habit, DateOnly due, DateOnly today)
    {
        var usual = due.AddDays(habit.Mean);
        var tomorrow = today.AddDays(1);
        if (usual >= today)
            return new(
                usual,
                NotBefore(today, Earlier(due.AddDays(habit.Lower), usual)),
                NotBefore(usual, due.AddDays(habit.Upper)),
                ExpectedBecause.Habit
            );
        var day = NotBefore(tomorrow, due.AddDays(habit.Upper));
        return new(day, tomorrow, day, ExpectedBecause.PastHabit);
    }

    private static DateOnly NotBefore(DateOnly first, DateOnly day) => day < first ? first : day;

    private static DateOnly Earlier(DateOnly one, DateOnly other) => one < other ? one : other;
}
