namespace Jugaad.Core.Schedules;

/// <summary>
/// Ranges of days by name, such as last month; they move with the day on which they are asked for. Weeks begin on
/// Monday (ISO 8601); a financial year begins where the business says.
/// </summary>
public static class NamedDays
{
    /// <summary>Every name, as an address has it, with its words.</summary>
    public static IReadOnlyList<(string Name, string Words)> All { get; } =
    [
        ("today", "today"),
        ("this-week", "this week"),
        ("this-month", "this month"),
        ("last-month", "last month"),
        ("this-quarter", "this quarter"),
        ("last-quarter", "last quarter"),
        ("this-year", "this year"),
        ("last-year", "last year"),
        ("this-financial-year", "this financial year"),
        ("last-financial-year", "last financial year"),
        ("last-12-months", "last 12 months"),
    ];

    /// <param name="yearBegins">The month with which a financial year begins, 1 to 12.</param>
    /// <returns>Null where there is no range of that name.</returns>
    public static (DateOnly From, DateOnly Until)? Of(string name, DateOnly today, int yearBegins)
    {
        var month = new DateOnly(today.Year, today.Month, 1);
        var quarter = month.AddMonths(-((today.Month - 1) % 3));
        var year = new DateOnly(today.Year, 1, 1);
        var financial = new DateOnly(today.Month >= yearBegins ? today.Year : today.Year - 1, yearBegins, 1);
        return name switch
        {
            "today" => (today, today),
            "this-week" => Days(today.AddDays(-(((int)today.DayOfWeek + 6) % 7)), 7),
            "this-month" => Months(month, 1),
            "last-month" => Months(month.AddMonths(-1), 1),
            "this-quarter" => Months(quarter, 3),
            "last-quarter" => Months(quarter.AddMonths(-3), 3),
            "this-year" => Months(year, 12),
            "last-year" => Months(year.AddMonths(-12), 12),
            "this-financial-year" => Months(financial, 12),
            "last-financial-year" => Months(financial.AddMonths(-12), 12),
            "last-12-months" => Months(month.AddMonths(-11), 12),
            _ => null,
        };
    }

    /// <summary>
    /// The range of the same length right before: as many months where it is whole months, else as many days.
    /// </summary>
    public static (DateOnly From, DateOnly Until) Before(DateOnly from, DateOnly until)
    {
        var next = until.AddDays(1);
        return from.Day == 1 && next.Day == 1
            ? (from.AddMonths(-((next.Year - from.Year) * 12 + next.Month - from.Month)), from.AddDays(-1))
            : (from.AddDays(from.DayNumber - next.DayNumber), from.AddDays(-1));
    }

    /// <summary>The same range a year before; whole months stay whole, also in February.</summary>
    public static (DateOnly From, DateOnly Until) YearBefore(DateOnly from, DateOnly until) =>
        (from.AddYears(-1), until.AddDays(1).AddYears(-1).AddDays(-1));

    private static (DateOnly, DateOnly) Months(DateOnly first, int count) =>
        (first, first.AddMonths(count).AddDays(-1));

    private static (DateOnly, DateOnly) Days(DateOnly first, int count) => (first, first.AddDays(count - 1));
}
