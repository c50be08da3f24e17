using System.Text;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Tables;

namespace Jugaad.Formats.Bank;

/// <summary>Finds out which format a statement has, and reads it. Nothing in a file can make it fetch or expand anything.</summary>
public sealed class StatementReader : IStatementReader
{
    public const int MostBytes = 50 * 1024 * 1024;

    public IReadOnlyList<StatementFile> Read(byte[] file, string name, CsvColumns? columns, Currency otherwise)
    {
        if (file.Length == 0) throw new RefusalException("file", "The file is empty.");
        if (file.Length > MostBytes) throw new RefusalException("file", "The file is larger than 50 MB. Ask the bank for a shorter time.");
        var text = new Lazy<string>(() => TextDecoding.Decode(file).Text);
        var head = Encoding.ASCII.GetString(file, 0, Math.Min(file.Length, 4000));
        if (head.Contains("camt.053", StringComparison.Ordinal) || head.Contains("BkToCstmrStmt", StringComparison.Ordinal)) return CamtReader.Read(file);
        if (head.Contains("<OFX", StringComparison.OrdinalIgnoreCase) || head.Contains("OFXHEADER", StringComparison.OrdinalIgnoreCase)) return OfxReader.Read(text.Value);
        if (head.TrimStart('\uFEFF', ' ', '\r', '\n', '?').StartsWith('<')) throw new RefusalException("file", "This is XML, but neither CAMT.053 nor OFX. Ask the bank for a statement in one of those.");
        if (head.Contains(":20:", StringComparison.Ordinal) && head.Contains(":60", StringComparison.Ordinal)) return Mt940Reader.Read(text.Value);
        if (head.TrimStart('\uFEFF', ' ', '\r', '\n', '?').StartsWith("!Type", StringComparison.OrdinalIgnoreCase)) return [QifReader.Read(text.Value, otherwise)];
        return [CsvStatement.Read(file, columns, otherwise)];
    }

    public IReadOnlyList<string> HeadsOf(byte[] file) => CsvStatement.HeadsOf(file);
}
