using Jugaad.Core;
using Jugaad.Desk.Lists;

namespace Jugaad.Formats.Tables;

/// <summary>Tables from and to files.</summary>
public sealed class TableFiles : ITableFiles
{
    /// <summary>Rows that one file may have, the head not counted.</summary>
    public const int MostRows = 100_000;

    /// <summary>Columns that a table may have.</summary>
    internal const int MostColumns = 200;

    private const int MostBytes = 50 * 1024 * 1024;

    /// <inheritdoc/>
    public Table Read(byte[] file)
    {
        if (file.Length == 0)
            throw new RefusalException("file", "The file is empty. Choose another.");
        if (file.Length > MostBytes)
            throw new RefusalException("file", "The file is larger than 50 MB. Split it into several.");
        // A workbook is a ZIP archive.
        return file is [(byte)'P', (byte)'K', 3, 4, ..] ? XlsxTable.Read(file) : CsvTable.Read(file);
    }

    /// <inheritdoc/>
    public byte[] Write(Table table, TableForm form) =>
        form == TableForm.Xlsx ? XlsxTable.Write(table) : CsvTable.Write(table);

    /// <summary>The first row is the heads; every other row gets as many cells.</summary>
    internal static Table Shaped(List<IReadOnlyList<string>> rows, string note)
    {
        if (rows.Count == 0)
            throw new RefusalException("file", "The file is empty. Choose another.");
        var heads = rows[0].Select((c, i) => c.Trim().Length > 0 ? c.Trim() : $"column {i + 1}").ToList();
        while (
            heads.Count > 1
            && rows[0][heads.Count - 1].Trim().Length == 0
            && rows.Skip(1).All(r => r.Count < heads.Count || r[heads.Count - 1].Trim().Length == 0)
        )
            heads.RemoveAt(heads.Count - 1);
        if (
            heads.Count > MostColumns
            || heads.Any(h => h.Any(c => char.IsControl(c) && c is not ('\n' or '\r' or '\t')))
        )
            throw new RefusalException(
                "file",
                "This is no table that we can read. Save it as CSV or XLSX with the names of its columns in the first row."
            );
        if (rows.Count == 1)
            throw new RefusalException(
                "file",
                "The file has the names of columns and no row below them. Choose another."
            );
        return new Table(
            heads,
            rows.Skip(1)
                .Select(r =>
                    (IReadOnlyList<string>)
                        Enumerable.Range(0, heads.Count).Select(i => i < r.Count ? r[i].Trim() : "").ToList()
                )
                .ToList(),
            note
        );
    }

    internal static RefusalException TooMany() =>
        new("file", $"The file has more than {MostRows} rows. Split it into several.");
}
