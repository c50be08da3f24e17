using System.Globalization;
using Jugaad.Core.Amounts;

namespace Jugaad.Desk.Lists;

/// <summary>A column of a report.</summary>
/// <param name="Key">Its name in files that programs read.</param>
/// <param name="Head">Its name for people.</param>
/// <param name="IsFigure">Whether it stands right-aligned.</param>
/// <param name="InFilesOnly">Whether a page, which has less room, does without it.</param>
public sealed record ReportColumn(string Key, string Head, bool IsFigure = false, bool InFilesOnly = false);

/// <summary>
/// A row of a report. A cell is text, a <see cref="DateOnly"/>, a <see cref="Money"/>, a whole number, or null for
/// none.
/// </summary>
/// <param name="Address">Where it leads; null for nowhere.</param>
/// <param name="IsSum">Whether it sums up others; then it is no row of its own in files.</param>
public sealed record ReportRow(IReadOnlyList<object?> Cells, string? Address = null, bool IsSum = false);

/// <summary>A report: the same for a page, for CSV, XLSX and JSON.</summary>
/// <param name="Name">As a file is called.</param>
/// <param name="About">What it is of, such as a range of days.</param>
public sealed record Report(
    string Name,
    string Title,
    string About,
    IReadOnlyList<ReportColumn> Columns,
    IReadOnlyList<ReportRow> Rows
)
{
    /// <summary>The same without some columns, by their keys.</summary>
    public Report Without(params string[] keys)
    {
        var kept = Enumerable.Range(0, Columns.Count).Where(i => !keys.Contains(Columns[i].Key)).ToList();
        return this with
        {
            Columns = kept.ConvertAll(i => Columns[i]),
            Rows = [.. Rows.Select(r => r with { Cells = kept.ConvertAll(i => r.Cells[i]) })],
        };
    }

    /// <summary>As a table for files: dates by ISO 8601, amounts as plain decimals.</summary>
    public Table ToTable() =>
        new(
            [.. Columns.Select(c => c.Head)],
            [.. Rows.Where(r => !r.IsSum).Select(r => (IReadOnlyList<string>)[.. r.Cells.Select(Text)])]
        );

    /// <summary>A cell as programs read it.</summary>
    public static string Text(object? cell) =>
        cell switch
        {
            null => "",
            DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            Money money => money.ToString(),
            IFormattable other => other.ToString(null, CultureInfo.InvariantCulture),
            _ => cell.ToString() ?? "",
        };
}
