using System.Globalization;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Lists;

namespace Jugaad.Desk.Reports;

/// <summary>What is asked of a report: its days, and whatever else narrows it, by the names of its fields.</summary>
/// <param name="Until">For what is told of one day, that day.</param>
public sealed record ReportAsk(DateOnly From, DateOnly Until, IReadOnlyDictionary<string, string> More)
{
    public ReportAsk(DateOnly from, DateOnly until)
        : this(from, until, new Dictionary<string, string>()) { }

    /// <summary>Which rows, of reports that are read in parts; null for all.</summary>
    public ReportWindow? Window { get; init; }

    /// <summary>The same of other days.</summary>
    internal ReportAsk With(DateOnly from, DateOnly until) => this with { From = from, Until = until };

    public string Range => $"{Day(From)} to {Day(Until)}";

    /// <summary>What a field says; empty where it says nothing.</summary>
    public string Of(string field) => More.GetValueOrDefault(field, "").Trim();

    /// <summary>Another report of the same days.</summary>
    public string Address(string name, params (string Field, string Value)[] more) =>
        $"/reports/{name}?from={Day(From)}&until={Day(Until)}"
        + string.Concat(more.Select(m => $"&{m.Field}={Uri.EscapeDataString(m.Value)}"));

    /// <summary>The days that are asked for; what is not said is today, or the month up to today.</summary>
    /// <param name="named">Days by name; empty where they are typed.</param>
    /// <param name="typed">The day that a field says; null where it says none.</param>
    /// <param name="yearBegins">The month with which a financial year begins.</param>
    public static (DateOnly From, DateOnly Until) DaysOf(
        string named,
        Func<string, DateOnly?> typed,
        DateOnly today,
        int yearBegins
    )
    {
        var days = NamedDays.Of(named, today, yearBegins);
        var until = days?.Until ?? typed("until") ?? typed("on") ?? today;
        return (days?.From ?? typed("from") ?? new DateOnly(until.Year, until.Month, 1), until);
    }

    /// <summary>Reads back what was kept of an address.</summary>
    /// <param name="today">On which day it is asked for.</param>
    /// <param name="yearBegins">The month with which a financial year begins.</param>
    public static (ReportAsk Ask, ReportAgainst Against) OfQuery(string query, DateOnly today, int yearBegins)
    {
        var fields = query
            .Split('&', StringSplitOptions.RemoveEmptyEntries)
            .Select(p => p.Split('=', 2))
            .Where(p => p.Length == 2)
            .GroupBy(p => p[0])
            .ToDictionary(p => p.Key, p => Uri.UnescapeDataString(p.First()[1]));
        DateOnly? Typed(string field) =>
            DateOnly.TryParseExact(fields.GetValueOrDefault(field, ""), "yyyy-MM-dd", out var day) ? day : null;
        var (from, until) = DaysOf(fields.GetValueOrDefault("days", ""), Typed, today, yearBegins);
        return (new ReportAsk(from, until, fields), AgainstOf(fields.GetValueOrDefault("against", "")));
    }

    /// <summary>With which earlier days it is compared; with none where it is none that is known.</summary>
    public static ReportAgainst AgainstOf(string text) =>
        Enum.TryParse<ReportAgainst>(text, true, out var against) ? against : ReportAgainst.Nothing;

    internal static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
