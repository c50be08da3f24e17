using System.Formats.Tar;
using System.IO.Compression;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Keeping;

/// <summary>
/// Writes all that a books' folder holds into one file while the program goes on: a tar (POSIX pax) compressed by gzip
/// (RFC 1952), sealed where there are keys to seal it to. The books are copied by SQLite's own backup, so that they are
/// as of one moment.
/// </summary>
public sealed class ArchiveWriter(BooksFile file, IArchiveSeal seal, TimeProvider clock)
{
    /// <summary>Where half-made things lie; emptied at each start.</summary>
    public static string Scratch(BooksFile file) => Path.Combine(file.Folder, "scratch");

    /// <param name="path">The file to write; one that is there is replaced once the new one is whole.</param>
    /// <param name="publicKeys">Those for whose holders it is sealed; none for a plain file.</param>
    /// <exception cref="IOException">When it cannot be written; what was there is as it was.</exception>
    public async Task<ArchiveManifest> WriteAsync(
        string path,
        IReadOnlyList<string> publicKeys,
        CancellationToken stop = default
    )
    {
        Directory.CreateDirectory(Scratch(file));
        OwnersOnly.Folder(Scratch(file));
        var copy = Path.Combine(Scratch(file), $"{Guid.NewGuid():N}.db");
        var part = $"{path}.part";
        try
        {
            await CopyBooksAsync(copy, stop);
            ArchiveManifest manifest;
            await using (var target = File.Create(part))
            {
                OwnersOnly.File(part);
                manifest = await WriteAsync(target, copy, publicKeys, stop);
            }

            Durable.Replace(part, path);
            return manifest;
        }
        finally
        {
            foreach (var left in new[] { copy, $"{copy}-journal", $"{copy}-wal", $"{copy}-shm", part })
                File.Delete(left);
        }
    }

    /// <summary>
    /// By SQLite's own online backup: whole, as of one moment, with what is still in the log; nobody waits for it.
    /// </summary>
    private async Task CopyBooksAsync(string copy, CancellationToken stop)
    {
        await using var from = file.Open();
        await from.Database.OpenConnectionAsync(stop);
        await using var to = new SqliteConnection(
            new SqliteConnectionStringBuilder { DataSource = copy, Pooling = false }.ToString()
        );
        await to.OpenAsync(stop);
        OwnersOnly.File(copy);
        ((SqliteConnection)from.Database.GetDbConnection()).BackupDatabase(to);
        await using var single = to.CreateCommand();
        single.CommandText = "PRAGMA journal_mode=DELETE";
        await single.ExecuteNonQueryAsync(stop);
    }

    private async Task<ArchiveManifest> WriteAsync(
        Stream target,
        string copy,
        IReadOnlyList<string> publicKeys,
        CancellationToken stop
    )
    {
        var files = new List<ArchivedFile>();
        await using var outer = publicKeys.Count > 0 ? seal.Seal(target, publicKeys) : null;
        await using var packed = new GZipStream(outer ?? target, CompressionLevel.Optimal, leaveOpen: true);
        await using var tar = new TarWriter(packed, TarEntryFormat.Pax, leaveOpen: true);
        await AddAsync(tar, files, copy, "books.db", stop);
        foreach (var folder in new[] { file.KeysFolder, file.MailFolder }.Where(Directory.Exists))
        {
            foreach (var one in Directory.EnumerateFiles(folder).Order(StringComparer.Ordinal))
                await AddAsync(tar, files, one, $"{Path.GetFileName(folder)}/{Path.GetFileName(one)}", stop);
        }
        await using var db = BooksFile.Open(copy);
        var manifest = new ArchiveManifest(
            ArchiveManifest.PresentForm,
            clock.GetUtcNow().UtcDateTime,
            (await db.Businesses.AsNoTracking().FirstOrDefaultAsync(stop))?.Name ?? "",
            (await db.Database.GetAppliedMigrationsAsync(stop)).LastOrDefault() ?? "",
            files
        );
        using var last = new MemoryStream(manifest.ToBytes());
        await tar.WriteEntryAsync(Entry(ArchiveManifest.FileName, last), stop);
        return manifest;
    }

    private static async Task AddAsync(
        TarWriter tar,
        List<ArchivedFile> files,
        string path,
        string name,
        CancellationToken stop
    )
    {
        await using var content = new FileStream(
            path,
            FileMode.Open,
            FileAccess.Read,
            FileShare.ReadWrite | FileShare.Delete
        );
        await using var hashed = new CountedHash(content);
        await tar.WriteEntryAsync(Entry(name, hashed), stop);
        files.Add(new ArchivedFile(name, hashed.Count, hashed.Hex()));
    }

    private static PaxTarEntry Entry(string name, Stream content) =>
        new(TarEntryType.RegularFile, name)
        {
            DataStream = content,
            Mode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
        };
}
