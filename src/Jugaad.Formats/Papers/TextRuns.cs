using System.Globalization;
using System.Text;

namespace Jugaad.Formats.Papers;

/// <summary>Text of one typeface and one direction.</summary>
internal readonly record struct TextRun(PaperFace Face, string Text, bool Rightwards);

/// <summary>
/// Parts a line into runs that one typeface can paint, in the order in which they stand from left to right.
/// </summary>
internal static class TextRuns
{
    private const char Replacement = '\uFFFD';

    internal static IReadOnlyList<TextRun> Of(string text, string family)
    {
        var clean = Paintable(text);
        var faces = PaperFace.For(family);
        var runs = new List<TextRun>();
        foreach (var stretch in TextDirections.Of(clean))
        {
            var parts = ByFace(clean.Substring(stretch.Start, stretch.Length), faces)
                .Select(p => new TextRun(p.Face, p.Text, stretch.Rightwards));
            runs.AddRange(stretch.Rightwards ? parts : parts.Reverse());
        }

        return runs;
    }

    /// <summary>What of a text no typeface that ships can paint, each once.</summary>
    internal static IReadOnlyList<string> Unprintable(string text) =>
        Elements(text).Where(e => !IsControl(e) && FaceOf(e) is null).Distinct().ToList();

    /// <summary>
    /// Without signs that are not meant to be seen, and with a mark in place of what nothing can paint.
    /// </summary>
    private static string Paintable(string text)
    {
        if (text.All(c => c is >= ' ' and <= '~'))
            return text;
        var clean = new StringBuilder(text.Length);
        foreach (var element in Elements(text))
        {
            if (IsControl(element))
                clean.Append(element is "\t" ? " " : "");
            else
                clean.Append(FaceOf(element) is null ? Replacement.ToString() : element);
        }

        return clean.ToString();
    }

    private static IEnumerable<(PaperFace Face, string Text)> ByFace(string text, IReadOnlyList<PaperFace> faces)
    {
        if (text.All(c => c is >= ' ' and <= '~'))
        {
            if (text.Length > 0)
                yield return (faces[0], text);
            yield break;
        }

        var run = new StringBuilder();
        PaperFace? face = null;
        foreach (var element in Elements(text))
        {
            // Points and blanks stay with the word that they follow.
            var own = face is not null && !IsTelling(element) && Covers(face, element) ? face : FaceOf(element, faces)!;
            if (face is not null && own != face)
            {
                yield return (face, run.ToString());
                run.Clear();
            }

            face = own;
            run.Append(element);
        }

        if (face is not null)
            yield return (face, run.ToString());
    }

    private static PaperFace? FaceOf(string element) => FaceOf(element, PaperFace.All);

    private static PaperFace? FaceOf(string element, IReadOnlyList<PaperFace> faces) =>
        faces.FirstOrDefault(face => Covers(face, element));

    private static bool Covers(PaperFace face, string element)
    {
        foreach (var rune in element.EnumerateRunes())
            if (!IsSilent(rune) && !face.File(default).Has(rune.Value))
                return false;
        return true;
    }

    /// <summary>A narrow blank is an advance only; joiners and selectors choose between shapes.</summary>
    private static bool IsSilent(Rune rune) =>
        rune.Value
            is Shaped.NarrowBlank
                or 0x200B
                or 0x200C
                or 0x200D
                or 0x2060
                or (>= 0xFE00 and <= 0xFE0F)
                or (>= 0xE0020 and <= 0xE007F);

    private static bool IsTelling(string element) =>
        Rune.IsLetterOrDigit(Rune.GetRuneAt(element, 0)) || element[0] >= '\u2190';

    private static bool IsControl(string element) =>
        element.Length == 0
        || char.IsControl(element[0])
        || element[0]
            is '\u200E'
                or '\u200F'
                or (>= '\u202A' and <= '\u202E')
                or (>= '\u2066' and <= '\u2069')
                or '\uFEFF'
                or '\u00AD'
        || (char.IsSurrogate(element[0]) && element.Length == 1);

    private static IEnumerable<string> Elements(string text)
    {
        var elements = StringInfo.GetTextElementEnumerator(text);
        while (elements.MoveNext())
            yield return elements.GetTextElement();
    }
}
