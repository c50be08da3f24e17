using System.Text;

namespace Jugaad.Formats.Papers;

/// <summary>
/// Says in a PDF in which language it is written, for whoever has it read aloud, and that its title is shown rather
/// than the file's name (ISO 32000-1, 7.7.2 and 12.2).
/// </summary>
internal static class PdfLanguage
{
    /// <param name="language">ISO 639-1.</param>
    /// <returns>The file as it was, where it is none whose catalog we find.</returns>
    internal static byte[] Said(byte[] pdf, string language)
    {
        if (PdfUpdate.Of(pdf) is not { } update)
            return pdf;
        update.Change(
            update.Root,
            Encoding.Latin1.GetBytes(
                update.Catalog.Replace(
                    "<</Type /Catalog",
                    $"<</Type /Catalog\n/Lang ({language})\n/ViewerPreferences <</DisplayDocTitle true>>",
                    StringComparison.Ordinal
                )
            )
        );
        return update.Write();
    }
}
