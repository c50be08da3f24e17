using Jugaad.Core.Layouts;
using Jugaad.Desk.Outside;

namespace Jugaad.Formats.Papers;

/// <summary>The painters behind the desk's interface.</summary>
public sealed class PaperPrinter : IPaperPrinter
{
    /// <inheritdoc/>
    public ITextMeasure Measure => PaperFonts.Shared;

    /// <inheritdoc/>
    public byte[] Pdf(IReadOnlyList<DisplayList> papers, PaperPictures pictures, DateOnly date, string author) =>
        PdfPainter.Paint(papers, pictures, date, author);

    /// <inheritdoc/>
    public IReadOnlyList<string> Svg(
        DisplayList paper,
        Func<string, string?> addressOf,
        bool pieces = false,
        bool anchors = false
    ) => SvgPainter.Paint(paper, addressOf, pieces, anchors);

    /// <inheritdoc/>
    public void CheckTypeface(byte[] file, string field) => OwnFaces.Check(file, field);
}
