namespace Jugaad.Desk.Lists;

/// <summary>
/// A table as a file holds it: heads, and rows of text. Dates are ISO 8601 and figures plain decimals where a file
/// knows types.
/// </summary>
/// <param name="Note">How it was read, in words, such as <c>CSV with semicolons, Windows-1252</c>.</param>
public sealed record Table(IReadOnlyList<string> Columns, IReadOnlyList<IReadOnlyList<string>> Rows, string Note = "")
{
    private static readonly IReadOnlySet<(int Row, int Column)> None = new HashSet<(int, int)>();

    /// <summary>
    /// The cells, by row and column from 0, that the file holds as figures and not as text: no decimal mark is guessed
    /// for them.
    /// </summary>
    public IReadOnlySet<(int Row, int Column)> Figures { get; init; } = None;
}

/// <summary>The forms in which a table can be written.</summary>
public enum TableForm
{
    /// <summary>RFC 4180, UTF-8 with mark.</summary>
    Csv,

    /// <summary>Office Open XML (ISO/IEC 29500).</summary>
    Xlsx,
}

/// <summary>Reads and writes tables as files.</summary>
public interface ITableFiles
{
    /// <summary>
    /// Reads CSV in the usual encodings and with the usual separators, or the first sheet of XLSX; which, is seen from
    /// the content.
    /// </summary>
    /// <exception cref="Core.RefusalException">When it is neither, or holds no row, or too many.</exception>
    Table Read(byte[] file);

    /// <summary>
    /// In CSV, text that a spreadsheet would take for a formula is made harmless by an apostrophe, which reading takes
    /// off again.
    /// </summary>
    byte[] Write(Table table, TableForm form);
}
