using System.Net;
using Jugaad.Core;
using Jugaad.Core.Banking;

namespace Jugaad.Formats.Bank;

/// <summary>Open Financial Exchange, version 1 (SGML, where tags need not be closed) and 2 (XML). Read as a run of tags, so that neither entities nor nesting can do harm.</summary>
internal static class OfxReader
{
    internal static IReadOnlyList<StatementFile> Read(string text)
    {
        var statements = new List<StatementFile>();
        Statement? open = null;
        Dictionary<string, string>? line = null;
        var inBalance = false;
        foreach (var (tag, value) in Tags(text))
        {
            switch (tag)
            {
                case "STMTRS" or "CCSTMTRS": open = new Statement(); break;
                case "/STMTRS" or "/CCSTMTRS" when open is not null:
                    statements.Add(open.Finish());
                    open = null;
                    break;
                case "STMTTRN": line = []; break;
                case "/STMTTRN" when line is not null && open is not null:
                    open.Lines.Add(line);
                    line = null;
                    break;
                case "LEDGERBAL": inBalance = true; break;
                case "/LEDGERBAL": inBalance = false; break;
                default:
                    if (line is not null) line.TryAdd(tag, value);
                    else if (open is not null && (inBalance || tag is not ("BALAMT" or "DTASOF"))) open.Facts.TryAdd(tag, value);
                    break;
            }
        }

        if (open is not null) throw new RefusalException("file", "The file ends in the middle of a statement. Ask the bank for it again.");
        return statements.Count > 0 ? statements : throw new RefusalException("file", "There is no statement in this file.");
    }

    private static IEnumerable<(string Tag, string Value)> Tags(string text)
    {
        var at = text.IndexOf("<OFX", StringComparison.OrdinalIgnoreCase);
        while (at >= 0 && at < text.Length)
        {
            var close = text.IndexOf('>', at);
            if (close < 0) yield break;
            var next = text.IndexOf('<', close);
            var tag = text[(at + 1)..close].Trim().ToUpperInvariant();
            var value = text[(close + 1)..(next < 0 ? text.Length : next)].Trim();
            yield return (tag, WebUtility.HtmlDecode(value));
            at = next;
        }
    }

    private sealed class Statement
    {
        public Dictionary<string, string> Facts { get; } = [];

        public List<Dictionary<string, string>> Lines { get; } = [];

        public StatementFile Finish()
        {
            var currency = Figures.CurrencyOf(Facts.GetValueOrDefault("CURDEF", ""), "CURDEF");
            var lines = Lines.Select((l, i) => Line(l, $"Transaction {i + 1}", currency)).ToList();
            long? closing = Facts.TryGetValue("BALAMT", out var balance) ? Figures.Amount(balance, currency, "LEDGERBAL") : null;
            return new StatementFile(Facts.GetValueOrDefault("ACCTID", ""), currency, "", DayOf(Facts.GetValueOrDefault("DTSTART", ""), "DTSTART", false), DayOf(Facts.GetValueOrDefault("DTEND", ""), "DTEND", false),
                closing - lines.Sum(l => l.Amount), closing, lines, closing is null ? [] : ["The format gives no opening balance; it is reckoned back from the closing one."]);
        }

        private static StatementLine Line(Dictionary<string, string> line, string where, Core.Amounts.Currency currency)
        {
            string Of(string tag) => line.GetValueOrDefault(tag, "");
            if (!line.TryGetValue("TRNAMT", out var amount)) throw new RefusalException("file", $"{where} has no amount.");
            return new StatementLine(DayOf(Of("DTPOSTED"), where, true)!.Value, Figures.Amount(amount, currency, where), Figures.Short(Of("NAME"), 140), Figures.Short(Of("ACCTID"), 40), Figures.Short($"{Of("MEMO")} {Of("CHECKNUM")}"), "", Figures.Short(Of("FITID"), 80));
        }

        private static DateOnly? DayOf(string text, string where, bool needed) =>
            text.Length >= 8 ? Figures.Day(text[..8], "yyyyMMdd", where) : needed ? throw new RefusalException("file", $"{where} has no day.") : null;
    }
}
