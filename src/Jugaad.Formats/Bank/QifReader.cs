using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;

namespace Jugaad.Formats.Bank;

/// <summary>
/// Quicken Interchange Format. It says neither the account nor the currency, and its days and amounts may be written in
/// several ways.
/// </summary>
internal static class QifReader
{
    /// <param name="said">What was said of days and decimal marks; null where nothing was.</param>
    internal static StatementFile Read(TextReader text, CsvColumns? said, Currency currency)
    {
        var records = new List<Dictionary<char, string>>();
        var record = new Dictionary<char, string>();
        while (text.ReadLine() is { } read)
        {
            var line = read.Trim();
            if (line.Length == 0 || line[0] == '!')
                continue;
            if (line[0] == '^')
            {
                if (record.Count > 0)
                    records.Add(record);
                record = [];
                continue;
            }

            record.TryAdd(line[0], line[1..]);
        }

        if (record.Count > 0)
            records.Add(record);
        if (records.Count == 0)
            throw new RefusalException("file", "There is no transaction in this file.");
        for (var i = 0; i < records.Count; i++)
            if (AmountOf(records[i]) is null)
                throw new RefusalException("file", $"Transaction {i + 1} has no amount.");
        var days = DayOrder.Read(
            records.ConvertAll(r =>
                r.GetValueOrDefault('D', "")
                    .Replace("'", "/", StringComparison.Ordinal)
                    .Replace(" ", "", StringComparison.Ordinal)
            ),
            said?.DateOrder ?? "",
            "file"
        );
        var mark = Mark(records.Select(r => AmountOf(r)!), said?.DecimalMark ?? "", currency);
        var lines = records
            .Select(
                (r, i) =>
                    new StatementLine(
                        days[i],
                        Figures.Amount(AmountOf(r)!, currency, $"Transaction {i + 1}", mark),
                        Figures.Short(r.GetValueOrDefault('P', ""), 140),
                        "",
                        Figures.Short($"{r.GetValueOrDefault('M', "")} {r.GetValueOrDefault('N', "")}"),
                        "",
                        ""
                    )
            )
            .ToList();
        return new StatementFile("", currency, "", null, null, null, null, lines, []) { Format = "QIF" };
    }

    private static string? AmountOf(Dictionary<char, string> record) =>
        record.TryGetValue('T', out var amount) || record.TryGetValue('U', out amount) ? amount : null;

    /// <summary>The decimal mark that was said, or is found out.</summary>
    /// <exception cref="RefusalException">By <c>columns</c>, when it cannot be told.</exception>
    internal static char Mark(IEnumerable<string> amounts, string said, Currency currency)
    {
        if (said.Length == 1)
            return said[0];
        var list = amounts.ToList();
        return DecimalMark.Of(list, currency)
            ?? throw new RefusalException(
                "columns",
                $"“{list.Find(a => a.AsSpan().IndexOfAny('.', ',') >= 0)?.Trim()}” may be thousands or have three decimals, and no other amount of the file tells. Say which mark stands before the decimals."
            );
    }
}
