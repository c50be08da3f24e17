using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>What is searched by words is what the rows say, and the database goes on keeping it so.</summary>
internal sealed class WordsProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var there = await db
            .Database.SqlQuery<string>($"SELECT name AS \"Value\" FROM sqlite_master WHERE type = 'trigger'")
            .ToListAsync(stop);
        foreach (var table in WordTables.All)
        {
            foreach (var trigger in table.Triggers)
                findings.Unless(
                    there.Contains(trigger),
                    $"The trigger {trigger}, which keeps the search true, is missing"
                );
#pragma warning disable EF1002 // Only names of ours.
            var wrong = await db
                .Database.SqlQueryRaw<int>(
                    $"SELECT t.\"Id\" AS \"Value\" FROM \"{table.Of}\" AS t LEFT JOIN \"{table.Name}\" AS w ON w.rowid = t.\"Id\" WHERE w.Words IS NOT {table.TextOf("t")} LIMIT 3"
                )
                .ToListAsync(stop);
            var strange = await db
                .Database.SqlQueryRaw<int>(
                    $"SELECT w.rowid AS \"Value\" FROM \"{table.Name}\" AS w WHERE NOT EXISTS (SELECT 1 FROM \"{table.Of}\" AS t WHERE t.\"Id\" = w.rowid) LIMIT 3"
                )
                .ToListAsync(stop);
#pragma warning restore EF1002
            foreach (var id in wrong)
                findings.Unless(false, $"What is searched of row {id} of {table.Of} is not what the row says");
            foreach (var id in strange)
                findings.Unless(false, $"The search still finds row {id} of {table.Of}, which is not there");
        }
    }
}
