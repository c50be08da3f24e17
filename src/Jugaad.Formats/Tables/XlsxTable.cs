using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Lists;
using MiniExcelLibs;

namespace Jugaad.Formats.Tables;

/// <summary>
/// Tables as Office Open XML workbooks: the first sheet is read, one sheet is written. All cells are written as text.
/// </summary>
internal static class XlsxTable
{
    internal static Table Read(byte[] file)
    {
        var rows = new List<IReadOnlyList<object?>>();
        try
        {
            XlsxBounds.Check(file);
            using var stream = new MemoryStream(file, writable: false);
            foreach (
                IDictionary<string, object?> row in MiniExcel.Query(
                    stream,
                    useHeaderRow: false,
                    excelType: ExcelType.XLSX
                )
            )
            {
                rows.Add([.. row.Values]);
                if (rows.Count > TableFiles.MostRows + 1)
                    throw TableFiles.TooMany();
            }
        }
        catch (Exception broken)
            when (broken
                    is InvalidDataException
                        or System.Xml.XmlException
                        or InvalidOperationException
                        or KeyNotFoundException
                        or NotSupportedException
                        or FormatException
                        or ArgumentException
                        or NullReferenceException
            )
        {
            throw new RefusalException(
                "file",
                "This workbook cannot be read. Open it in a spreadsheet and save it as XLSX again, or as CSV."
            );
        }

        rows.RemoveAll(r => r.All(c => Text(c).Length == 0));
        var figures = rows.Skip(1)
            .SelectMany((r, i) => r.Select((cell, column) => (Cell: cell, Place: (i, column))))
            .Where(c => c.Cell is double or decimal or long or int)
            .Select(c => c.Place)
            .ToHashSet();
        return TableFiles.Shaped(
            rows.ConvertAll(r => (IReadOnlyList<string>)[.. r.Select(Text)]),
            "XLSX, first sheet"
        ) with
        {
            Figures = figures,
        };
    }

    internal static byte[] Write(Table table)
    {
        using var stream = new MemoryStream();
        var rows = table.Rows.Select(row =>
        {
            var cells = new Dictionary<string, object>(table.Columns.Count);
            for (var i = 0; i < table.Columns.Count; i++)
                cells[table.Columns[i]] = i < row.Count ? row[i] : "";
            return cells;
        });
        if (table.Rows.Count == 0)
            MiniExcel.SaveAs(
                stream,
                new[] { table.Columns.ToDictionary(c => c, _ => (object)"") },
                excelType: ExcelType.XLSX
            );
        else
            MiniExcel.SaveAs(stream, rows, excelType: ExcelType.XLSX);
        return stream.ToArray();
    }

    private static string Text(object? cell) =>
        cell switch
        {
            null => "",
            string text => text,
            DateTime { TimeOfDay.Ticks: 0 } day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            DateTime at => at.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
            bool flag => flag ? "yes" : "no",
            // A spreadsheet keeps figures in binary; what it shows has at most 15 digits.
            double figure when Math.Abs(figure) < 1e15 => PlainDecimal.Text(
                decimal.Parse(
                    figure.ToString("G15", CultureInfo.InvariantCulture),
                    NumberStyles.Float,
                    CultureInfo.InvariantCulture
                )
            ),
            IFormattable other => other.ToString(null, CultureInfo.InvariantCulture),
            _ => cell.ToString() ?? "",
        };
}
