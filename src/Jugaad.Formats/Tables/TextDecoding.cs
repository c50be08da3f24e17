using System.Text;

namespace Jugaad.Formats.Tables;

/// <summary>
/// Finds out in which encoding a text file was written: by its mark, by its zeros, by whether it is UTF-8; else
/// Windows-1252.
/// </summary>
internal static class TextDecoding
{
    private static readonly UTF8Encoding StrictUtf8 = new(false, throwOnInvalidBytes: true);

    static TextDecoding() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    internal static (string Text, string Name) Decode(byte[] file)
    {
        if (file.AsSpan().StartsWith("\uFEFF"u8))
            return (Encoding.UTF8.GetString(file, 3, file.Length - 3), "UTF-8");
        if (file.Length >= 2 && file[0] == 0xFF && file[1] == 0xFE)
            return (Encoding.Unicode.GetString(file, 2, file.Length - 2), "UTF-16");
        if (file.Length >= 2 && file[0] == 0xFE && file[1] == 0xFF)
            return (Encoding.BigEndianUnicode.GetString(file, 2, file.Length - 2), "UTF-16");
        if (ZerosAt(file, 1) > 0.4)
            return (Encoding.Unicode.GetString(file), "UTF-16");
        if (ZerosAt(file, 0) > 0.4)
            return (Encoding.BigEndianUnicode.GetString(file), "UTF-16");
        try
        {
            return (StrictUtf8.GetString(file), "UTF-8");
        }
        catch (DecoderFallbackException)
        {
            return (Encoding.GetEncoding(1252).GetString(file), "Windows-1252");
        }
    }

    /// <summary>
    /// The same of a stream, without having all of it in memory; the stream then stands at its beginning.
    /// </summary>
    internal static Encoding EncodingOf(Stream file)
    {
        file.Position = 0;
        var piece = new byte[64 * 1024];
        var read = file.ReadAtLeast(piece, piece.Length, throwOnEndOfStream: false);
        try
        {
            var begin = piece.AsSpan(0, Math.Min(read, 2_000)).ToArray();
            if (ZerosAt(begin, 1) > 0.4)
                return Encoding.Unicode;
            if (ZerosAt(begin, 0) > 0.4)
                return Encoding.BigEndianUnicode;
            var decoder = StrictUtf8.GetDecoder();
            while (read > 0)
            {
                _ = decoder.GetChars(piece, 0, read, new char[read + 4], 0, flush: false);
                read = file.Read(piece);
            }

            // A character that the end of the file cuts off is none either.
            _ = decoder.GetChars(piece, 0, 0, new char[4], 0, flush: true);
            return StrictUtf8;
        }
        catch (DecoderFallbackException)
        {
            return Encoding.GetEncoding(1252);
        }
        finally
        {
            file.Position = 0;
        }
    }

    /// <summary>
    /// The share of zero bytes at even or odd places of the beginning, as UTF-16 has them without a mark.
    /// </summary>
    private static double ZerosAt(byte[] file, int odd)
    {
        var looked = Math.Min(file.Length, 2_000) / 2;
        if (looked < 4)
            return 0;
        var zeros = 0;
        for (var i = 0; i < looked; i++)
            if (file[(2 * i) + odd] == 0)
                zeros++;
        return (double)zeros / looked;
    }
}
