using Jugaad.Core;
using Jugaad.Formats.Papers;
using SkiaSharp;

namespace Jugaad.Formats.Pictures;

/// <summary>A drawing is drawn once before it is kept, so that no paper fails or swells by it later.</summary>
internal static class Drawing
{
    /// <summary>What it may add to each paper, in bytes.</summary>
    private const int MostPainted = 400_000;

    private const int Side = 96;

    /// <param name="svg">As <see cref="SvgCleaner"/> makes it.</param>
    /// <returns>The same.</returns>
    /// <exception cref="RefusalException">When it cannot be drawn, draws nothing, or would make papers large.</exception>
    internal static byte[] Tried(byte[] svg, string field)
    {
        using var picture =
            PaintedPicture.Of(svg)
            ?? throw new RefusalException(
                field,
                "This drawing cannot be drawn. Save it again as plain SVG, or as PNG, and choose the new file."
            );
        var size = Painted(picture);
        if (size > MostPainted)
            throw new RefusalException(
                field,
                $"This drawing would make each paper {size / 1000} kB larger. Simplify it, or save it as PNG, and choose the new file."
            );
        if (IsBlank(picture))
            throw new RefusalException(
                field,
                "Nothing is to be seen in this drawing. Check that its shapes lie within its page, and choose the new file."
            );
        return svg;
    }

    private static long Painted(PaintedPicture picture)
    {
        using var to = new MemoryStream();
        using (var pdf = SKDocument.CreatePdf(to))
        {
            picture.Draw(pdf.BeginPage(Side, Side), SKRect.Create(Side, Side));
            pdf.EndPage();
            pdf.Close();
        }

        return to.Length;
    }

    private static bool IsBlank(PaintedPicture picture)
    {
        using var seen = new SKBitmap(Side, Side);
        using var canvas = new SKCanvas(seen);
        canvas.Clear(SKColors.Transparent);
        picture.Draw(canvas, SKRect.Create(Side, Side));
        return Array.TrueForAll(seen.Pixels, p => p.Alpha == 0);
    }
}
