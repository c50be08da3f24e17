using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;

namespace Jugaad.Formats.Bank;

/// <summary>Quicken Interchange Format. It says neither the account nor the currency, and its days may be written either way round.</summary>
internal static class QifReader
{
    private static readonly string[] DayFirst = ["d/M/yyyy", "d/M/yy", "d.M.yyyy", "d.M.yy", "d-M-yyyy"];
    private static readonly string[] MonthFirst = ["M/d/yyyy", "M/d/yy", "M.d.yyyy", "M.d.yy", "M-d-yyyy"];
    private static readonly string[] YearFirst = ["yyyy-M-d", "yyyy/M/d"];

    internal static StatementFile Read(string text, Currency currency)
    {
        var records = new List<Dictionary<char, string>>();
        var record = new Dictionary<char, string>();
        foreach (var line in text.ReplaceLineEndings("\n").Split('\n').Select(l => l.Trim()).Where(l => l.Length > 0))
        {
            if (line[0] == '!') continue;
            if (line[0] == '^')
            {
                if (record.Count > 0) records.Add(record);
                record = [];
                continue;
            }

            record.TryAdd(line[0], line[1..]);
        }

        if (record.Count > 0) records.Add(record);
        if (records.Count == 0) throw new RefusalException("file", "There is no transaction in this file.");
        var days = records.ConvertAll(r => r.GetValueOrDefault('D', "").Replace("'", "/", StringComparison.Ordinal).Replace(" ", "", StringComparison.Ordinal));
        var (patterns, remark) = Patterns(days);
        var lines = records.Select((r, i) => Line(r, days[i], patterns, currency, $"Transaction {i + 1}")).ToList();
        return new StatementFile("", currency, "", null, null, null, null, lines, remark is null ? [] : [remark]);
    }

    private static (string[] Patterns, string? Remark) Patterns(List<string> days)
    {
        bool All(string[] patterns) => days.TrueForAll(d => DateOnly.TryParseExact(d, patterns, CultureInfo.InvariantCulture, DateTimeStyles.None, out _));
        if (All(YearFirst)) return (YearFirst, null);
        var (dayFirst, monthFirst) = (All(DayFirst), All(MonthFirst));
        if (dayFirst && monthFirst) return (DayFirst, "The days could be read either way round; they were read with the day before the month.");
        return dayFirst ? (DayFirst, null) : monthFirst ? (MonthFirst, null) : throw new RefusalException("file", "The days of this file cannot be read.");
    }

    private static StatementLine Line(Dictionary<char, string> record, string day, string[] patterns, Currency currency, string where)
    {
        if (!record.TryGetValue('T', out var amount) && !record.TryGetValue('U', out amount)) throw new RefusalException("file", $"{where} has no amount.");
        DateOnly.TryParseExact(day, patterns, CultureInfo.InvariantCulture, DateTimeStyles.None, out var date);
        return new StatementLine(date, Figures.Amount(amount, currency, where), Figures.Short(record.GetValueOrDefault('P', ""), 140), "", Figures.Short($"{record.GetValueOrDefault('M', "")} {record.GetValueOrDefault('N', "")}"), "", "");
    }
}
