using System.Collections.Concurrent;
using Jugaad.Core.Layouts;

namespace Jugaad.Formats.Papers;

/// <summary>Measures text in the typefaces that papers are set in: the same shapes that are painted.</summary>
public sealed class PaperFonts : ITextMeasure
{
    private const double MillimetresPerPoint = 25.4 / 72;

    /// <summary>How many widths are remembered; a paper asks for the same words again and again.</summary>
    private const int MostWidths = 20_000;

    private readonly ConcurrentDictionary<(string Text, TypeStyle Style), double> _widths = new();

    private PaperFonts() { }

    /// <summary>Painters on several threads may share it.</summary>
    public static PaperFonts Shared { get; } = new();

    /// <summary>The keys of the typefaces that ship, for pages that show papers.</summary>
    public static IReadOnlyList<string> Keys { get; } = [.. PaperFace.Every.Except(OwnFaces.All).Select(f => f.Key)];

    /// <summary>The style sheet by which such pages find typefaces that go with layouts.</summary>
    public static string OwnStyle() => OwnFaces.Style();

    /// <summary>Changes with that sheet; empty as long as there is nothing in it.</summary>
    public static string OwnVersion => OwnFaces.Version;

    /// <exception cref="Core.RefusalException">Where a file is no typeface that papers can be set in.</exception>
    public static void Check(byte[] file, string field) => OwnFaces.Check(file, field);

    /// <summary>A typeface's file; null where there is none of that key, weight and slant.</summary>
    /// <param name="weight"><c>regular</c>, <c>bold</c>, <c>italic</c> or <c>bold-italic</c>.</param>
    public static byte[]? File(string key, string weight)
    {
        var face = PaperFace.Every.FirstOrDefault(f => f.Key == key);
        var (bold, italic) = (
            weight.StartsWith("bold", StringComparison.Ordinal),
            weight.EndsWith("italic", StringComparison.Ordinal)
        );
        return face is null || bold && !face.HasBold || italic && !face.HasItalic
            ? null
            : face.File(new TypeStyle("", bold, italic)).Bytes;
    }

    /// <inheritdoc/>
    public double Width(string text, double size, TypeStyle style)
    {
        if (!_widths.TryGetValue((text, style), out var ems))
        {
            if (_widths.Count > MostWidths)
                _widths.Clear();
            ems = _widths[(text, style)] = Shaped.Of(text, style).Width;
        }

        return ems * size * MillimetresPerPoint;
    }

    /// <inheritdoc/>
    public double Width(string text, double size, bool bold) => Width(text, size, new TypeStyle("", bold));

    /// <inheritdoc/>
    public string FaceOf(LayoutTypeface typeface) => OwnFaces.KeyOf(typeface);

    /// <inheritdoc/>
    public IReadOnlyList<string> Unprintable(string text) => TextRuns.Unprintable(text);
}
