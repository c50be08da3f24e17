using System.Text.RegularExpressions;
using Jugaad.Core;

namespace Jugaad.Desk.Papers;

/// <summary>
/// Keeps the work of filling a text in small bounds, whoever wrote it: fields and conditions only, nothing that
/// repeats, gathers or multiplies, and so many characters at most.
/// </summary>
internal static partial class TextBounds
{
    private const int MostTemplate = 20_000;
    private const int MostPieces = 400;
    private const int MostText = 100_000;

    private static readonly HashSet<string> Tags =
    [
        "if",
        "elsif",
        "else",
        "endif",
        "unless",
        "endunless",
        "case",
        "when",
        "endcase",
        "comment",
        "endcomment",
        "raw",
        "endraw",
    ];

    private static readonly HashSet<string> Filters =
    [
        "upcase",
        "downcase",
        "capitalize",
        "strip",
        "truncate",
        "size",
        "default",
        "escape",
        "strip_newlines",
        "first",
        "last",
    ];

    /// <exception cref="RefusalException">When it asks for more than a text may.</exception>
    internal static void Check(string template, string field)
    {
        if (template.Length > MostTemplate)
            throw new RefusalException(
                field,
                $"A text has at most {MostTemplate} characters; this has {template.Length}."
            );
        var pieces = Pieces().Matches(template);
        if (pieces.Count > MostPieces)
            throw new RefusalException(
                field,
                $"A text has at most {MostPieces} fields and conditions; this has {pieces.Count}."
            );
        foreach (Match piece in pieces)
        {
            if (piece.Groups["tag"] is { Success: true } tag && !Tags.Contains(tag.Value))
                throw new RefusalException(
                    field,
                    $"“{tag.Value}” cannot be used here. Texts have fields, and conditions such as {{% if Until != \"\" %}} … {{% endif %}}."
                );
            foreach (Match filter in Piped().Matches(piece.Groups["inner"].Value))
                if (!Filters.Contains(filter.Groups["name"].Value))
                    throw new RefusalException(
                        field,
                        $"“{filter.Groups["name"].Value}” cannot be used here. Behind a bar stand {string.Join(", ", Filters.Order(StringComparer.Ordinal))}."
                    );
        }
    }

    /// <exception cref="RefusalException">When what came of it is too long to be a mail.</exception>
    internal static string Checked(string text, string field) =>
        text.Length <= MostText
            ? text
            : throw new RefusalException(
                field,
                $"Filled in, this text has more than {MostText} characters. Shorten it."
            );

    [GeneratedRegex(
        @"\{%-?\s*(?<tag>\w*)(?<inner>.*?)%\}|\{\{(?<inner>.*?)\}\}",
        RegexOptions.Singleline | RegexOptions.CultureInvariant,
        1_000
    )]
    private static partial Regex Pieces();

    [GeneratedRegex(@"\|\s*(?<name>[^\s:|]*)", RegexOptions.CultureInvariant, 1_000)]
    private static partial Regex Piped();
}
