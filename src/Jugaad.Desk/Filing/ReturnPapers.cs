using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;

namespace Jugaad.Desk.Filing;

/// <summary>A return on paper: its boxes, its sums, and every row behind them.</summary>
public sealed class ReturnPapers(BooksHead head, PaperRoom papers, IPaperPrinter printer)
{
    /// <param name="language">One that the program comes with, or empty for English in the business's format.</param>
    public async Task<byte[]> PdfAsync(ReturnThen then, string language = "", CancellationToken stop = default) =>
        await papers.PrintAsync(
            [await ComposeAsync(then, language, stop)],
            then.Filed?.FiledOn ?? await head.TodayAsync(stop),
            stop
        );

    /// <inheritdoc cref="PdfAsync"/>
    public async Task<DisplayList> ComposeAsync(ReturnThen then, string language, CancellationToken stop = default)
    {
        var (business, today) = (await head.BusinessAsync(stop), await head.TodayAsync(stop));
        var words = PaperWords.Of(language);
        var says = new Says(words.Language, language.Length == 0 ? business.Format : words.FormatOf(business));
        return ReportSheet.Compose(
            $"{Title(then.Filed, says)} · {then.Authority.Name}",
            About(then, says),
            Facts(then, says),
            [.. Tables(then, says)],
            await papers.SenderAsync(then.Filed?.FiledOn ?? today, null, words.Language, null, stop),
            words,
            printer.Measure
        );
    }

    /// <summary>In which words and figures it is written.</summary>
    private sealed record Says(string Language, DisplayFormat Format)
    {
        internal string Word(string english) => ReportWords.Say(english, Language);
    }

    private static string Title(TaxReturn? filed, Says says) =>
        filed switch
        {
            null => says.Word("Draft of a tax return"),
            { Amendment: 0 } => says.Word("Tax return"),
            { Amendment: var number } => $"{says.Word("Amendment of the tax return")} {number}",
        };

    private static string About(ReturnThen then, Says says)
    {
        var days = $"{then.From:yyyy-MM-dd} to {then.To:yyyy-MM-dd}";
        var filed = then.Filed is { } told
            ? $", {says.Word("filed on")} {says.Format.Date(told.FiledOn)}, {told.FiledBy}"
            : "";
        return $"{ReportWords.Dated(says.Word(days), says.Format)}{filed}. {then.Filed?.Reason}".Trim();
    }

    private static List<(string, string)> Facts(ReturnThen then, Says says)
    {
        var facts = new List<(string, string)>
        {
            (says.Word("Told"), then.Basis == TaxBasis.ByPayment ? says.Word("by payment") : says.Word("by invoice")),
        };
        if (then.Authority.OurNumber.Length > 0)
            facts.Add((says.Word("Our number"), then.Authority.OurNumber));
        if (then.Filed is { Reference.Length: > 0 } filed)
            facts.Add((says.Word("Their reference"), filed.Reference));
        facts.Add(
            (
                then.Tax >= 0 ? says.Word("To pay") : says.Word("To come back"),
                $"{says.Format.Amount(Math.Abs(then.Filed?.Owed ?? then.Tax), then.Home)} {then.Home.Code}"
            )
        );
        return facts;
    }

    private static IEnumerable<(IReadOnlyList<SheetColumn>, IReadOnlyList<PaperRow>)> Tables(ReturnThen then, Says says)
    {
        string Amount(long minor) => says.Format.Amount(minor, then.Home);
        if (then.Boxes.Count > 0)
            yield return (
                [new(says.Word("Box"), false), new(says.Word("What"), false), new(says.Word("Amount"), true)],
                [.. then.Boxes.Select(b => new PaperRow([b.Number, b.Name, Amount(b.Amount)]))]
            );
        yield return (
            [
                new(says.Word("Tax"), false),
                new(says.Word("Rate"), true),
                new(says.Word("Kind"), false),
                new(says.Word("Taxable"), true),
                new(says.Word("Tax"), true),
            ],
            [
                .. then.Summary.Select(s => new PaperRow([
                    s.Component.Length > 0 ? s.Component : says.Word("No tax"),
                    s.Component.Length > 0 ? $"{PlainDecimal.Text(s.Percent)} %" : "",
                    says.Word(s.Category.Word()),
                    Amount(s.Taxable),
                    Amount(s.Tax),
                ])),
                new PaperRow(
                    [says.Word("In all"), "", "", Amount(then.Summary.Sum(s => s.Taxable)), Amount(then.Tax)],
                    true
                ),
            ]
        );
        yield return (
            [
                new(says.Word("Number"), false),
                new(says.Word("Counts on"), false),
                new(says.Word("Tax date"), false),
                new(says.Word("Tax"), false),
                new("", false),
                new(says.Word("Taxable"), true),
                new(says.Word("Tax"), true),
            ],
            [
                .. then.Rows.Select(r => new PaperRow([
                    r.Number,
                    says.Format.Date(r.Day),
                    says.Format.Date(r.Date),
                    r.Key.Component.Length > 0
                        ? $"{r.Key.Component} {PlainDecimal.Text(r.Key.Percent)} %"
                        : says.Word(r.Key.Category.Word()),
                    r.IsLate ? says.Word("late") : "",
                    Amount(r.Taxable),
                    Amount(r.Tax),
                ])),
            ]
        );
    }
}
