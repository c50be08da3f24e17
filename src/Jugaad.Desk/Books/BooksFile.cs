using System.Data.Common;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Jugaad.Desk.Books;

/// <summary>The folder in which one business's books are kept, and how their file is opened.</summary>
public sealed class BooksFile(string folder)
{
    public string Folder { get; } = Path.GetFullPath(folder);

    public string Database => Path.Combine(Folder, "books.db");

    /// <summary>Where the mail stand-in keeps what it was given.</summary>
    public string MailFolder => Path.Combine(Folder, "mail");

    /// <summary>Keys that protect sessions and kept passwords.</summary>
    public string KeysFolder => Path.Combine(Folder, "keys");

    /// <summary>Sets a context up for this file; writers begin at once and wait for each other.</summary>
    public void Configure(DbContextOptionsBuilder options) => options
        .UseSqlite(new SqliteConnectionStringBuilder { DataSource = Database, ForeignKeys = true, DefaultTimeout = 30, Pooling = true }.ToString(),
            sqlite => sqlite.UseQuerySplittingBehavior(QuerySplittingBehavior.SplitQuery))
        .AddInterceptors(BusyWait.Instance);

    public BooksContext Open(Action<DbContextOptionsBuilder>? more = null)
    {
        var options = new DbContextOptionsBuilder<BooksContext>();
        Configure(options);
        more?.Invoke(options);
        return new BooksContext(options.Options);
    }

    /// <summary>Makes the file or brings it up to date, after a copy of it has been put beside it.</summary>
    public async Task PrepareAsync(CancellationToken stop = default)
    {
        Directory.CreateDirectory(Folder);
        if (!OperatingSystem.IsWindows()) File.SetUnixFileMode(Folder, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        var there = File.Exists(Database);
        await using var db = Open();
        var pending = (await db.Database.GetPendingMigrationsAsync(stop)).ToList();
        if (pending.Count == 0) return;
        if (there)
        {
            var copy = Path.Combine(Folder, $"books-before-{pending[0]}.db");
            if (!File.Exists(copy)) await db.Database.ExecuteSqlAsync($"VACUUM INTO {copy}", stop);
        }

        await db.Database.MigrateAsync(stop);
        await db.Database.ExecuteSqlRawAsync("PRAGMA journal_mode=WAL", stop);
    }

    private sealed class BusyWait : DbConnectionInterceptor
    {
        internal static readonly BusyWait Instance = new();

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData) => Set(connection);

        public override Task ConnectionOpenedAsync(DbConnection connection, ConnectionEndEventData eventData, CancellationToken cancellationToken = default)
        {
            Set(connection);
            return Task.CompletedTask;
        }

        private static void Set(DbConnection connection)
        {
            using var command = connection.CreateCommand();
            command.CommandText = "PRAGMA busy_timeout=10000";
            command.ExecuteNonQuery();
        }
    }
}

/// <summary>For the migrations tool only.</summary>
internal sealed class DesignTimeBooks : Microsoft.EntityFrameworkCore.Design.IDesignTimeDbContextFactory<BooksContext>
{
    public BooksContext CreateDbContext(string[] args) => new BooksFile(Path.Combine(Path.GetTempPath(), "jugaad-design")).Open();
}
