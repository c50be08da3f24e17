using System.Net;
using System.Text;
using Jugaad.Core;
using Jugaad.Core.Banking;

namespace Jugaad.Formats.Bank;

/// <summary>
/// Open Financial Exchange, version 1 (SGML, where tags need not be closed) and 2 (XML). Read as a run of tags, so that
/// neither entities nor nesting can do harm.
/// </summary>
internal static class OfxReader
{
    private const int MostOfAValue = 10_000;

    internal static IReadOnlyList<StatementFile> Read(TextReader file)
    {
        using var text = new PeekingReader(file);
        var statements = new List<StatementFile>();
        Statement? open = null;
        Dictionary<string, string>? line = null;
        var inBalance = false;
        foreach (var (tag, value) in Tags(text))
        {
            switch (tag)
            {
                case "STMTRS" or "CCSTMTRS":
                    if (open is not null)
                        throw new RefusalException(
                            "file",
                            "A statement of this file has no end before the next begins. Ask the bank for it again."
                        );
                    open = new Statement();
                    break;
                case "/STMTRS" or "/CCSTMTRS" when open is not null:
                    statements.Add(open.Finish());
                    open = null;
                    break;
                case "STMTTRN":
                    line = [];
                    break;
                case "/STMTTRN" when line is not null && open is not null:
                    open.Lines.Add(line);
                    line = null;
                    break;
                case "LEDGERBAL":
                    inBalance = true;
                    break;
                case "/LEDGERBAL":
                    inBalance = false;
                    break;
                default:
                    if (line is not null)
                        line.TryAdd(tag, value);
                    else if (open is not null && (inBalance || tag is not ("BALAMT" or "DTASOF")))
                        open.Facts.TryAdd(tag, value);
                    break;
            }
        }

        if (open is not null)
            throw new RefusalException(
                "file",
                "The file ends in the middle of a statement. Ask the bank for it again."
            );
        return statements.Count > 0
            ? statements
            : throw new RefusalException("file", "There is no statement in this file.");
    }

    /// <summary>Tags with what stands behind each; what is marked as plain characters stays as it is.</summary>
    private static IEnumerable<(string Tag, string Value)> Tags(PeekingReader text)
    {
        // What stands before the first tag is the head of the format.
        while (text.Peek() is >= 0 and not '<')
            text.Read();
        while (text.Read() == '<')
        {
            var tag = Until(text, '>').Trim().ToUpperInvariant();
            var value = new StringBuilder();
            while (text.Peek() is >= 0 and var next)
            {
                if (next == '<')
                {
                    if (value.ToString().Trim().Length > 0 || !ReadsMarked(text, value))
                        break;
                    continue;
                }

                text.Read();
                if (value.Length < MostOfAValue)
                    value.Append((char)next);
            }

            yield return (tag, Decoded(value.ToString()));
        }
    }

    /// <summary>
    /// Reads characters between <c>&lt;![CDATA[</c> and <c>]]&gt;</c>; tells whether they were there.
    /// </summary>
    private static bool ReadsMarked(PeekingReader text, StringBuilder value)
    {
        if (!text.StartsWith("<![CDATA["))
            return false;
        text.Skip("<![CDATA[".Length);
        value.Append(Marked);
        while (!text.StartsWith("]]>"))
        {
            if (text.Read() is not (>= 0 and var c))
                throw new RefusalException("file", "The file ends in the middle of a text. Ask the bank for it again.");
            if (value.Length < MostOfAValue)
                value.Append((char)c);
        }

        text.Skip("]]>".Length);
        return true;
    }

    /// <summary>Stands before what was marked, so that it is not decoded.</summary>
    private const char Marked = '\u0001';

    private static string Decoded(string value) =>
        value.TrimStart() is [Marked, .. var plain] ? plain.Trim() : WebUtility.HtmlDecode(value.Trim());

    private static string Until(PeekingReader text, char end)
    {
        var read = new StringBuilder();
        while (text.Read() is >= 0 and var c && c != end)
            if (read.Length < 200)
                read.Append((char)c);
        return read.ToString();
    }

    private sealed class Statement
    {
        public Dictionary<string, string> Facts { get; } = [];

        public List<Dictionary<string, string>> Lines { get; } = [];

        public StatementFile Finish()
        {
            var currency = Figures.CurrencyOf(Facts.GetValueOrDefault("CURDEF", ""), "CURDEF");
            var lines = Lines.Select((l, i) => Line(l, $"Transaction {i + 1}", currency)).ToList();
            long? closing = Facts.TryGetValue("BALAMT", out var balance)
                ? Amount(balance, currency, "LEDGERBAL")
                : null;
            return new StatementFile(
                Facts.GetValueOrDefault("ACCTID", ""),
                currency,
                "",
                DayOf(Facts.GetValueOrDefault("DTSTART", ""), "DTSTART", false),
                DayOf(Facts.GetValueOrDefault("DTEND", ""), "DTEND", false),
                closing - lines.Sum(l => l.Amount),
                closing,
                lines,
                closing is null
                    ? []
                    : ["The format gives no opening balance; it is reckoned back from the closing one."]
            )
            {
                Format = "OFX",
            };
        }

        private static StatementLine Line(Dictionary<string, string> line, string where, Core.Amounts.Currency currency)
        {
            string Of(string tag) => line.GetValueOrDefault(tag, "");
            if (!line.TryGetValue("TRNAMT", out var amount))
                throw new RefusalException("file", $"{where} has no amount.");
            return new StatementLine(
                DayOf(Of("DTPOSTED"), where, true)!.Value,
                Amount(amount, currency, where),
                Figures.Short(Of("NAME"), 140),
                Figures.Short(Of("ACCTID"), 40),
                Figures.Short($"{Of("MEMO")} {Of("CHECKNUM")}"),
                "",
                Figures.Short(Of("FITID"), 80)
            );
        }

        /// <summary>The format groups no thousands; its decimal mark is a point or a comma.</summary>
        private static long Amount(string text, Core.Amounts.Currency currency, string where) =>
            Figures.Amount(text, currency, where, text.Contains(',', StringComparison.Ordinal) ? ',' : '.');

        private static DateOnly? DayOf(string text, string where, bool needed) =>
            text.Length >= 8 ? Figures.Day(text[..8], "yyyyMMdd", where)
            : needed ? throw new RefusalException("file", $"{where} has no day.")
            : null;
    }
}
