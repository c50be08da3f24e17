using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>
/// Has several reads see the books as of one moment, while others go on writing. Nothing may be saved inside. Within a
/// transaction that is there already, all of it sees one moment anyway.
/// </summary>
internal sealed class ReadMoment : IAsyncDisposable
{
    private readonly BooksContext _db;
    private readonly SqliteTransaction? _moment;

    private ReadMoment(BooksContext db, SqliteTransaction? moment) => (_db, _moment) = (db, moment);

    internal static async Task<ReadMoment> BeginAsync(BooksContext db, CancellationToken stop)
    {
        if (db.Database.CurrentTransaction is not null)
            return new ReadMoment(db, null);
        await db.Database.OpenConnectionAsync(stop);
        // A transaction that is deferred takes the lock of writers only once it writes.
        var moment = ((SqliteConnection)db.Database.GetDbConnection()).BeginTransaction(deferred: true);
        await db.Database.UseTransactionAsync(moment, stop);
        return new ReadMoment(db, moment);
    }

    public async ValueTask DisposeAsync()
    {
        if (_moment is null)
            return;
        await _db.Database.UseTransactionAsync(null);
        await _moment.DisposeAsync();
        await _db.Database.CloseConnectionAsync();
    }
}
