using System.Globalization;

namespace Jugaad.Desk.Reports;

/// <summary>What is asked of a report: its days, and whatever else narrows it, by the names of its fields.</summary>
/// <param name="Until">For what is told of one day, that day.</param>
public sealed record ReportAsk(DateOnly From, DateOnly Until, IReadOnlyDictionary<string, string> More)
{
    public ReportAsk(DateOnly from, DateOnly until)
        : this(from, until, new Dictionary<string, string>()) { }

    public string Range => $"{Day(From)} to {Day(Until)}";

    /// <summary>What a field says; empty where it says nothing.</summary>
    public string Of(string field) => More.GetValueOrDefault(field, "").Trim();

    /// <summary>Another report of the same days.</summary>
    public string Address(string name, params (string Field, string Value)[] more) =>
        $"/reports/{name}?from={Day(From)}&until={Day(Until)}"
        + string.Concat(more.Select(m => $"&{m.Field}={Uri.EscapeDataString(m.Value)}"));

    internal static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
