using System.Globalization;
using Jugaad.Core;

namespace Jugaad.Formats.Bank;

/// <summary>
/// Finds out, over all days of a file, how they are written: which of day and month comes first above all.
/// </summary>
internal static class DayOrder
{
    private static readonly string[] DayFirst = ["d/M/yyyy", "d/M/yy", "d.M.yyyy", "d.M.yy", "d-M-yyyy", "d-M-yy"];
    private static readonly string[] MonthFirst = ["M/d/yyyy", "M/d/yy", "M.d.yyyy", "M.d.yy", "M-d-yyyy", "M-d-yy"];
    private static readonly string[] YearFirst = ["yyyy-M-d", "yyyy/M/d", "yyyy.M.d", "yyyyMMdd"];

    /// <param name="said"><c>day</c> or <c>month</c> where somebody said which comes first; else empty.</param>
    /// <param name="field">What a refusal of days that are none points to.</param>
    /// <returns>The days, in their order.</returns>
    /// <exception cref="RefusalException">When they are no days; by <c>columns</c>, when they could be read either
    /// way.</exception>
    internal static IReadOnlyList<DateOnly> Read(IReadOnlyList<string> texts, string said, string field)
    {
        if (All(texts, YearFirst) is { } plain)
            return plain;
        var (day, month) = (All(texts, DayFirst), All(texts, MonthFirst));
        if (said == "month" && month is not null)
            return month;
        if (said == "day" && day is not null)
            return day;
        if (day is null && month is null)
            throw new RefusalException(
                field,
                $"The days of this file, such as “{Figures.Short(texts.FirstOrDefault(t => !Reads(t)) ?? texts[0], 30)}”, cannot be read."
            );
        if (day is null || month is null || day.SequenceEqual(month))
            return (day ?? month)!;
        // A statement runs forward or backward in time. Of two readings, one that jumps about is not meant.
        return (Runs(day), Runs(month)) switch
        {
            (true, false) => day,
            (false, true) => month,
            _ => throw new RefusalException(
                "columns",
                $"“{texts[0]}” may be {day[0]:yyyy-MM-dd} or {month[0]:yyyy-MM-dd}, and no other day of the file tells. Say whether the day or the month comes first."
            ),
        };
    }

    private static bool Reads(string text) => All([text], DayFirst) is not null || All([text], MonthFirst) is not null;

    private static List<DateOnly>? All(IReadOnlyList<string> texts, string[] patterns)
    {
        var days = new List<DateOnly>();
        foreach (var text in texts)
        {
            if (!DateOnly.TryParseExact(text, patterns, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day))
                return null;
            days.Add(day);
        }

        return days;
    }

    private static bool Runs(List<DateOnly> days)
    {
        var distinct = days.Distinct().Count();
        return distinct > 1
            && (
                Enumerable.Range(1, days.Count - 1).All(i => days[i] >= days[i - 1])
                || Enumerable.Range(1, days.Count - 1).All(i => days[i] <= days[i - 1])
            )
            && days.Max().DayNumber - days.Min().DayNumber <= 400;
    }
}
