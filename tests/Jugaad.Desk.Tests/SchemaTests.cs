using System.Diagnostics;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Daily;
using Jugaad.Stopper;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// One server a folder; books of other versions and damaged files; and a file that is brought up to date, stopped or
/// not.
/// </summary>
public sealed class SchemaTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("jugaad-schema-").FullName;

    private string Path => System.IO.Path.Combine(_folder, "boats.db");

    private string Copy => Boats.Schema(Path).CopyBefore("20250201000000_Sails");

    /// <summary>
    /// In books in which nothing revises anything, all rows are alike in that, and statistics say so.
    /// </summary>
    [Theory]
    [InlineData("Documents", "RevisesId")]
    [InlineData("Documents", "FromDocumentId")]
    [InlineData("DocumentLine", "FromLineId")]
    [InlineData("Trail", "ReceiptId")]
    [InlineData("Journal", "ReceiptId")]
    public async Task What_is_empty_nearly_everywhere_is_looked_up_by_its_index_whatever_the_statistics_say(
        string table,
        string column
    )
    {
        await using var loft = await Loft.OpenAsync();
        for (var i = 0; i < 3; i++)
            await loft.IssuedAsync();
        await loft.ExecuteAsync("ANALYZE");
        await using var db = loft.File.Open();
        await db.Database.OpenConnectionAsync();
        await using var ask = db.Database.GetDbConnection().CreateCommand();
        ask.CommandText = $"EXPLAIN QUERY PLAN SELECT * FROM \"{table}\" WHERE \"{column}\" = 5";
        await using var plan = await ask.ExecuteReaderAsync();
        (await plan.ReadAsync()).ShouldBeTrue();
        plan.GetString(3).ShouldContain($"IX_{table}_{column}");
    }

    [Fact]
    public async Task A_days_run_brings_the_statistics_up_to_date()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        await loft.WithAsync<DailyRun>(run => run.RunAsync());
        const string known = "SELECT max(CAST(stat AS INTEGER)) FROM sqlite_stat1 WHERE tbl = 'Journal'";
        (await loft.NumberAsync(known)).ShouldBe(1);
        await loft.IssuedAsync();
        await loft.WithAsync<DailyRun>(run => run.RunAsync());
        (await loft.NumberAsync(known)).ShouldBe(1, "a few more are no reason to read everything again");
        await loft.ExecuteAsync("UPDATE sqlite_stat1 SET stat = '-500 1' WHERE tbl = 'Journal'");
        await loft.WithAsync<DailyRun>(run => run.RunAsync());
        (await loft.NumberAsync(known)).ShouldBe(2);
    }

    [Fact]
    public void A_folder_is_one_servers_and_a_second_hears_whose()
    {
        var file = new BooksFile(_folder);
        using (var first = BooksLock.Hold(file, "by ./jugaad serve"))
        {
            Should
                .Throw<RefusalException>(() => BooksLock.Hold(file, "by another"))
                .Message.ShouldContain($"in use by ./jugaad serve, process {Environment.ProcessId} on ");
            first.Say("by ./jugaad serve at http://127.0.0.1:1");
            Should
                .Throw<RefusalException>(() => BooksLock.Hold(file, "by another"))
                .Message.ShouldContain("at http://127.0.0.1:1");
            first.Say("by ./jugaad serve at http://127.0.0.1:17");
            BooksLock.AddressOf(file).ShouldBe("http://127.0.0.1:17");
        }

        BooksLock.AddressOf(file).ShouldBeNull();
        BooksLock.Hold(file, "by ./jugaad serve").Dispose();
    }

    [Fact]
    public async Task Books_of_a_newer_schema_are_refused_with_both_versions()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.ExecuteAsync("INSERT INTO __EFMigrationsHistory VALUES ('29991231000000_Later', '99.0')");
        var said = (await Should.ThrowAsync<RefusalException>(() => loft.File.Schema.LackingAsync())).Message;
        said.ShouldContain("29991231000000_Later");
        said.ShouldContain($"knows up to {loft.File.Open().Database.GetMigrations().Last()}");
        await loft.ExecuteAsync(
            "UPDATE __EFMigrationsHistory SET MigrationId = '20000101000000_Odd' WHERE MigrationId LIKE '2999%'"
        );
        (await Should.ThrowAsync<OlderBooksException>(() => loft.File.Schema.LackingAsync())).Message.ShouldContain(
            "20000101000000_Odd, that this Jugaad does not know"
        );
        // The demo makes its own anew, and only its own.
        loft.File.IsPinned().ShouldBeFalse();
        await loft.BeTheDemoAsync();
        loft.File.IsPinned().ShouldBeTrue();
    }

    [Theory]
    [InlineData("not a database")]
    [InlineData("torn")]
    [InlineData("emptied")]
    public async Task A_damaged_file_is_said_in_words_with_what_to_do(string how)
    {
        await using var loft = await Loft.OpenAsync();
        await loft.ExecuteAsync("PRAGMA wal_checkpoint(TRUNCATE)");
        SqliteConnection.ClearAllPools();
        var bytes = await File.ReadAllBytesAsync(loft.File.Database);
        if (how == "not a database")
            bytes = "a letter to a friend, and no books at all, over and over"u8.ToArray();
        else if (how == "torn")
            Array.Fill<byte>(bytes, 0x5A, bytes.Length / 4, bytes.Length / 2);
        else
            bytes = [];
        if (how == "emptied")
            Directory.CreateDirectory(loft.File.KeysFolder);
        await File.WriteAllBytesAsync(loft.File.Database, bytes);
        var said = (await Should.ThrowAsync<RefusalException>(() => loft.File.PrepareAsync())).Message;
        said.ShouldContain("is damaged");
        said.ShouldContain($"./jugaad restore FILE --data {loft.File.Folder}");
        (await File.ReadAllBytesAsync(loft.File.Database)).ShouldBe(bytes, "a damaged file is left as it is");
    }

    /// <summary>
    /// Whatever command it is stopped after, the books are as they were, and the next start brings them up to date.
    /// </summary>
    [Theory]
    [InlineData(2)]
    [InlineData(5)]
    [InlineData(8)]
    [InlineData(11)]
    [InlineData(14)]
    public async Task Stopped_while_it_is_brought_up_to_date_it_begins_again(int command)
    {
        await EarlierAsync();
        using (
            var process = Process.Start(
                new ProcessStartInfo(
                    "dotnet",
                    [
                        System.IO.Path.Combine(AppContext.BaseDirectory, "Jugaad.Stopper.dll"),
                        Path,
                        command.ToString(),
                        "migrate",
                    ]
                )
            )!
        )
        {
            await process.WaitForExitAsync();
            process.ExitCode.ShouldBe(137);
        }

        await using (var db = Boats.Open(Path))
            (await db.Database.GetAppliedMigrationsAsync()).ShouldBe(["20250101000000_Begin"]);
        await LiftedAsync();
        Directory
            .GetFiles(_folder)
            .Select(System.IO.Path.GetFileName)
            .Order()
            .ShouldBe(["boats-before-20250201000000_Sails.db", "boats.db"]);
    }

    [Fact]
    public async Task The_lock_of_a_stopped_program_does_not_hold_the_next_one_up()
    {
        await EarlierAsync();
        await using (var db = Boats.Open(Path))
            await db.Database.ExecuteSqlRawAsync(
                "CREATE TABLE IF NOT EXISTS __EFMigrationsLock (Id INTEGER NOT NULL PRIMARY KEY, Timestamp TEXT NOT NULL); INSERT INTO __EFMigrationsLock VALUES (1, '2025-01-01')"
            );
        await LiftedAsync();
    }

    [Fact]
    public async Task Books_that_an_earlier_program_left_half_way_are_not_touched_nor_is_their_copy()
    {
        await EarlierAsync();
        await using (var db = Boats.Open(Path))
            await db.Database.ExecuteSqlRawAsync("CREATE TABLE ef_temp_Boats (Id INTEGER)");
        await File.WriteAllTextAsync(Copy, "the good copy");
        (await Should.ThrowAsync<RefusalException>(() => Boats.Schema(Path).LiftAsync(_ => { }))).Message.ShouldContain(
            "Restore the copy that it made before"
        );
        (await File.ReadAllTextAsync(Copy)).ShouldBe("the good copy");
    }

    [Fact]
    public async Task It_waits_for_who_still_reads_and_says_so()
    {
        await EarlierAsync();
        await using (var db = Boats.Open(Path))
            await db.Database.ExecuteSqlRawAsync("PRAGMA journal_mode=WAL");
        var reader = new SqliteConnection($"Data Source={Path};Pooling=False");
        await reader.OpenAsync();
        var said = new List<string>();
        await using (var begun = reader.CreateCommand())
        {
            begun.CommandText = "BEGIN; SELECT count(*) FROM Boats";
            await begun.ExecuteScalarAsync();
        }

        await Boats
            .Schema(Path)
            .LiftAsync(words =>
            {
                said.Add(words);
                if (words.Contains("waiting for it to end", StringComparison.Ordinal))
                    reader.Dispose();
            });
        said.Count(w => w.Contains("waiting for it to end", StringComparison.Ordinal)).ShouldBe(1);
        (await CountAsync(Path)).ShouldBe(500);
    }

    private async Task LiftedAsync()
    {
        await Boats.Schema(Path).LiftAsync(_ => { });
        (await Boats.Schema(Path).LackingAsync()).ShouldBeEmpty();
        (await CountAsync(Path, "WHERE Sails = 2")).ShouldBe(500);
        (await CountAsync(Copy)).ShouldBe(500);
    }

    /// <summary>A file as the first step left it.</summary>
    private async Task EarlierAsync()
    {
        await using var db = Boats.Open(Path);
        await db.Database.MigrateAsync("20250101000000_Begin");
    }

    private static async Task<int> CountAsync(string path, string where = "")
    {
        await using var db = Boats.Open(path);
        await db.Database.OpenConnectionAsync();
        await using var command = db.Database.GetDbConnection().CreateCommand();
#pragma warning disable CA2100 // The words come from this test.
        command.CommandText = $"SELECT count(*) FROM Boats {where}";
#pragma warning restore CA2100
        return Convert.ToInt32(await command.ExecuteScalarAsync(), System.Globalization.CultureInfo.InvariantCulture);
    }

    public void Dispose() => Directory.Delete(_folder, recursive: true);
}
