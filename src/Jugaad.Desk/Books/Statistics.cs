using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>What SQLite knows of the sizes of tables and of how many rows an index tells apart; it chooses its ways by that.</summary>
public static class Statistics
{
    /// <summary>
    /// Brings them up to date where a table has grown or shrunk much since, from samples of a thousand rows an index: moments,
    /// whatever the books' size. Where somebody else writes just then it is left for the next time.
    /// </summary>
    public static async Task RefreshAsync(BooksContext db, CancellationToken stop = default)
    {
        try
        {
            // All tables (0x10000), and those that need it (0x02).
            await db.Database.ExecuteSqlRawAsync("PRAGMA analysis_limit=1000; PRAGMA optimize=0x10002", stop);
        }
        catch (SqliteException busy) when (busy.SqliteErrorCode is BooksTrouble.Locked) { }
    }
}
