using System.Globalization;
using System.Text.RegularExpressions;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Layouts;

/// <summary>
/// What the program itself says on papers of the books, such as a report's title and the heads of its columns, in the
/// languages that it comes with. What a person typed is never looked up here.
/// </summary>
public static partial class ReportWords
{
    private static readonly Lazy<Dictionary<string, Dictionary<string, string>>> ByEnglish = new(Read);

    /// <summary>All that is known, as English has it, with its words by language.</summary>
    public static IReadOnlyDictionary<string, IReadOnlyDictionary<string, string>> All =>
        ByEnglish.Value.ToDictionary(w => w.Key, w => (IReadOnlyDictionary<string, string>)w.Value);

    /// <summary>In which a paper can be had; the first, without a code, is English in the business's own format.</summary>
    public static IEnumerable<(string Code, string Name)> Languages { get; } =
    [("", "English"), .. Customer.Languages.Where(l => l.Code != "en")];

    /// <summary>Titles that end with the name of what they are of, which is never looked up.</summary>
    private static readonly string[] WithName = ["Credit of ", "Statement of ", "Book of "];

    /// <summary>The words in a language. Days, numbers and codes of currencies within them stay as they are.</summary>
    /// <returns>The words as they came where they, or the language, are not known.</returns>
    public static string Say(string english, string language) =>
        Known(english) is { } words ? words.GetValueOrDefault(language, english)
        : WithName.FirstOrDefault(n => english.StartsWith(n, StringComparison.Ordinal)) is { } title
            ? Filled(title + "{0}", [english[title.Length..]], language) ?? english
        : string.Join(", ", english.Split(", ").Select(part => Part(part, language)));

    /// <summary>Whether there are words for it in every language.</summary>
    public static bool Knows(string english) =>
        Say(english, "de") != english || Known(Pattern(english, [])) is not null;

    private static Dictionary<string, string>? Known(string english) => ByEnglish.Value.GetValueOrDefault(english);

    private static string Part(string english, string language)
    {
        var kept = new List<string>();
        return Filled(Pattern(english, kept), kept, language) ?? english;
    }

    /// <summary>With a gap for each day, number and code.</summary>
    private static string Pattern(string english, List<string> kept) =>
        Kept()
            .Replace(
                english,
                found =>
                {
                    kept.Add(found.Value);
                    return $"{{{kept.Count - 1}}}";
                }
            );

    private static string? Filled(string pattern, List<string> kept, string language)
    {
        if (Known(pattern)?.GetValueOrDefault(language) is not { } said)
            return null;
        for (var i = 0; i < kept.Count; i++)
            said = said.Replace($"{{{i}}}", kept[i], StringComparison.Ordinal);
        return said;
    }

    /// <summary>Days by ISO 8601 within a text, as a format writes them.</summary>
    public static string Dated(string text, DisplayFormat format) =>
        IsoDay()
            .Replace(
                text,
                day => format.Date(DateOnly.ParseExact(day.Value, "yyyy-MM-dd", CultureInfo.InvariantCulture))
            );

    [GeneratedRegex(@"\b[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])\b")]
    private static partial Regex IsoDay();

    [GeneratedRegex(@"\b[0-9](?:[0-9./-]*[0-9])?\b|\b[A-Z]{3}\b")]
    private static partial Regex Kept();

    private static Dictionary<string, Dictionary<string, string>> Read()
    {
        using var file = new StreamReader(
            typeof(ReportWords).Assembly.GetManifestResourceStream("Jugaad.Core.Words.reports.tsv")!
        );
        var lines = file.ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries);
        var languages = lines[0].Split('\t');
        return lines
            .Skip(1)
            .Select(l => l.Split('\t'))
            .ToDictionary(words => words[0], words => languages.Zip(words).ToDictionary(p => p.First, p => p.Second));
    }
}
