using System.Globalization;
using System.IO.Compression;
using System.Xml;
using System.Xml.Linq;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Tables;

namespace Jugaad.Formats.Rates;

/// <summary>
/// Files of exchange rates: the euro reference rates of the European Central Bank in their published forms, and plain
/// tables. Nothing in a file can make it fetch or expand anything.
/// </summary>
public sealed class RateFiles : IRateFiles
{
    private const string Euro = "EUR";
    private const int MostBytes = 20 * 1024 * 1024;

    private static readonly string[] DayForms = ["yyyy-MM-dd", "d MMMM yyyy", "d.M.yyyy", "dd/MM/yyyy", "yyyyMMdd"];

    /// <inheritdoc/>
    public IReadOnlyList<FileRate> Read(byte[] file)
    {
        if (file.Length == 0)
            throw new RefusalException("file", "The file is empty. Choose another.");
        if (file.Length > MostBytes)
            throw new RefusalException("file", "The file is larger than 20 MB. Choose one of fewer days.");
        if (file is [(byte)'P', (byte)'K', 3, 4, ..] && Unzipped(file) is { } inner)
            return Read(inner);
        var head = TextDecoding.Decode(file[..Math.Min(file.Length, 2_000)]).Text.TrimStart('\uFEFF', ' ', '\r', '\n');
        var rates = head.StartsWith('<') ? FromXml(file) : FromTable(new TableFiles().Read(file));
        return rates.Count > 0 ? rates : throw new RefusalException("file", "There is no exchange rate in the file.");
    }

    /// <summary>The one CSV in an archive; null where it has none, such as a workbook.</summary>
    private static byte[]? Unzipped(byte[] file)
    {
        try
        {
            using var archive = new ZipArchive(new MemoryStream(file));
            if (
                archive.Entries.FirstOrDefault(e => e.Name.EndsWith(".csv", StringComparison.OrdinalIgnoreCase))
                is not { } entry
            )
                return null;
            using var stream = entry.Open();
            var room = new byte[MostBytes + 1];
            var read = stream.ReadAtLeast(room, room.Length, throwOnEndOfStream: false);
            return read > MostBytes
                ? throw new RefusalException("file", "The file in the archive is larger than 20 MB.")
                : room[..read];
        }
        catch (InvalidDataException)
        {
            throw new RefusalException("file", "The archive is damaged. Fetch it again.");
        }
    }

    private static List<FileRate> FromXml(byte[] file)
    {
        XElement root;
        try
        {
            using var reader = XmlReader.Create(
                new MemoryStream(file),
                new XmlReaderSettings
                {
                    DtdProcessing = DtdProcessing.Prohibit,
                    XmlResolver = null,
                    MaxCharactersInDocument = MostBytes,
                }
            );
            root = XElement.Load(reader, LoadOptions.SetLineInfo);
        }
        catch (XmlException broken)
        {
            throw new RefusalException("file", $"The XML is broken in line {broken.LineNumber}. Fetch it again.");
        }

        var rates = new List<FileRate>();
        foreach (
            var day in root.Descendants().Where(e => e.Name.LocalName == "Cube" && e.Attribute("time") is not null)
        )
        {
            var on = DayOf((string)day.Attribute("time")!, LineOf(day));
            foreach (var one in day.Elements().Where(e => e.Attribute("currency") is not null))
                rates.Add(
                    new FileRate(
                        on,
                        CodeOf((string)one.Attribute("currency")!, LineOf(one)),
                        FigureOf((string?)one.Attribute("rate") ?? "", LineOf(one)),
                        Euro,
                        Where: LineOf(one)
                    )
                );
        }

        return rates;
    }

    private static List<FileRate> FromTable(Table table)
    {
        var heads = table.Columns.Select(c => c.Trim().ToLowerInvariant()).ToList();
        int Column(params string[] names) => heads.FindIndex(h => names.Contains(h));
        var (day, currency, rate) = (
            Column("day", "date", "from"),
            Column("currency", "code"),
            Column("rate", "middle")
        );
        if (day < 0)
            throw new RefusalException(
                "file",
                "No column is named day or date. Rates are read from columns day, currency and rate."
            );
        if (currency < 0 || rate < 0)
            return ByColumns(table, day);
        var (forOne, buying, selling) = (Column("for one", "for_one", "base"), Column("buying"), Column("selling"));
        var rates = new List<FileRate>();
        for (var i = 0; i < table.Rows.Count; i++)
        {
            var (row, where) = (table.Rows[i], $"row {i + 2}");
            if (row.All(c => c.Length == 0))
                continue;
            decimal? Maybe(int column) => column < 0 || row[column].Length == 0 ? null : FigureOf(row[column], where);
            rates.Add(
                new FileRate(
                    DayOf(row[day], where),
                    CodeOf(row[currency], where),
                    FigureOf(row[rate], where),
                    forOne < 0 || row[forOne].Length == 0 ? "" : CodeOf(row[forOne], where),
                    Maybe(buying),
                    Maybe(selling),
                    where
                )
            );
        }

        return rates;
    }

    /// <summary>A column for each currency, a row for each day: what one euro is worth.</summary>
    private static List<FileRate> ByColumns(Table table, int day)
    {
        var codes = Enumerable
            .Range(0, table.Columns.Count)
            .Where(c => table.Columns[c].Trim() is { Length: 3 } code && code.All(char.IsAsciiLetterUpper))
            .ToList();
        if (codes.Count == 0)
            throw new RefusalException(
                "file",
                "No column is named currency and rate, and none after a currency. Rates are read from columns day, currency and rate."
            );
        var rates = new List<FileRate>();
        for (var i = 0; i < table.Rows.Count; i++)
        {
            var row = table.Rows[i];
            foreach (var column in codes.Where(c => row[c].Length > 0 && row[c] is not "N/A"))
            {
                var where = $"row {i + 2}";
                rates.Add(
                    new FileRate(
                        DayOf(row[day], where),
                        table.Columns[column].Trim(),
                        FigureOf(row[column], where),
                        Euro,
                        Where: where
                    )
                );
            }
        }

        return rates;
    }

    private static string LineOf(XElement element) =>
        element is IXmlLineInfo line && line.HasLineInfo() ? $"line {line.LineNumber}" : "";

    private static DateOnly DayOf(string text, string where) =>
        DateOnly.TryParseExact(text.Trim(), DayForms, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
            ? day
            : throw new RefusalException("file", $"In {where}, “{Shown(text)}” is no day. Write it as 2025-09-17.");

    private static string CodeOf(string text, string where) =>
        Currency.TryOf(text.Trim(), out var currency)
            ? currency.Code
            : throw new RefusalException(
                "file",
                $"In {where}, “{Shown(text)}” is no currency. Give its code of three letters."
            );

    private static decimal FigureOf(string text, string where)
    {
        var plain = text.Trim();
        if (!plain.Contains('.', StringComparison.Ordinal))
            plain = plain.Replace(',', '.');
        return
            plain.Length <= 30
            && decimal.TryParse(plain, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var figure)
            && figure > 0
            ? figure
            : throw new RefusalException("file", $"In {where}, “{Shown(text)}” is no rate. Give a figure above zero.");
    }

    private static string Shown(string text) => text.Length > 30 ? text[..30] + "…" : text;
}
