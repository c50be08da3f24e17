using System.Security.Cryptography;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Keeping;

/// <summary>Makes a backup into a file, sealed where a key is set, and notes it in the trail.</summary>
public sealed class BackupMaking(
    BooksContext db,
    BookWriter writer,
    BooksFile file,
    ArchiveWriter archive,
    IArchiveSeal seal
)
{
    private string TrialPublic => Path.Combine(file.KeysFolder, "backup-trial.public.asc");

    private string TrialPrivate => Path.Combine(file.KeysFolder, "backup-trial.private.asc");

    /// <summary>
    /// As they are kept, or as they are at first; <see cref="KeptSettingsAsync"/> is for changing them.
    /// </summary>
    public async Task<BackupSettings> SettingsAsync(CancellationToken stop = default) =>
        await db.BackupSettings.AsNoTracking().FirstOrDefaultAsync(stop) ?? new BackupSettings();

    /// <summary>The settings to be changed; inside a use case. They get their mark when they are first kept.</summary>
    internal async Task<BackupSettings> KeptSettingsAsync(CancellationToken stop)
    {
        if (await db.BackupSettings.FirstOrDefaultAsync(stop) is { } kept)
            return kept;
        var made = new BackupSettings { Mark = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(4)) };
        db.BackupSettings.Add(made);
        return made;
    }

    /// <param name="path">The file to write.</param>
    /// <param name="publicKey">Whom it is sealed for; empty for a plain file.</param>
    /// <exception cref="RefusalException">When whoever acts may not, or it cannot be written.</exception>
    public async Task<ArchiveManifest> MakeAsync(string path, string publicKey, CancellationToken stop = default)
    {
        writer.Must(Right.Keep);
        ArchiveManifest manifest;
        try
        {
            manifest = await archive.WriteAsync(
                path,
                publicKey.Length > 0 ? [publicKey, await TrialKeyAsync(stop)] : [],
                stop
            );
        }
        catch (Exception cannot) when (cannot is IOException or UnauthorizedAccessException)
        {
            var folder = Path.GetDirectoryName(Path.GetFullPath(path))!;
            throw new RefusalException(
                "to",
                Directory.Exists(folder) && DiskRoom.IsFull(folder)
                    ? $"The disk of {folder} is full, so no backup was made. Make room there."
                    : $"No backup was made: {cannot.Message}"
            );
        }

        await writer.NoteAsync(
            Right.Keep,
            $"Backed up into {Path.GetFileName(path)}{(publicKey.Length > 0 ? ", sealed" : "")}"
        );
        return manifest;
    }

    /// <summary>
    /// The private keys that this machine has itself. With it sealed backups are brought back on trial; whoever has
    /// this machine has the books anyway, and a backup in strange hands is as closed as before.
    /// </summary>
    internal IReadOnlyList<string> OwnKeys() => File.Exists(TrialPrivate) ? [File.ReadAllText(TrialPrivate)] : [];

    private async Task<string> TrialKeyAsync(CancellationToken stop)
    {
        if (!File.Exists(TrialPublic) || !File.Exists(TrialPrivate))
        {
            Directory.CreateDirectory(file.KeysFolder);
            OwnersOnly.Folder(file.KeysFolder);
            var key = seal.NewKey("Jugaad, for trying backups out on this machine");
            await File.WriteAllTextAsync(TrialPrivate, key.Private, stop);
            OwnersOnly.File(TrialPrivate);
            await File.WriteAllTextAsync(TrialPublic, key.Public, stop);
        }

        return await File.ReadAllTextAsync(TrialPublic, stop);
    }
}
