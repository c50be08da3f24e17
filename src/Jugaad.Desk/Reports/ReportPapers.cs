using System.Globalization;
using System.Text.RegularExpressions;
using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;

namespace Jugaad.Desk.Reports;

/// <summary>Reports on paper, with days and amounts as the business writes them.</summary>
public sealed partial class ReportPapers(BooksHead head, PaperRoom papers, IPaperPrinter printer)
{
    /// <summary>A cell as a person reads it.</summary>
    public static string Text(object? cell, Business business) =>
        cell switch
        {
            DateOnly day => business.Format.Date(day),
            Money money => business.Format.Amount(money.Minor, money.Currency),
            _ => Report.Text(cell),
        };

    /// <summary>Days by ISO 8601 within a text, as the business writes them.</summary>
    public static string AsWritten(string text, Business business) =>
        IsoDay()
            .Replace(
                text,
                day => business.Format.Date(DateOnly.ParseExact(day.Value, "yyyy-MM-dd", CultureInfo.InvariantCulture))
            );

    [GeneratedRegex(@"\b[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])\b")]
    private static partial Regex IsoDay();

    public async Task<byte[]> PdfAsync(Report report, CancellationToken stop = default)
    {
        var (business, today) = (await head.BusinessAsync(stop), await head.TodayAsync(stop));
        var shown = Enumerable.Range(0, report.Columns.Count).Where(i => !report.Columns[i].InFilesOnly).ToList();
        var paper = ReportSheet.Compose(
            report.Title,
            "",
            [
                ("Of", report.About.Length > 0 ? AsWritten(report.About, business) : business.Format.Date(today)),
                ("Made on", business.Format.Date(today)),
                ("Amounts in", business.HomeCurrency.Code),
            ],
            [
                (
                    shown.ConvertAll(i => new SheetColumn(report.Columns[i].Head, report.Columns[i].IsFigure)),
                    [
                        .. report.Rows.Select(r => new PaperRow(
                            shown.ConvertAll(i => Text(r.Cells[i], business)),
                            r.IsSum
                        )),
                    ]
                ),
            ],
            await papers.SenderAsync(today, null, "en", null, stop),
            printer.Measure
        );
        return await papers.PrintAsync([paper], today, stop);
    }
}
