using System.Data.Common;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.Extensions.Caching.Memory;

namespace Jugaad.Desk.Books;

/// <summary>The folder in which one business's books are kept, and how their file is opened.</summary>
public sealed class BooksFile(string folder)
{
    /// <summary>
    /// What has been worked out of the program's questions, each once while it runs. By itself EF Core keeps some five
    /// hundred of them, fewer than there are, and works the rest out again at every asking. A question counts ten, and
    /// its text as much again.
    /// </summary>
    private static readonly MemoryCache WorkedOut = new(new MemoryCacheOptions { SizeLimit = 200_000 });

    public string Folder { get; } = Path.GetFullPath(folder);

    public string Database => Path.Combine(Folder, "books.db");

    /// <summary>Where the mail stand-in keeps what it was given.</summary>
    public string MailFolder => Path.Combine(Folder, "mail");

    /// <summary>Keys that protect sessions and kept passwords.</summary>
    public string KeysFolder => Path.Combine(Folder, "keys");

    /// <summary>Sets a context up for this file; writers begin at once and wait for each other.</summary>
    public void Configure(DbContextOptionsBuilder options) => Configure(options, Database, pooling: true);

    public BooksContext Open(Action<DbContextOptionsBuilder>? more = null)
    {
        var options = new DbContextOptionsBuilder<BooksContext>();
        Configure(options);
        more?.Invoke(options);
        return new BooksContext(options.Options);
    }

    /// <summary>Closes the connections to this file that are kept open for the next who asks.</summary>
    public void LetGo()
    {
        using var db = Open();
        SqliteConnection.ClearPool((SqliteConnection)db.Database.GetDbConnection());
    }

    /// <summary>
    /// Whether these are the demo's books, whose day is pinned; asked of the bare file, of whatever schema.
    /// </summary>
    public bool IsPinned()
    {
        using var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = Database,
                Mode = SqliteOpenMode.ReadOnly,
                Pooling = false,
            }.ToString()
        );
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "SELECT count(*) FROM Businesses WHERE PinnedDay IS NOT NULL";
        return command.ExecuteScalar() is > 0L;
    }

    /// <summary>How the file stands to this program's schema.</summary>
    public BooksSchema Schema => new(Database, path => Open(path));

    /// <summary>
    /// Makes the file or brings it up to date, after a copy of it has been put beside it. Only whoever has the folder's
    /// lock may.
    /// </summary>
    /// <param name="said">Told what is done, and what is waited for; nobody where it is null.</param>
    /// <exception cref="Core.RefusalException">When the file is damaged, kept by a newer program, or kept open by
    /// somebody.</exception>
    public async Task PrepareAsync(Action<string>? said = null, CancellationToken stop = default)
    {
        Directory.CreateDirectory(Folder);
        OwnersOnly.Folder(Folder);
        await Schema.LiftAsync(said ?? (_ => { }), stop);
    }

    /// <summary>Opens a file by itself, with a connection that is closed with the context.</summary>
    internal static BooksContext Open(string path, Action<DbContextOptionsBuilder>? more = null)
    {
        var options = new DbContextOptionsBuilder<BooksContext>();
        Configure(options, path, pooling: false);
        more?.Invoke(options);
        return new BooksContext(options.Options);
    }

    private static void Configure(DbContextOptionsBuilder options, string path, bool pooling) =>
        options
            .UseSqlite(
                new SqliteConnectionStringBuilder
                {
                    DataSource = path,
                    ForeignKeys = true,
                    DefaultTimeout = 30,
                    Pooling = pooling,
                }.ToString(),
                // A list of ids is one parameter: with one for each, the text of the query would be made anew for every
                // count of them.
                sqlite =>
                    sqlite
                        .UseQuerySplittingBehavior(QuerySplittingBehavior.SplitQuery)
                        .UseParameterizedCollectionMode(ParameterTranslationMode.Parameter)
            )
            .UseMemoryCache(WorkedOut)
            .AddInterceptors(AsOpened.Instance);

    /// <summary>
    /// Each connection waits a little for another, and holds 16 MB of the file at the most: what is summed customer by
    /// customer comes back to the same pages over and over.
    /// </summary>
    private sealed class AsOpened : DbConnectionInterceptor
    {
        internal static readonly AsOpened Instance = new();

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData) =>
            Set(connection);

        public override Task ConnectionOpenedAsync(
            DbConnection connection,
            ConnectionEndEventData eventData,
            CancellationToken cancellationToken = default
        )
        {
            Set(connection);
            return Task.CompletedTask;
        }

        private static void Set(DbConnection connection)
        {
            using var command = connection.CreateCommand();
            command.CommandText = "PRAGMA busy_timeout=100; PRAGMA cache_size=-16000";
            command.ExecuteNonQuery();
        }
    }
}

/// <summary>For the migrations tool only.</summary>
internal sealed class DesignTimeBooks : Microsoft.EntityFrameworkCore.Design.IDesignTimeDbContextFactory<BooksContext>
{
    public BooksContext CreateDbContext(string[] args) =>
        new BooksFile(Path.Combine(Path.GetTempPath(), "jugaad-design")).Open();
}
