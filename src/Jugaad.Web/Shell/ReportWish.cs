using Jugaad.Core.Schedules;
using Jugaad.Desk.Reports;

namespace Jugaad.Web.Shell;

/// <summary>Which report is asked for, as the address says it: the same for its page, its files and its paper.</summary>
/// <param name="Named">Days by name; empty where they were typed.</param>
public sealed record ReportWish(ReportKind Kind, ReportAsk Ask, string Named, ReportAgainst Against)
{
    /// <summary>What narrows reports, besides their days, and in what language their paper is.</summary>
    private static readonly string[] Fields = ["account", "customer", "by", "key", "language"];

    /// <summary>Reads the address; what it does not say is today, or the month up to today.</summary>
    /// <param name="kind">The report.</param>
    /// <param name="query">The address's wishes.</param>
    /// <param name="asked">The day that a field of the address asks for; null where it asks for none.</param>
    /// <param name="today">What holds where no day is asked for.</param>
    /// <param name="yearBegins">The month with which a financial year begins.</param>
    internal static ReportWish Read(
        ReportKind kind,
        IQueryCollection query,
        Func<string, DateOnly?> asked,
        DateOnly today,
        int yearBegins
    )
    {
        var named = query["days"].ToString();
        var ranges = kind.Days == ReportDays.Range;
        var (from, until) = ReportAsk.DaysOf(
            ranges ? named : "",
            f => f == (ranges ? "on" : "until") ? null : asked(f),
            today,
            yearBegins
        );
        return new ReportWish(
            kind,
            new ReportAsk(
                from,
                until,
                Fields.Where(f => query[f].ToString().Length > 0).ToDictionary(f => f, f => query[f].ToString())
            ),
            ranges && NamedDays.Of(named, today, yearBegins) is not null ? named : "",
            kind.Compares is null ? ReportAgainst.Nothing : ReportAsk.AgainstOf(query["against"].ToString())
        );
    }

    /// <summary>What of the address makes it this report; days by name move with the calendar.</summary>
    internal string Query(bool movesOn)
    {
        static string D(DateOnly day) => day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        var days = Kind.Days switch
        {
            ReportDays.Range when movesOn && Named.Length > 0 => $"days={Named}",
            ReportDays.Range => $"from={D(Ask.From)}&until={D(Ask.Until)}",
            ReportDays.Day when movesOn => "",
            ReportDays.Day => $"on={D(Ask.Until)}",
            _ => "",
        };
        var parts = Ask
            .More.OrderBy(m => m.Key, StringComparer.Ordinal)
            .Select(m => $"{m.Key}={Uri.EscapeDataString(m.Value)}")
            .Prepend(Against == ReportAgainst.Nothing ? "" : $"against={Against.ToString().ToLowerInvariant()}")
            .Prepend(days);
        return string.Join('&', parts.Where(p => p.Length > 0));
    }

    /// <summary>The address of its file, but for the form.</summary>
    internal string FileAddress(string form) => $"/reports/{Kind.Name}/file?form={form}&{Query(false)}";
}
