using Jugaad.Core.Layouts;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Codes;
using SkiaSharp;

namespace Jugaad.Formats.Papers;

/// <summary>Draws a display list into a PDF with the typeface embedded and the text as text.</summary>
public static class PdfPainter
{
    private const float PointsPerMillimetre = 72f / 25.4f;

    /// <param name="papers">One after the other; the first one's title is the file's.</param>
    /// <param name="pictures">What <see cref="PictureMark"/>s show.</param>
    /// <param name="date">Written into the file as its date, so that the same paper gives the same file.</param>
    public static byte[] Paint(IReadOnlyList<DisplayList> papers, PaperPictures pictures, DateOnly date, string author)
    {
        using var output = new MemoryStream();
        using var faces = new PaintedFaces(papers);
        using var images = new PaintedPictures(pictures);
        var stamp = date.ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc);
        using (
            var pdf = SKDocument.CreatePdf(
                output,
                new SKDocumentPdfMetadata
                {
                    Title = papers[0].Title,
                    Author = author,
                    Creator = "Jugaad",
                    Producer = "Jugaad",
                    Creation = stamp,
                    Modified = stamp,
                    PdfA = true,
                    RasterDpi = 144,
                    EncodingQuality = 101,
                }
            )
        )
        {
            foreach (var (paper, page) in papers.SelectMany(p => p.Pages.Select(page => (p, page))))
            {
                var canvas = pdf.BeginPage(
                    (float)paper.Width * PointsPerMillimetre,
                    (float)paper.Height * PointsPerMillimetre
                );
                foreach (var mark in page.Marks)
                    Draw(canvas, mark, faces, key => images.Of(paper, key));
                pdf.EndPage();
            }

            pdf.Close();
        }

        return PdfLanguage.Said(PdfName.Settled(output.ToArray()), papers[0].Language);
    }

    private static void Draw(SKCanvas canvas, Mark mark, PaintedFaces faces, Func<string, PaintedPicture?> pictureOf)
    {
        switch (mark)
        {
            case TextMark text:
                using (var paint = Fill(text.Ink))
                    faces.Paint(canvas, text, paint);
                break;
            case RuleMark rule:
                using (var paint = Fill(rule.Ink))
                {
                    paint.StrokeWidth = Points(rule.Width);
                    paint.Style = SKPaintStyle.Stroke;
                    canvas.DrawLine(Points(rule.X1), Points(rule.Y1), Points(rule.X2), Points(rule.Y2), paint);
                }

                break;
            case BoxMark box:
                using (var paint = Fill(box.Ink))
                {
                    if (box.Line > 0)
                        (paint.Style, paint.StrokeWidth) = (SKPaintStyle.Stroke, Points(box.Line));
                    canvas.DrawRect(Points(box.X), Points(box.Y), Points(box.Width), Points(box.Height), paint);
                }

                break;
            case CodeMark code:
                using (var paint = Fill(Ink.Dark))
                {
                    // Edges between modules must not be softened, or a reader sees lines in what is one block.
                    paint.IsAntialias = false;
                    var modules = CodeModules.Of(code.Text);
                    var side = code.Size / modules.Side;
                    foreach (var (x, y, length) in modules.Runs)
                        canvas.DrawRect(
                            Points(code.X + (x * side)),
                            Points(code.Y + (y * side)),
                            Points(length * side),
                            Points(side),
                            paint
                        );
                }

                break;
            case StripesMark stripes:
                using (var paint = Fill(Ink.Dark))
                {
                    paint.IsAntialias = false;
                    foreach (var (x, width) in Stripes.Of(stripes.Text, stripes.X, stripes.Width))
                        canvas.DrawRect(Points(x), Points(stripes.Y), Points(width), Points(stripes.Height), paint);
                }

                break;
            case PictureMark place when pictureOf(place.Picture) is { } picture:
                var scale = Math.Min(place.Width / picture.Width, place.Height / picture.Height);
                picture.Draw(
                    canvas,
                    SKRect.Create(
                        Points(place.X),
                        Points(place.Y),
                        Points(picture.Width * scale),
                        Points(picture.Height * scale)
                    )
                );
                break;
        }
    }

    internal static float Points(double millimetres) => (float)millimetres * PointsPerMillimetre;

    private static SKPaint Fill(Ink ink) => new() { Color = SKColor.Parse(ink.Hex), IsAntialias = true };
}
