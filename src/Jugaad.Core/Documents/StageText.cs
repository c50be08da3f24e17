using System.Text.RegularExpressions;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Documents;

/// <summary>
/// What a stage says of itself: which one it is, what was billed before it, what is left. These words follow from the
/// books, so that they are written anew whenever those change, wherever they stand in what was typed.
/// </summary>
public static partial class StageText
{
    /// <summary>Such as <c>Stage 2 of quote QUO-2025-0007, the last</c>.</summary>
    /// <param name="source">The quote or order, such as <c>quote QUO-2025-0007</c>.</param>
    public static string Heading(int number, string source, bool last) =>
        $"Stage {number} of {source}{(last ? ", the last" : "")}";

    /// <summary>
    /// Such as <c>of 100.00: billed before 40.00, now 30.00, left 30.00</c>. Amounts are minor units, in the price mode
    /// of the document.
    /// </summary>
    public static string Progress(long whole, long before, long now, Currency currency, DisplayFormat format)
    {
        string Amount(long minor) => format.Amount(minor, currency);
        return $"of {Amount(whole)}: billed before {Amount(before)}, now {Amount(now)}, left {Amount(whole - before - now)}";
    }

    /// <summary>The text with its heading, if it is one, put right.</summary>
    public static string WithHeading(string text, string heading) => HeadingPattern().IsMatch(text) ? heading : text;

    /// <summary>The text with the line that tells of its progress, if it has one, put right.</summary>
    public static string WithProgress(string text, string progress) =>
        string.Join('\n', text.Split('\n').Select(l => ProgressPattern().IsMatch(l) ? progress : l));

    [GeneratedRegex(@"^\s*Stage\s+\S+\s+of\s+(quote|order)\b", RegexOptions.IgnoreCase)]
    private static partial Regex HeadingPattern();

    [GeneratedRegex(@"^\s*of\b.*\bbilled\s+before\b", RegexOptions.IgnoreCase)]
    private static partial Regex ProgressPattern();
}
