using System.Text;
using Jugaad.Core.Layouts;
using SkiaSharp;

namespace Jugaad.Formats.Papers;

/// <summary>
/// The typefaces of one file, each cut down to what its papers use of it. All text is shaped first, so that what is
/// embedded is known before the first page is painted.
/// </summary>
internal sealed class PaintedFaces : IDisposable
{
    private readonly Dictionary<(string Text, TypeStyle Style), Shaped> _shaped = [];
    private readonly Dictionary<FaceFile, SKTypeface> _typefaces = [];

    internal PaintedFaces(IEnumerable<DisplayList> papers)
    {
        var used = new Dictionary<FaceFile, (HashSet<ushort> Glyphs, HashSet<int> Letters)>();
        foreach (var mark in papers.SelectMany(p => p.Pages).SelectMany(p => p.Marks).OfType<TextMark>())
        {
            if (_shaped.ContainsKey((mark.Text, mark.Style)))
                continue;
            var shaped = _shaped[(mark.Text, mark.Style)] = Shaped.Of(mark.Text, mark.Style);
            foreach (var run in shaped.Runs)
            {
                var file = run.Run.Face.File(mark.Style);
                if (!used.TryGetValue(file, out var sets))
                    used[file] = sets = ([], []);
                sets.Glyphs.UnionWith(run.Glyphs.Select(g => g.Glyph));
                sets.Letters.UnionWith(run.Run.Text.EnumerateRunes().Select(r => r.Value));
                sets.Letters.Add(' ');
            }
        }

        foreach (var (file, (glyphs, letters)) in used)
            _typefaces[file] = FaceSubset.Of(file, glyphs, letters);
    }

    /// <summary>
    /// Paints a line with its letters beside its glyphs, so that what is copied from the file is what was written.
    /// </summary>
    internal void Paint(SKCanvas canvas, TextMark mark, SKPaint paint)
    {
        var shaped = _shaped[(mark.Text, mark.Style)];
        var em = (float)mark.Size;
        var left = PdfPainter.Points(mark.X) - ((float)(shaped.Width * Shaped.Behind(mark.Anchor)) * em);
        foreach (var run in shaped.Runs)
        {
            if (run.Glyphs.Count == 0)
                continue;
            using var font = new SKFont(_typefaces[run.Run.Face.File(mark.Style)], em)
            {
                Subpixel = true,
                Hinting = SKFontHinting.None,
                Edging = SKFontEdging.Antialias,
            };
            using var blob = Blob(run, font, em);
            canvas.DrawText(blob, left + ((float)run.X * em), PdfPainter.Points(mark.Y), paint);
        }
    }

    public void Dispose()
    {
        foreach (var typeface in _typefaces.Values)
            typeface.Dispose();
    }

    private static SKTextBlob Blob(ShapedRun run, SKFont font, float em)
    {
        // Copied, a narrow blank is a plain one: spreadsheets read the figure then.
        var text = run.Run.Text.Replace((char)Shaped.NarrowBlank, ' ');
        var bytes = Encoding.UTF8.GetBytes(text);
        var offsets = new uint[text.Length + 1];
        for (int i = 0, at = 0; i < text.Length; i++)
        {
            offsets[i] = (uint)at;
            at +=
                char.IsHighSurrogate(text[i]) ? 4
                : char.IsLowSurrogate(text[i]) ? 0
                : Encoding.UTF8.GetByteCount(text.AsSpan(i, 1));
        }

        using var builder = new SKTextBlobBuilder();
        var buffer = builder.AllocatePositionedTextRun(font, run.Glyphs.Count, bytes.Length);
        buffer.SetGlyphs(run.Glyphs.Select(g => g.Glyph).ToArray());
        buffer.SetPositions(run.Glyphs.Select(g => new SKPoint((float)g.X * em, -(float)g.Y * em)).ToArray());
        buffer.SetClusters(run.Glyphs.Select(g => offsets[g.Cluster]).ToArray());
        buffer.SetText(bytes);
        return builder.Build() ?? throw new InvalidOperationException("A line without glyphs is not painted.");
    }
}
