namespace Jugaad.Core.Layouts;

/// <summary>Breaks text into lines that fit a width.</summary>
public static class TextFlow
{
    /// <summary>Breaks at blanks and line ends; a word that is wider than the line is cut.</summary>
    public static List<string> Wrap(string text, double width, double size, bool bold, ITextMeasure measure) =>
        Wrap(text, width, size, new TypeStyle("", bold), measure);

    /// <inheritdoc cref="Wrap(string, double, double, bool, ITextMeasure)"/>
    public static List<string> Wrap(string text, double width, double size, TypeStyle style, ITextMeasure measure)
    {
        var lines = new List<string>();
        foreach (var paragraph in text.ReplaceLineEndings("\n").Replace('\t', ' ').Split('\n'))
        {
            var line = "";
            foreach (
                var word in paragraph
                    .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                    .SelectMany(w => Cut(w, width, size, style, measure))
            )
            {
                var longer = line.Length == 0 ? word : $"{line} {word}";
                if (line.Length > 0 && measure.Width(longer, size, style) > width)
                {
                    lines.Add(line);
                    line = word;
                }
                else
                {
                    line = longer;
                }
            }

            lines.Add(line);
        }

        return lines;
    }

    private static IEnumerable<string> Cut(
        string word,
        double width,
        double size,
        TypeStyle style,
        ITextMeasure measure
    )
    {
        while (word.Length > 1 && measure.Width(word, size, style) > width)
        {
            var fits = 1;
            while (fits < word.Length && measure.Width(word[..(fits + 1)], size, style) <= width)
                fits++;
            if (fits < word.Length && char.IsLowSurrogate(word[fits]))
                fits++;
            yield return word[..fits];
            word = word[fits..];
        }

        if (word.Length > 0)
            yield return word;
    }
}
