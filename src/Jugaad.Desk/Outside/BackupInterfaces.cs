using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Outside;

/// <summary>A key pair for sealing backups, both halves as armoured text (RFC 9580).</summary>
public sealed record SealKey(string Public, string Private);

/// <summary>Seals backups so that only holders of a private key can open them (OpenPGP).</summary>
public interface IArchiveSeal
{
    /// <param name="owner">Whom it is for, as it stands in the key.</param>
    SealKey NewKey(string owner);

    /// <summary>Short words by which a public key is told from others.</summary>
    /// <exception cref="Core.RefusalException">When the text is no key that can seal.</exception>
    string Fingerprint(string publicKey);

    /// <returns>A stream to write into; closing it finishes what went to <paramref name="to"/>, which stays
    /// open.</returns>
    Stream Seal(Stream to, IReadOnlyList<string> publicKeys);

    /// <summary>Whether a file's first bytes are those of a sealed one.</summary>
    bool IsSealed(ReadOnlySpan<byte> head);

    /// <exception cref="Core.RefusalException">When none of the keys opens it, or a key is none.</exception>
    Stream Open(Stream sealedFile, IReadOnlyList<string> privateKeys);
}

/// <summary>A file in a place where backups are kept. Size in bytes.</summary>
public sealed record PlacedFile(string Name, long Size);

/// <summary>Said by a place that could not be used.</summary>
public sealed class PlaceException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>A place where backups are kept. It is opened for one errand and closed after it.</summary>
public interface IBackupPlace : IAsyncDisposable
{
    /// <exception cref="PlaceException">When the place cannot be reached or does not let one.</exception>
    Task<IReadOnlyList<PlacedFile>> ListAsync(CancellationToken stop);

    /// <summary>Puts a file there under its name, whole or not at all.</summary>
    /// <inheritdoc cref="ListAsync"/>
    Task PutAsync(string file, string name, CancellationToken stop);

    /// <inheritdoc cref="ListAsync"/>
    Task GetAsync(string name, string file, CancellationToken stop);

    /// <inheritdoc cref="ListAsync"/>
    Task DeleteAsync(string name, CancellationToken stop);
}

/// <summary>Opens the other place of a business's backups.</summary>
public interface IOtherPlaces
{
    /// <param name="settings">Its host key is noted here at the first visit.</param>
    /// <exception cref="PlaceException">When it cannot be reached, or is another machine than the one that was reached
    /// before.</exception>
    Task<IBackupPlace> OpenAsync(BackupSettings settings, CancellationToken stop);
}
