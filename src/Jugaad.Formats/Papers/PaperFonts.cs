using System.Collections.Concurrent;
using Jugaad.Core.Layouts;

namespace Jugaad.Formats.Papers;

/// <summary>Measures text in the typefaces that papers are set in: the same shapes that are painted.</summary>
public sealed class PaperFonts : ITextMeasure
{
    private const double MillimetresPerPoint = 25.4 / 72;

    /// <summary>How many widths are remembered; a paper asks for the same words again and again.</summary>
    private const int MostWidths = 20_000;

    private readonly ConcurrentDictionary<(string Text, bool Bold), double> _widths = new();

    private PaperFonts() { }

    /// <summary>Painters on several threads may share it.</summary>
    public static PaperFonts Shared { get; } = new();

    /// <summary>The keys of the typefaces and their weights, for pages that show papers.</summary>
    public static IReadOnlyList<(string Key, bool Bold)> Files { get; } =
    [.. PaperFace.All.SelectMany(f => f.HasBold ? [(f.Key, false), (f.Key, true)] : new[] { (f.Key, false) })];

    /// <summary>A typeface's file; null where there is none of that key and weight.</summary>
    public static byte[]? File(string key, bool bold) =>
        Files.Contains((key, bold)) ? PaperFace.All.First(f => f.Key == key).File(bold).Bytes : null;

    /// <inheritdoc/>
    public double Width(string text, double size, bool bold)
    {
        if (!_widths.TryGetValue((text, bold), out var ems))
        {
            if (_widths.Count > MostWidths)
                _widths.Clear();
            ems = _widths[(text, bold)] = Shaped.Of(text, bold).Width;
        }

        return ems * size * MillimetresPerPoint;
    }

    /// <inheritdoc/>
    public IReadOnlyList<string> Unprintable(string text) => TextRuns.Unprintable(text);
}
