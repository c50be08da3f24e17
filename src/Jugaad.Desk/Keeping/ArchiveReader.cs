using System.Formats.Tar;
using System.IO.Compression;
using System.Text.RegularExpressions;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;

namespace Jugaad.Desk.Keeping;

/// <summary>
/// Unpacks a backup and compares every file with what the backup says of itself. Nothing is taken for granted: names
/// lead nowhere but into the folder, only files are taken, and no more than the disk holds.
/// </summary>
public sealed partial class ArchiveReader(IArchiveSeal seal)
{
    private const int MostFiles = 200_000;
    private const int MostManifest = 64 * 1024 * 1024;

    /// <param name="path">The backup.</param>
    /// <param name="folder">An empty folder to unpack into.</param>
    /// <param name="privateKeys">Those that may open it, if it is sealed.</param>
    /// <exception cref="RefusalException">When it is no backup, cut off, changed, or sealed for somebody else. What was
    /// unpacked is to be thrown away then.</exception>
    public async Task<ArchiveManifest> UnpackAsync(
        string path,
        string folder,
        IReadOnlyList<string> privateKeys,
        CancellationToken stop = default
    )
    {
        await using var file = File.OpenRead(path);
        var head = new byte[16];
        var length = await file.ReadAtLeastAsync(head, head.Length, throwOnEndOfStream: false, stop);
        file.Position = 0;
        var isSealed = seal.IsSealed(head.AsSpan(0, length));
        if (isSealed && privateKeys.Count == 0)
            throw new RefusalException(
                "key",
                $"{path} is sealed. Give the file with the private half of its key with --key; it was shown when the key was made."
            );
        try
        {
            await using var opened = isSealed ? seal.Open(file, privateKeys) : null;
            await using var unpacked = new GZipStream(opened ?? file, CompressionMode.Decompress, leaveOpen: true);
            var manifest = await UnpackAsync(unpacked, folder, stop);
            // Whatever comes after the tar belongs to it too: a seal is only proved at its end.
            await unpacked.CopyToAsync(Stream.Null, stop);
            if (opened is not null)
                await opened.CopyToAsync(Stream.Null, stop);
            return manifest;
        }
        catch (Exception broken)
            when (broken
                    is InvalidDataException
                        or FormatException
                        or EndOfStreamException
                        or OverflowException
                        or ArgumentException
                        or NotSupportedException
                        or InvalidOperationException
            )
        {
            throw new RefusalException(
                "file",
                $"{path} is no backup of Jugaad, or was cut off or damaged on its way ({broken.Message}). Take another one."
            );
        }
    }

    private static async Task<ArchiveManifest> UnpackAsync(Stream unpacked, string folder, CancellationToken stop)
    {
        var found = new Dictionary<string, ArchivedFile>();
        ArchiveManifest? manifest = null;
        await using var tar = new TarReader(unpacked, leaveOpen: true);
        while (await tar.GetNextEntryAsync(copyData: false, stop) is { } entry)
        {
            if (
                manifest is not null
                || entry.EntryType is not (TarEntryType.RegularFile or TarEntryType.V7RegularFile)
                || !Names().IsMatch(entry.Name)
                || found.Count >= MostFiles
            )
                throw new InvalidDataException($"“{entry.Name}” does not belong there");
            if (entry.Name == ArchiveManifest.FileName)
            {
                manifest = await ManifestAsync(entry, stop);
                continue;
            }

            if (!found.TryAdd(entry.Name, await UnpackAsync(entry, Path.Combine(folder, entry.Name), stop)))
                throw new InvalidDataException($"“{entry.Name}” is there twice");
        }

        if (manifest is null)
            throw new InvalidDataException("its end is missing");
        if (manifest.Form > ArchiveManifest.PresentForm)
            throw new RefusalException(
                "file",
                $"This backup was made by a newer Jugaad, in form {manifest.Form}; this one reads up to {ArchiveManifest.PresentForm}. Use the newer one."
            );
        if (manifest.Files.FirstOrDefault(f => !found.TryGetValue(f.Name, out var there) || there != f) is { } other)
            throw new InvalidDataException($"“{other.Name}” is missing or not as it was written");
        if (manifest.Files.Count != found.Count || !found.ContainsKey("books.db"))
            throw new InvalidDataException("it does not hold what it says");
        return manifest;
    }

    private static async Task<ArchiveManifest?> ManifestAsync(TarEntry entry, CancellationToken stop)
    {
        if (entry.Length > MostManifest || entry.DataStream is null)
            throw new InvalidDataException("its list of files is too long");
        using var bytes = new MemoryStream();
        await entry.DataStream.CopyToAsync(bytes, stop);
        return ArchiveManifest.Read(bytes.ToArray())
            ?? throw new InvalidDataException("its list of files cannot be read");
    }

    private static async Task<ArchivedFile> UnpackAsync(TarEntry entry, string path, CancellationToken stop)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        OwnersOnly.Folder(Path.GetDirectoryName(path)!);
        if (entry.Length > DiskRoom.FreeAt(Path.GetDirectoryName(path)!))
            throw new RefusalException(
                "data",
                $"There is not room enough: “{entry.Name}” needs {DiskRoom.Words(entry.Length)}, and {DiskRoom.Words(DiskRoom.FreeAt(Path.GetDirectoryName(path)!))} are free. Make room and try again; nothing has been changed."
            );
        await using var hashed = new CountedHash(entry.DataStream ?? Stream.Null);
        await using var target = File.Create(path);
        OwnersOnly.File(path);
        await hashed.CopyToAsync(target, stop);
        return new ArchivedFile(entry.Name, hashed.Count, hashed.Hex());
    }

    [GeneratedRegex(
        @"^(books\.db|manifest\.json|(keys|mail)/[A-Za-z0-9@_][A-Za-z0-9@._-]{0,200})$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Names();
}
