using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>
/// What SQLite knows of the sizes of tables and of how many rows an index tells apart; it chooses its ways by that.
/// They are of whole tables: from samples it would take an account that all receipts came into for one of a thousand.
/// </summary>
public static class Statistics
{
    /// <summary>Fewer entries more than there were then are no reason to read everything again.</summary>
    private const int Few = 200;

    /// <summary>
    /// Brings them up to date where the journal has grown by a quarter since, or there are none. Where somebody else
    /// writes just then it is left for the next time.
    /// </summary>
    public static async Task RefreshAsync(BooksContext db, CancellationToken stop = default)
    {
        var entries = await db.Journal.MaxAsync(e => (int?)e.Id, stop) ?? 0;
        if (await KnownAsync(db, stop) is { } known && entries - known <= Math.Max(Few, known / 4))
            return;
        try
        {
            await MakeAsync(db, stop);
        }
        catch (SqliteException busy) when (busy.SqliteErrorCode is BooksTrouble.Locked) { }
    }

    internal static Task<int> MakeAsync(DbContext db, CancellationToken stop) =>
        db.Database.ExecuteSqlRawAsync("PRAGMA analysis_limit=0; ANALYZE", stop);

    /// <returns>How many entries the journal had then; null where there are no statistics.</returns>
    private static async Task<int?> KnownAsync(BooksContext db, CancellationToken stop)
    {
        var there = await db
            .Database.SqlQueryRaw<int>("SELECT count(*) AS Value FROM sqlite_master WHERE name = 'sqlite_stat1'")
            .SingleAsync(stop);
        return there == 0
            ? null
            : await db
                .Database.SqlQueryRaw<int?>(
                    "SELECT max(CAST(stat AS INTEGER)) AS Value FROM sqlite_stat1 WHERE tbl = 'Journal'"
                )
                .SingleAsync(stop);
    }
}
