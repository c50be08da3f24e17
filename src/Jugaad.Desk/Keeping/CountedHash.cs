using System.Security.Cryptography;

namespace Jugaad.Desk.Keeping;

/// <summary>Takes the SHA-256 of what is read from another stream, on the way.</summary>
internal sealed class CountedHash(Stream inner) : Stream
{
    private readonly IncrementalHash _hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);

    public override bool CanRead => true;

    public override bool CanSeek => inner.CanSeek;

    public override bool CanWrite => false;

    public override long Length => inner.Length;

    public override long Position
    {
        get => inner.Position;
        set => inner.Position = value;
    }

    /// <summary>How many bytes were read.</summary>
    public long Count { get; private set; }

    /// <summary>Lower-case hexadecimal, of all that was read so far.</summary>
    public string Hex() => Convert.ToHexStringLower(_hash.GetCurrentHash());

    public override int Read(Span<byte> buffer) => Noted(buffer, inner.Read(buffer));

    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        var read = await inner.ReadAsync(buffer, cancellationToken);
        return Noted(buffer.Span, read);
    }

    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) =>
        ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    public override long Seek(long offset, SeekOrigin origin) => inner.Seek(offset, origin);

    public override void Flush() => inner.Flush();

    public override void SetLength(long value) => throw new NotSupportedException();

    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    protected override void Dispose(bool disposing)
    {
        if (disposing)
            _hash.Dispose();
        base.Dispose(disposing);
    }

    private int Noted(ReadOnlySpan<byte> buffer, int read)
    {
        _hash.AppendData(buffer[..read]);
        Count += read;
        return read;
    }
}
