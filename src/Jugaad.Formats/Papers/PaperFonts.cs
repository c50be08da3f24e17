using Jugaad.Core.Layouts;
using SkiaSharp;

namespace Jugaad.Formats.Papers;

/// <summary>The typeface that papers are set in, and its measure.</summary>
public sealed class PaperFonts : ITextMeasure
{
    private const double MillimetresPerPoint = 25.4 / 72;

    private readonly SKTypeface _regular = Load("Regular", "400Regular");
    private readonly SKTypeface _bold = Load("Bold", "700Bold");

    private PaperFonts() { }

    /// <summary>Loaded once for the process; painters on several threads may share it.</summary>
    public static PaperFonts Shared { get; } = new();

    /// <summary>The font's file, for pages that show papers.</summary>
    public static byte[] File(bool bold) => Bytes(bold ? "700Bold" : "400Regular");

    /// <inheritdoc/>
    public double Width(string text, double size, bool bold)
    {
        // Measured large and scaled, so that hinting does not round the widths.
        using var font = Font(100, bold);
        return font.MeasureText(text) * size / 100 * MillimetresPerPoint;
    }

    internal SKFont Font(float size, bool bold) =>
        new(bold ? _bold : _regular, size) { Subpixel = true, Hinting = SKFontHinting.None, Edging = SKFontEdging.Antialias };

    private static SKTypeface Load(string name, string file)
    {
        using var data = SKData.CreateCopy(Bytes(file));
        return SKTypeface.FromData(data) ?? throw new InvalidOperationException($"The typeface {name} does not load.");
    }

    private static byte[] Bytes(string file)
    {
        using var stream = typeof(PaperFonts).Assembly.GetManifestResourceStream($"Jugaad.Formats.Fonts.AtkinsonHyperlegibleNext_{file}.ttf")
            ?? throw new InvalidOperationException($"The font {file} is not shipped.");
        using var copy = new MemoryStream();
        stream.CopyTo(copy);
        return copy.ToArray();
    }
}
