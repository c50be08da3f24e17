using Jugaad.Core.Layouts;
using Jugaad.Desk.Outside;

namespace Jugaad.Formats.Papers;

/// <summary>The painters behind the desk's interface.</summary>
public sealed class PaperPrinter : IPaperPrinter
{
    /// <inheritdoc/>
    public ITextMeasure Measure => PaperFonts.Shared;

    /// <inheritdoc/>
    public byte[] Pdf(DisplayList paper, byte[]? logo, DateOnly date, string author) => PdfPainter.Paint(paper, logo, date, author);

    /// <inheritdoc/>
    public IReadOnlyList<string> Svg(DisplayList paper, string? logoAddress) => SvgPainter.Paint(paper, logoAddress);
}
