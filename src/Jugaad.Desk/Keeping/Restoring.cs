using System.Globalization;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Keeping;

/// <summary>
/// Brings a backup back. It is unpacked and proved beside what is there, which is put aside only then.
/// </summary>
public sealed class Restoring(IArchiveSeal seal, TimeProvider clock)
{
    /// <param name="held">Shows that nobody else has the folder.</param>
    /// <param name="privateKeys">Those that may open it, where it is sealed.</param>
    /// <returns>What the backup says of itself, and where the books before lie now; null where there were
    /// none.</returns>
    /// <exception cref="RefusalException">When it cannot be brought back; all is as it was then.</exception>
    public async Task<(ArchiveManifest Manifest, string? Aside)> RestoreAsync(
        string archive,
        BooksFile file,
        BooksLock held,
        IReadOnlyList<string> privateKeys,
        Action<string> said,
        CancellationToken stop = default
    )
    {
        ArgumentNullException.ThrowIfNull(held);
        FolderSwap.GoOn(file);
        var ready = FolderSwap.Begin(file);
        ArchiveManifest manifest;
        try
        {
            manifest = await new ArchiveReader(seal).UnpackAsync(archive, ready, privateKeys, stop);
            await MakeReadyAsync(
                Path.Combine(ready, "books.db"),
                $"the backup of {manifest.Made.ToLocalTime().ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture)}",
                said,
                stop
            );
        }
        catch
        {
            FolderSwap.GiveUp(file);
            throw;
        }

        SqliteConnection.ClearAllPools();
        return (manifest, FolderSwap.Finish(file, clock.GetLocalNow().DateTime));
    }

    /// <summary>
    /// Brings the newest backup back on trial, into a folder that is thrown away afterwards, and checks the books
    /// there.
    /// </summary>
    /// <returns>What is wrong with it; empty where nothing is.</returns>
    public async Task<string> TryAsync(
        string archive,
        string scratch,
        IReadOnlyList<string> privateKeys,
        CancellationToken stop = default
    )
    {
        var folder = Path.Combine(scratch, $"trial-{Guid.NewGuid():N}");
        Directory.CreateDirectory(folder);
        OwnersOnly.Folder(folder);
        try
        {
            await new ArchiveReader(seal).UnpackAsync(archive, folder, privateKeys, stop);
            var books = Path.Combine(folder, "books.db");
            if ((await new BooksSchema(books, path => BooksFile.Open(path)).LackingAsync(stop)).Count > 0)
                return "";
            await using var db = BooksFile.Open(books);
            var report = await new BooksCheck(db).RunAsync(stop);
            return report.Healthy ? "" : $"The books in it do not agree with themselves: {report.Differences[0]}";
        }
        catch (RefusalException refused)
        {
            return refused.Message;
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private async Task MakeReadyAsync(string books, string from, Action<string> said, CancellationToken stop)
    {
        var schema = new BooksSchema(books, path => BooksFile.Open(path));
        await schema.LiftAsync(said, stop);
        foreach (var copy in Directory.GetFiles(Path.GetDirectoryName(books)!, "books-before-*"))
            File.Delete(copy);
        await using var db = BooksFile.Open(books);
        if (await db.Businesses.SingleOrDefaultAsync(stop) is not { } business)
            return;
        var now = clock.GetUtcNow().UtcDateTime;
        business.Rest(now, from);
        db.Trail.Add(
            new TrailEntry
            {
                At = now,
                Day = business.PinnedDay ?? DateOnly.FromDateTime(clock.GetLocalNow().DateTime),
                Who = Environment.UserName,
                Text = RestingProof.BroughtBack + from,
            }
        );
        // Whatever was open at that time on whatever machine is not open here.
        foreach (var person in await db.Users.ToListAsync(stop))
            person.SecurityStamp = Guid.NewGuid().ToString("N");
        db.OpenSessions.RemoveRange(await db.OpenSessions.ToListAsync(stop));
        await db.SaveChangesAsync(stop);
    }
}
