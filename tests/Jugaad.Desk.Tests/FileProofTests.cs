using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>What is said of the file is true while others write in it.</summary>
public sealed class FileProofTests
{
    [Fact]
    public async Task A_check_on_a_connection_that_looked_before_others_wrote_finds_no_damage_that_is_none()
    {
        await using var loft = await Loft.OpenAsync();
        var file = await loft.WithAsync<BooksContext, string>(db =>
            Task.FromResult(db.Database.GetDbConnection().DataSource)
        );
        await using var old = new SqliteConnection(
            new SqliteConnectionStringBuilder { DataSource = file, Pooling = false }.ToString()
        );
        await old.OpenAsync();
        async Task<string> SaidAsync(string question)
        {
            await using var command = old.CreateCommand();
            command.CommandText = question;
            return $"{await command.ExecuteScalarAsync()}";
        }

        for (var round = 0; round < 3; round++)
        {
            await SaidAsync("SELECT count(*) FROM ReceiptsWords WHERE ReceiptsWords MATCH 'by'");
            await SaidAsync("PRAGMA integrity_check");
            for (var i = 0; i < 6; i++)
                await loft.ReceiveAsync(1_00 + i);
        }

        await using var db = new BooksContext(new DbContextOptionsBuilder<BooksContext>().UseSqlite(old).Options);
        (await new BooksCheck(db).RunAsync()).Differences.ShouldBeEmpty();
    }
}
