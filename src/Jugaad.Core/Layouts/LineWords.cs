using System.Text.RegularExpressions;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>
/// What the program wrote into lines, in the language of their paper. Drafts keep it as <see cref="MadeText"/> and
/// <see cref="StageText"/> write it, so that it can be put right as the books change; whatever was typed otherwise stays
/// as it was typed. So does what was issued with words that lacked these.
/// </summary>
internal static partial class LineWords
{
    private static readonly DateOnly AnyDay = new(2000, 1, 1);

    /// <param name="kept">How figures and dates stand in the text.</param>
    /// <param name="format">How the language writes them.</param>
    internal static string In(PaperWords words, string text, DisplayFormat kept, DisplayFormat format) =>
        string.Join('\n', text.Split('\n').Select(l => Line(words, l, kept, format)));

    private static string Line(PaperWords words, string line, DisplayFormat kept, DisplayFormat format) =>
        Delivery(words, line, kept, format) ?? Deposit(words, line, format) ?? Stage(words, line, kept, format) ?? line;

    private static string? Delivery(PaperWords words, string line, DisplayFormat kept, DisplayFormat format) =>
        words.Has(PaperWord.PaperOf)
        && MadeText.FindDelivery(line) is var (number, typed)
        && kept.FindDay(typed, AnyDay) is { } day
        && kept.Date(day) == typed
            ? words.Fill(PaperWord.PaperOf, $"{words.Title(DocumentKind.DeliveryNote)} {number}", format.Date(day))
            : null;

    private static string? Deposit(PaperWords words, string line, DisplayFormat format)
    {
        if (words.Has(PaperWord.DepositLess) && MadeText.FindLessDeposit(line) is { } invoice)
            return words.Fill(PaperWord.DepositLess, $"{words.TitleWithin(DocumentKind.Invoice)} {invoice}");
        if (!words.Has(PaperWord.DepositOn) || MadeText.FindDeposit(line) is not var (percent, source, number))
            return null;
        var on = $"{words.TitleWithin(source)} {number}";
        return percent.Length == 0
            ? words.Fill(PaperWord.DepositOn, on)
            : words.Fill(PaperWord.DepositShareOn, percent.Replace('.', format.DecimalMark), on);
    }

    private static string? Stage(PaperWords words, string line, DisplayFormat kept, DisplayFormat format)
    {
        if (Heading().Match(line) is { Success: true } heading && words.Has(PaperWord.StageOf))
        {
            var kind = words.TitleWithin(heading.Groups[2].Value == "quote" ? DocumentKind.Quote : DocumentKind.Order);
            var said = words.Fill(PaperWord.StageOf, heading.Groups[1].Value, $"{kind} {heading.Groups[3].Value}");
            return heading.Groups[4].Success ? words.Fill(PaperWord.StageLast, said) : said;
        }

        return words.Has(PaperWord.StageProgress) && Progress().Match(line) is { Success: true } progress
            ? words.Fill(
                PaperWord.StageProgress,
                [
                    .. Enumerable
                        .Range(1, 4)
                        .Select(i => progress.Groups[i].Value.Replace(kept.DecimalMark, format.DecimalMark)),
                ]
            )
            : null;
    }

    [GeneratedRegex(@"^Stage (\d+) of (quote|order) (.+?)(, the last)?$")]
    private static partial Regex Heading();

    [GeneratedRegex(
        @"^of ([\d.,\u202f\u2212]+): billed before ([\d.,\u202f\u2212]+), now ([\d.,\u202f\u2212]+), left ([\d.,\u202f\u2212]+)$"
    )]
    private static partial Regex Progress();
}
