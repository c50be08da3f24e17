using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Tables;

namespace Jugaad.Formats.Bank;

/// <summary>
/// Finds out which format a statement has, and reads it in a stream. Nothing in a file can make it fetch or expand
/// anything.
/// </summary>
public sealed class StatementReader : IStatementReader
{
    public const int MostBytes = 50 * 1024 * 1024;

    private const int HeadBytes = 4_000;

    public IReadOnlyList<StatementFile> Read(Stream file, string name, CsvColumns? columns, Currency otherwise)
    {
        if (file.Length == 0)
            throw new RefusalException("file", "The file is empty.");
        if (file.Length > MostBytes)
            throw new RefusalException("file", "The file is larger than 50 MB. Ask the bank for a shorter time.");
        var head = TextDecoding.Decode(Begin(file)).Text.TrimStart('\uFEFF', ' ', '\r', '\n');
        if (
            head.Contains("camt.053", StringComparison.Ordinal)
            || head.Contains("BkToCstmrStmt", StringComparison.Ordinal)
        )
            return CamtReader.Read(file);
        if (
            head.Contains("<OFX", StringComparison.OrdinalIgnoreCase)
            || head.Contains("OFXHEADER", StringComparison.OrdinalIgnoreCase)
        )
            return OfxReader.Read(Text(file));
        if (head.StartsWith('<'))
            throw new RefusalException(
                "file",
                "This is XML, but neither CAMT.053 nor OFX. Ask the bank for a statement in one of those."
            );
        if (head.Contains(":20:", StringComparison.Ordinal) && head.Contains(":60", StringComparison.Ordinal))
            return Mt940Reader.Read(Text(file));
        if (head.StartsWith("!Type", StringComparison.OrdinalIgnoreCase))
            return [QifReader.Read(Text(file), columns, otherwise)];
        return [CsvStatement.Read(Whole(file), columns, otherwise)];
    }

    public IReadOnlyList<string> HeadsOf(Stream file) => CsvStatement.HeadsOf(Whole(file));

    private static byte[] Begin(Stream file)
    {
        var head = new byte[Math.Min(file.Length, HeadBytes)];
        file.Position = 0;
        file.ReadExactly(head);
        file.Position = 0;
        return head;
    }

    private static StreamReader Text(Stream file) =>
        new(file, TextDecoding.EncodingOf(file), detectEncodingFromByteOrderMarks: true, leaveOpen: true);

    private static byte[] Whole(Stream file)
    {
        file.Position = 0;
        var bytes = new byte[file.Length];
        file.ReadExactly(bytes);
        return bytes;
    }
}
