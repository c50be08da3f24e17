using System.Text.RegularExpressions;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>
/// What a stage says of itself, in the language of its paper. Drafts keep it as <see cref="StageText"/> writes it, so
/// that it can be put right as the books change; whatever was typed otherwise stays as it was typed.
/// </summary>
internal static partial class StageSaid
{
    /// <param name="kept">How figures stand in the text.</param>
    /// <param name="format">How the language writes them.</param>
    internal static string In(PaperWords words, string text, DisplayFormat kept, DisplayFormat format) =>
        string.Join('\n', text.Split('\n').Select(l => Line(words, l, kept, format)));

    private static string Line(PaperWords words, string line, DisplayFormat kept, DisplayFormat format)
    {
        if (Heading().Match(line) is { Success: true } heading)
        {
            var kind = words.TitleWithin(heading.Groups[2].Value == "quote" ? DocumentKind.Quote : DocumentKind.Order);
            var said = words.Fill(PaperWord.StageOf, heading.Groups[1].Value, $"{kind} {heading.Groups[3].Value}");
            return heading.Groups[4].Success ? words.Fill(PaperWord.StageLast, said) : said;
        }

        return Progress().Match(line) is { Success: true } progress
            ? words.Fill(
                PaperWord.StageProgress,
                [
                    .. Enumerable
                        .Range(1, 4)
                        .Select(i => progress.Groups[i].Value.Replace(kept.DecimalMark, format.DecimalMark)),
                ]
            )
            : line;
    }

    [GeneratedRegex(@"^Stage (\d+) of (quote|order) (.+?)(, the last)?$")]
    private static partial Regex Heading();

    [GeneratedRegex(
        @"^of ([\d.,\u202f\u2212]+): billed before ([\d.,\u202f\u2212]+), now ([\d.,\u202f\u2212]+), left ([\d.,\u202f\u2212]+)$"
    )]
    private static partial Regex Progress();
}
