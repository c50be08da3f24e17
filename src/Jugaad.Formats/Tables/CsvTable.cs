using System.Text.RegularExpressions;
using CsvHelper;
using Jugaad.Core;
using Jugaad.Desk.Lists;

namespace Jugaad.Formats.Tables;

/// <summary>Tables as text: RFC 4180, and what spreadsheets make of it with other separators and encodings.</summary>
internal static partial class CsvTable
{
    private const int MostOfARow = 1 << 20;

    private static readonly (char Mark, string Words)[] Separators =
    [
        (',', "commas"),
        (';', "semicolons"),
        ('\t', "tabs"),
        ('|', "bars"),
    ];

    internal static Table Read(byte[] file)
    {
        var (text, encoding) = TextDecoding.Decode(file);
        var separator = SeparatorOf(text);
        var rows = new List<IReadOnlyList<string>>();
        using var csv = CsvReader.Create(
            new StringReader(text),
            new CsvReaderOptions
            {
                Separator = separator,
                HasHeader = false,
                TrackLineNumbers = true,
                MaxRecordSize = MostOfARow,
                OnMalformedRecord = record => Look(record),
            }
        );
        try
        {
            while (csv.Read())
            {
                if (csv.FieldCount > TableFiles.MostColumns * 5)
                    throw new RefusalException(
                        "file",
                        $"Row {rows.Count + 1} has {csv.FieldCount} cells. A table has at most {TableFiles.MostColumns} columns."
                    );
                rows.Add(Enumerable.Range(0, csv.FieldCount).Select(i => Harmed(csv.GetString(i))).ToList());
                if (rows.Count > TableFiles.MostRows + 1)
                    throw TableFiles.TooMany();
            }
        }
        catch (CsvFormatException)
        {
            throw NotClosed(rows.Count + 1);
        }

        return TableFiles.Shaped(rows, $"CSV with {Separators.First(s => s.Mark == separator).Words}, {encoding}");
    }

    internal static byte[] Write(Table table)
    {
        using var file = new MemoryStream();
        using (
            var csv = CsvWriter.Create(
                file,
                new CsvWriterOptions
                {
                    WriteByteOrderMark = true,
                    Quoting = CsvQuoting.WhenNeededOrWhitespace,
                    ValidateFieldCount = false,
                },
                leaveOpen: true
            )
        )
        {
            foreach (var row in table.Rows.Prepend(table.Columns))
            {
                foreach (var cell in row)
                    csv.WriteField(Harmless(cell));
                csv.EndRecord();
            }
        }

        return file.ToArray();
    }

    /// <summary>
    /// A stray quotation mark within a cell is kept as text; one that is never closed swallows the rest of the file.
    /// </summary>
    private static void Look(CsvMalformedRecord record)
    {
        if (record.Reason == CsvMalformedReason.UnterminatedQuote)
            throw NotClosed(record.LineNumber);
    }

    private static RefusalException NotClosed(long line) =>
        new("file", $"Line {line} cannot be read as CSV. Look for a quotation mark that is not closed.");

    /// <summary>
    /// Text that a spreadsheet would take for a formula gets an apostrophe before it; figures stay figures.
    /// </summary>
    internal static string Harmless(string cell) =>
        IsFormulaLike(cell) && !PlainFigure().IsMatch(cell) ? "'" + cell : cell;

    private static string Harmed(string cell) =>
        cell.Length > 1 && cell[0] == '\'' && IsFormulaLike(cell[1..]) ? cell[1..] : cell;

    /// <summary>
    /// An apostrophe that is there already gets another, so that reading gives back what was written.
    /// </summary>
    private static bool IsFormulaLike(string cell) =>
        cell.Length > 0
        && (cell[0] is '=' or '+' or '-' or '@' or '\t' or '\r' || (cell[0] == '\'' && IsFormulaLike(cell[1..])));

    /// <summary>
    /// The mark that stands equally often in the first lines, outside of quotation marks; of several, the most
    /// frequent.
    /// </summary>
    private static char SeparatorOf(string text)
    {
        var counts = Separators.ToDictionary(s => s.Mark, _ => new List<int> { 0 });
        var quoted = false;
        var lines = 0;
        foreach (var c in text)
        {
            if (c == '"')
                quoted = !quoted;
            if (quoted)
                continue;
            if (c == '\n')
            {
                if (++lines == 20)
                    break;
                foreach (var list in counts.Values)
                    list.Add(0);
            }
            else if (counts.TryGetValue(c, out var list))
            {
                list[^1]++;
            }
        }

        return counts
            .OrderByDescending(c => Score(c.Value))
            .ThenBy(c => Array.FindIndex(Separators, s => s.Mark == c.Key))
            .First()
            .Key;
    }

    private static double Score(List<int> counts)
    {
        var filled = counts.Count > 1 && counts[^1] == 0 ? counts.Take(counts.Count - 1).ToList() : counts;
        var head = filled[0];
        return head == 0 ? 0 : head + (100.0 * filled.Count(c => c == head) / filled.Count);
    }

    [GeneratedRegex(@"^[+-]?\d+([.,]\d+)?$")]
    private static partial Regex PlainFigure();
}
