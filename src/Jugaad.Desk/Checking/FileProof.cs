using System.Data.Common;
using Jugaad.Desk.Books;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// The file itself is whole, by SQLite's own check of all of it, and every row that points to another finds it.
/// </summary>
internal sealed class FileProof(BooksContext db) : IProof
{
    private const int MostSaid = 20;

    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        await db.Database.OpenConnectionAsync(stop);
        try
        {
            var ours = db.Database.GetDbConnection();
            // A connection remembers how the tables of words were built when it last looked. Where others wrote since,
            // SQLite's check would take what is new there for damage; one that never looked remembers nothing.
            await using var fresh =
                db.Database.CurrentTransaction is null && ours.DataSource.Length > 0
                    ? new SqliteConnection(
                        new SqliteConnectionStringBuilder(ours.ConnectionString) { Pooling = false }.ToString()
                    )
                    : null;
            if (fresh is not null)
                await fresh.OpenAsync(stop);
            foreach (var said in await RowsAsync(fresh ?? ours, $"PRAGMA integrity_check({MostSaid})", stop))
                if (said[0] != "ok")
                    findings.Add($"The books' file is damaged: {said[0]}. Go back to the newest backup");
            foreach (var broken in (await RowsAsync(ours, "PRAGMA foreign_key_check", stop)).Take(MostSaid))
                findings.Add($"Row {broken[1]} of {broken[0]}: points to one of {broken[2]} that is not there");
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }

    private static async Task<List<string[]>> RowsAsync(
        DbConnection connection,
        string question,
        CancellationToken stop
    )
    {
        await using var command = connection.CreateCommand();
#pragma warning disable CA2100 // The words are our own.
        command.CommandText = question;
#pragma warning restore CA2100
        await using var reader = await command.ExecuteReaderAsync(stop);
        var rows = new List<string[]>();
        while (await reader.ReadAsync(stop))
            rows.Add([
                .. Enumerable
                    .Range(0, reader.FieldCount)
                    .Select(i => reader.IsDBNull(i) ? "" : reader.GetValue(i).ToString() ?? ""),
            ]);
        return rows;
    }
}
