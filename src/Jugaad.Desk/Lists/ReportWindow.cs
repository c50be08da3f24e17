using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Lists;

/// <summary>
/// The rows of a long report that are shown at once. With a window the database is asked for those alone.
/// </summary>
/// <param name="Skip">How many rows stand before them.</param>
/// <param name="Take">How many they are at the most; 0 for the sums alone.</param>
/// <param name="SumsUpTo">
/// Up to how many rows of the whole report the rows that sum all of it up come along; of a long one they take longer
/// than the others.
/// </param>
public sealed record ReportWindow(int Skip, int Take, int SumsUpTo)
{
    /// <summary>The sums alone, however long the report is.</summary>
    public static ReportWindow SumsAlone { get; } = new(0, 0, int.MaxValue);
}

/// <summary>Reads through windows.</summary>
internal static class Windows
{
    /// <summary>The rows in the window, or all of them, and of how many; null for all.</summary>
    internal static async Task<(List<T> Rows, int? Of)> WindowAsync<T>(
        this IQueryable<T> ordered,
        ReportWindow? window,
        CancellationToken stop
    ) =>
        window switch
        {
            null => (await ordered.ToListAsync(stop), null),
            { Take: 0 } => ([], 0),
            _ => (await ordered.Skip(window.Skip).Take(window.Take).ToListAsync(stop), await ordered.CountAsync(stop)),
        };

    /// <summary>Whether sums are to be made of a report of so many rows.</summary>
    internal static bool WantsSums(this ReportWindow? window, int? of) => window is null || of <= window.SumsUpTo;

    /// <summary>A part of a report that could not be read in parts.</summary>
    internal static Report Within(this Report whole, ReportWindow? window)
    {
        if (window is null)
            return whole;
        var rows = whole.Rows.Where(r => !r.IsSum).ToList();
        return whole with
        {
            Rows =
            [
                .. rows.Skip(window.Skip).Take(window.Take),
                .. window.WantsSums(rows.Count) ? whole.Rows.Where(r => r.IsSum) : [],
            ],
            Of = rows.Count,
        };
    }
}
