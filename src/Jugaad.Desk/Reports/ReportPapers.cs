using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;

namespace Jugaad.Desk.Reports;

/// <summary>Reports on paper, with days and amounts as the business writes them.</summary>
public sealed class ReportPapers(BooksHead head, PaperRoom papers, IPaperPrinter printer)
{
    /// <summary>A cell as a person reads it.</summary>
    public static string Text(object? cell, DisplayFormat format) =>
        cell switch
        {
            DateOnly day => format.Date(day),
            Money money => format.Amount(money),
            decimal number => format.Typed(number),
            _ => Report.Text(cell),
        };

    /// <summary>On paper, in a language that the program comes with; what a person typed stays as it is.</summary>
    public async Task<byte[]> PdfAsync(Report report, string language = "", CancellationToken stop = default) =>
        await papers.PrintAsync([await ComposeAsync(report, language, stop)], await head.TodayAsync(stop), stop);

    /// <inheritdoc cref="PdfAsync"/>
    public async Task<DisplayList> ComposeAsync(Report report, string language, CancellationToken stop = default)
    {
        var (business, today) = (await head.BusinessAsync(stop), await head.TodayAsync(stop));
        var says = PaperWords.Of(language);
        var format = language.Length == 0 ? business.Format : says.FormatOf(business);
        string Say(string english) => ReportWords.Say(english, says.Language);
        var shown = Enumerable.Range(0, report.Columns.Count).Where(i => !report.Columns[i].InFilesOnly).ToList();
        return ReportSheet.Compose(
            Say(report.Title),
            "",
            [
                (
                    Say("Of"),
                    report.About.Length > 0 ? ReportWords.Dated(Say(report.About), format) : format.Date(today)
                ),
                (Say("Made on"), format.Date(today)),
                (Say("Amounts in"), business.HomeCurrency.Code),
            ],
            [
                (
                    shown.ConvertAll(i => new SheetColumn(
                        ReportWords.Dated(Say(report.Columns[i].Head), format),
                        report.Columns[i].IsFigure
                    )),
                    [
                        .. report.Rows.Select(r => new PaperRow(
                            shown.ConvertAll(i =>
                                r.Cells[i] is SaidCell || r.IsSum && r.Cells[i] is "In all"
                                    ? Say(Report.Text(r.Cells[i]))
                                    : Text(r.Cells[i], format)
                            ),
                            r.IsSum
                        )),
                    ]
                ),
            ],
            await papers.SenderAsync(today, null, says.Language, null, stop),
            says,
            printer.Measure
        );
    }
}
