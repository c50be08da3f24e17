using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Papers;

namespace Jugaad.Desk.Standing;

/// <summary>Fields for the period in the texts of a standing invoice, such as <c>Storage for {{ Month }}</c>.</summary>
public static class PeriodFields
{
    /// <summary>The fields with what they mean, for the page.</summary>
    public static IReadOnlyList<(string Name, string Example)> All { get; } =
    [
        ("Month", "October 2025"),
        ("MonthName", "October"),
        ("NextMonth", "November 2025"),
        ("LastMonth", "September 2025"),
        ("Quarter", "4th quarter 2025"),
        ("Year", "2025"),
        ("Week", "week 40"),
        ("From", "the first day of the period"),
        ("Until", "its last day"),
        ("Count", "how often it has occurred, this time included"),
    ];

    /// <summary>Fills the fields of all texts.</summary>
    /// <param name="count">How often it has occurred, this time included.</param>
    /// <exception cref="RefusalException">When a text names a field that there is not, by its place.</exception>
    public static DraftContent Fill(DraftContent content, Schedule schedule, int index, int count, DisplayFormat format)
    {
        var values = Values(schedule.DayOf(index), schedule.PeriodEnd(index), count, format);
        string Text(string text, string field) =>
            text.Contains("{{", StringComparison.Ordinal) || text.Contains("{%", StringComparison.Ordinal)
                ? MailTexts.Fill(text, values, field)
                : text;
        var more = content.Particulars;
        return content with
        {
            Note = Text(content.Note, "note"),
            PurchaseOrder = Text(content.PurchaseOrder, "purchaseOrder"),
            Particulars = more with
            {
                Opening = Text(more.Opening, "opening"),
                Project = Text(more.Project, "project"),
                Reference = Text(more.Reference, "reference"),
            },
            Lines = [.. content.Lines.Select((l, i) => l with { Text = Text(l.Text, $"lines[{i}].text") })],
            Charges = [.. content.Charges.Select((c, i) => c with { Text = Text(c.Text, $"charges[{i}].text") })],
        };
    }

    private static Dictionary<string, object> Values(DateOnly from, DateOnly until, int count, DisplayFormat format)
    {
        static string Month(DateOnly day) => day.ToString("MMMM yyyy", CultureInfo.InvariantCulture);
        var quarter = ((from.Month - 1) / 3) + 1;
        var ordinal = quarter switch
        {
            1 => "1st",
            2 => "2nd",
            3 => "3rd",
            _ => "4th",
        };
        var first = new DateOnly(from.Year, from.Month, 1);
        return new()
        {
            ["Month"] = Month(from),
            ["MonthName"] = from.ToString("MMMM", CultureInfo.InvariantCulture),
            ["NextMonth"] = Month(first.AddMonths(1)),
            ["LastMonth"] = Month(first.AddMonths(-1)),
            ["Quarter"] = $"{ordinal} quarter {from.Year}",
            ["Year"] = from.Year.ToString(CultureInfo.InvariantCulture),
            ["Week"] = $"week {ISOWeek.GetWeekOfYear(from.ToDateTime(TimeOnly.MinValue))}",
            ["From"] = format.Date(from),
            ["Until"] = format.Date(until),
            ["Count"] = count.ToString(CultureInfo.InvariantCulture),
        };
    }
}
