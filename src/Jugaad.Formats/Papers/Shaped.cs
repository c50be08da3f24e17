using HarfBuzzSharp;
using Jugaad.Core.Layouts;

namespace Jugaad.Formats.Papers;

/// <summary>A glyph of a run.</summary>
/// <param name="Cluster">Where its letters begin in the run's text, counted in UTF-16.</param>
/// <param name="X">From the run's beginning, in ems.</param>
/// <param name="Y">Above the baseline, in ems.</param>
internal readonly record struct ShapedGlyph(ushort Glyph, int Cluster, double X, double Y);

/// <summary>A run with its glyphs.</summary>
/// <param name="X">Where it begins in the line, in ems.</param>
/// <param name="Width">In ems.</param>
internal sealed record ShapedRun(TextRun Run, double X, double Width, IReadOnlyList<ShapedGlyph> Glyphs);

/// <summary>
/// A line of text as glyphs, by HarfBuzz. Letters are neither kerned nor joined where the script does not ask for it,
/// so that figures stay in their columns.
/// </summary>
/// <param name="Width">In ems.</param>
internal sealed record Shaped(IReadOnlyList<ShapedRun> Runs, double Width)
{
    internal const int NarrowBlank = '\u202F';

    /// <summary>How wide a narrow blank is, in ems; it is set as a blank of this width, and copied as one.</summary>
    internal const double NarrowBlankWidth = 0.22;

    /// <summary>Which part of a text stands left of its point.</summary>
    internal static double Behind(Anchor anchor) =>
        anchor switch
        {
            Anchor.End => 1,
            Anchor.Middle => 0.5,
            _ => 0,
        };

    private static readonly Feature[] Features =
    [
        Feature.Parse("-kern"),
        Feature.Parse("-liga"),
        Feature.Parse("-clig"),
    ];

    internal static Shaped Of(string text, TypeStyle style)
    {
        var runs = new List<ShapedRun>();
        var x = 0.0;
        foreach (var run in TextRuns.Of(text, style.Face))
        {
            var shaped = Of(run, style, x);
            runs.Add(shaped);
            x += shaped.Width;
        }

        return new Shaped(runs, x);
    }

    private static ShapedRun Of(TextRun run, TypeStyle style, double at)
    {
        var file = run.Face.File(style);
        using var buffer = new HarfBuzzSharp.Buffer();
        buffer.AddUtf16(run.Text.Replace((char)NarrowBlank, ' '));
        buffer.GuessSegmentProperties();
        buffer.Direction = run.Rightwards ? Direction.LeftToRight : Direction.RightToLeft;
        file.Shape(buffer, Features);
        double em = file.UnitsPerEm,
            x = 0;
        var (infos, positions) = (buffer.GlyphInfos, buffer.GlyphPositions);
        var glyphs = new List<ShapedGlyph>(infos.Length);
        for (var i = 0; i < infos.Length; i++)
        {
            var cluster = (int)infos[i].Cluster;
            glyphs.Add(
                new ShapedGlyph(
                    (ushort)infos[i].Codepoint,
                    cluster,
                    x + (positions[i].XOffset / em),
                    positions[i].YOffset / em
                )
            );
            x += run.Text[cluster] == NarrowBlank ? NarrowBlankWidth : positions[i].XAdvance / em;
        }

        return new ShapedRun(run, at, x, glyphs);
    }
}
