using System.Globalization;
using Jugaad.Core.Amounts;

namespace Jugaad.Desk.Lists;

/// <summary>A column of a report.</summary>
/// <param name="Key">Its name in files that programs read.</param>
/// <param name="Head">Its name for people.</param>
/// <param name="IsFigure">Whether it stands right-aligned.</param>
/// <param name="InFilesOnly">Whether a page, which has less room, does without it.</param>
/// <param name="Adds">Whether its amounts or counts add up, so that they have a sum and can be compared.</param>
public sealed record ReportColumn(
    string Key,
    string Head,
    bool IsFigure = false,
    bool InFilesOnly = false,
    bool Adds = false
);

/// <summary>A cell in the program's own words, which its paper says in another language where one is asked for.</summary>
public sealed record SaidCell(string English)
{
    public override string ToString() => English;
}

/// <summary>
/// A row of a report. A cell is text, a <see cref="SaidCell"/>, a <see cref="DateOnly"/>, a <see cref="Money"/>, a whole number, or null for
/// none.
/// </summary>
/// <param name="Address">Where it leads; null for nowhere.</param>
/// <param name="IsSum">Whether it sums up others; then it is no row of its own in files.</param>
/// <param name="Key">What tells it apart from other rows, in this period and in another; null for its first cell.</param>
public sealed record ReportRow(
    IReadOnlyList<object?> Cells,
    string? Address = null,
    bool IsSum = false,
    string? Key = null
)
{
    /// <inheritdoc cref="ReportRow.Key"/>
    public string Identity => Key ?? Report.Text(Cells[0]);
}

/// <summary>Over what the figures of a report are drawn.</summary>
public enum DrawnOver
{
    /// <summary>Each beside its row.</summary>
    Rows,

    /// <summary>Above the table, its rows being months.</summary>
    Months,

    /// <summary>Above the table, its rows being days.</summary>
    Days,
}

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
    /// <summary>The column that is drawn as bars beside its figures; null for none.</summary>
    public string? Drawn { get; init; }

    /// <summary>Over what it is drawn.</summary>
    public DrawnOver Over { get; init; }

    /// <summary>Of how many rows, sums apart, these are a part; null where they are all.</summary>
    public int? Of { get; init; }

    /// <summary>With a last row that sums up each column that adds up; none where there is nothing to add.</summary>
    public Report Summed()
    {
        if (Rows.Count == 0)
            return this;
        var cells = Columns
            .Select((c, i) => c.Adds ? Added(Rows.Where(r => !r.IsSum).Select(r => r.Cells[i])) : null)
            .ToList();
        if (!Columns[0].Adds)
            cells[0] = "In all";
        return this with { Rows = [.. Rows, new ReportRow(cells, IsSum: true)] };
    }

    private static object? Added(IEnumerable<object?> cells)
    {
        object? sum = null;
        foreach (var cell in cells)
            sum = (sum, cell) switch
            {
                (null, _) => cell,
                (Money a, Money b) => a + b,
                (int a, int b) => a + b,
                (decimal a, decimal b) => a + b,
                _ => sum,
            };
        return sum;
    }

    /// <summary>
    /// Beside each amount of one column, what it was in another period and how much that is more or less. What was there
    /// only then has a row too.
    /// </summary>
    /// <param name="earlier">The same report of the other period; neither is summed yet.</param>
    /// <param name="key">The column that is compared; its cells are amounts of one currency.</param>
    public Report ComparedWith(Report earlier, string key, string head)
    {
        var at = Columns.ToList().FindIndex(c => c.Key == key);
        var then = earlier.Rows.ToDictionary(r => r.Identity);
        var now = Rows.Select(r => r.Identity).ToHashSet();
        ReportColumn[] columns =
        [
            .. Columns,
            new("before", head, true, Adds: true),
            new("change", "More or less", true, Adds: true),
        ];
        ReportRow With(ReportRow row, Money current, Money before) =>
            row with
            {
                Cells = [.. row.Cells, before, current - before],
            };
        return this with
        {
            Columns = columns,
            Rows =
            [
                .. Rows.Select(r =>
                {
                    var current = (Money)r.Cells[at]!;
                    return With(
                        r,
                        current,
                        then.TryGetValue(r.Identity, out var was)
                            ? (Money)was.Cells[at]!
                            : new Money(0, current.Currency)
                    );
                }),
                .. earlier
                    .Rows.Where(r => !now.Contains(r.Identity))
                    .Select(r =>
                    {
                        var before = (Money)r.Cells[at]!;
                        var none = new Money(0, before.Currency);
                        var empty = r with { Cells = [.. r.Cells.Select((c, i) => Columns[i].Adds ? Nothing(c) : c)] };
                        return With(empty, none, before);
                    }),
            ],
        };
    }

    private static object? Nothing(object? cell) =>
        cell switch
        {
            Money money => new Money(0, money.Currency),
            int => 0,
            decimal => 0m,
            _ => cell,
        };

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
