using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Jugaad.Formats.Papers;

/// <summary>
/// Says in a PDF in which language it is written, for whoever has it read aloud, and that its title is shown rather
/// than the file's name (ISO 32000-1, 7.7.2 and 12.2). It is added at the end of the file, as an update of its catalog
/// (7.5.6), so that all before it stays as it was painted.
/// </summary>
internal static partial class PdfLanguage
{
    /// <param name="language">ISO 639-1.</param>
    /// <returns>The file as it was, where it is none whose catalog we find.</returns>
    internal static byte[] Said(byte[] pdf, string language)
    {
        var end = Encoding.Latin1.GetString(pdf, Math.Max(0, pdf.Length - 600), Math.Min(600, pdf.Length));
        var (root, size, id, start) = (Root().Match(end), Size().Match(end), Id().Match(end), Start().Match(end));
        if (!root.Success || !size.Success || !start.Success)
            return pdf;
        var number = root.Groups[1].Value;
        var head = Encoding.Latin1.GetBytes($"\n{number} 0 obj\n<</Type /Catalog");
        var at = pdf.AsSpan().LastIndexOf(head);
        var length = at < 0 ? -1 : pdf.AsSpan(at).IndexOf("endobj"u8);
        if (length < 0)
            return pdf;
        var catalog = Encoding.Latin1.GetString(pdf, at + 1, length - 1 + "endobj".Length);
        var said = catalog.Replace(
            "<</Type /Catalog",
            $"<</Type /Catalog\n/Lang ({language})\n/ViewerPreferences <</DisplayDocTitle true>>",
            StringComparison.Ordinal
        );
        var place = pdf.Length + (pdf[^1] == '\n' ? 0 : 1);
        var update = new StringBuilder();
        if (place > pdf.Length)
            update.Append('\n');
        update.Append(said).Append('\n');
        var table = pdf.Length + update.Length;
        update.Append(
            string.Create(
                CultureInfo.InvariantCulture,
                $"xref\n{number} 1\n{place:0000000000} 00000 n \ntrailer\n<</Size {size.Groups[1].Value}\n/Root {number} 0 R\n"
            )
        );
        if (Info().Match(end) is { Success: true } info)
            update.Append(CultureInfo.InvariantCulture, $"/Info {info.Groups[1].Value} 0 R\n");
        if (id.Success)
            update.Append(id.Value).Append('\n');
        update.Append(CultureInfo.InvariantCulture, $"/Prev {start.Groups[1].Value}>>\nstartxref\n{table}\n%%EOF\n");
        return [.. pdf, .. Encoding.Latin1.GetBytes(update.ToString())];
    }

    [GeneratedRegex(@"/Root (\d+) 0 R")]
    private static partial Regex Root();

    [GeneratedRegex(@"/Info (\d+) 0 R")]
    private static partial Regex Info();

    [GeneratedRegex(@"/Size (\d+)")]
    private static partial Regex Size();

    [GeneratedRegex(@"/ID \[<[0-9A-F]+> <[0-9A-F]+>\]")]
    private static partial Regex Id();

    [GeneratedRegex(@"startxref\s+(\d+)\s+%%EOF\s*$")]
    private static partial Regex Start();
}
