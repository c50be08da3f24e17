using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>Keeps reports with their days under names of one's own, and sends them by mail.</summary>
public sealed class KeptViews(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    ReportCatalog catalog,
    ReportPapers papers,
    PostTray tray,
    ITableFiles files
) : IPostReports
{
    public const int Most = 100;

    public async Task<IReadOnlyList<KeptView>> AllAsync(CancellationToken stop = default) =>
        await db.KeptViews.AsNoTracking().OrderBy(v => v.Name).ToListAsync(stop);

    /// <param name="query">What of the address makes it this view.</param>
    /// <returns>The view's id.</returns>
    /// <exception cref="RefusalException">When it has no name, or one that is taken.</exception>
    public Task<int> KeepAsync(string name, string report, string query, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                if (ReportCatalog.Find(report) is null)
                    throw new RefusalException("", "There is no such report.");
                var view = new KeptView(name, report, query);
                if (await db.KeptViews.AnyAsync(v => v.Name == view.Name, stop))
                    throw new RefusalException(
                        "viewName",
                        $"There is a view {view.Name} already. Choose another name."
                    );
                if (await db.KeptViews.CountAsync(stop) >= Most)
                    throw new RefusalException("viewName", $"{Most} views are kept. Let one go first.");
                db.KeptViews.Add(view);
                await writer.TrailAsync($"View of a report kept: {view.Name}");
                await writer.SaveAsync(stop);
                return view.Id;
            }
        );

    public Task<int> LetGoAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var view = await FindAsync(id, stop);
                db.KeptViews.Remove(view);
                await writer.TrailAsync($"View of a report let go: {view.Name}");
                return id;
            }
        );

    /// <summary>Has a view sent by mail, from the next week, month or quarter on.</summary>
    /// <exception cref="RefusalException">When the address is none.</exception>
    public Task<int> SendAsync(int id, string mailTo, ViewPace pace, Once once = default) =>
        writer.WriteAsync(
            Right.Mail,
            once,
            async stop =>
            {
                var view = await FindAsync(id, stop);
                view.Send(mailTo, pace, await head.TodayAsync(stop));
                await writer.TrailAsync(
                    pace == ViewPace.Never
                        ? (Phrase)$"View {view.Name} is sent to nobody any more"
                        : $"View {view.Name} is sent {pace.ToString().ToLowerInvariant()} to {view.MailTo}"
                );
                return id;
            }
        );

    /// <summary>Sends what is due, each once for its week, month or quarter.</summary>
    /// <returns>How many.</returns>
    public async Task<int> RunDailyAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var due = (await db.KeptViews.AsNoTracking().Where(v => v.Pace != ViewPace.Never).ToListAsync(stop)).Where(v =>
            v.IsDue(today)
        );
        var sent = 0;
        foreach (var id in due.Select(v => v.Id))
            sent += await writer.WriteAsync(
                Right.Mail,
                stop,
                async () =>
                {
                    var view = await FindAsync(id, stop);
                    if (!view.IsDue(today))
                        return 0;
                    var business = await head.BusinessAsync(stop);
                    // What is told is of the week, month or quarter that ended: of its last day.
                    var asOf = Before(today, view.Pace);
                    var (ask, against) = ReportAsk.OfQuery(view.Query, asOf, business.YearBegins);
                    ReportKind kind;
                    Report report;
                    try
                    {
                        kind =
                            ReportCatalog.Find(view.Report)
                            ?? throw new RefusalException("", "This report is not there any more.");
                        report = await catalog.MakeAsync(kind, ask, against, stop);
                    }
                    catch (RefusalException refused) when (refused is not NotAllowedException)
                    {
                        // What it asks for is gone, such as a customer: the day goes on, and the view says why.
                        view.Failed(today, refused.Message);
                        await writer.TrailAsync($"View {view.Name} was not sent: {refused.Message}");
                        return 0;
                    }

                    view.Went(today);
                    await tray.AddOurOwnAsync(
                        new MailToSend(
                            view.MailTo,
                            $"{view.Name}: {report.About}".TrimEnd(':', ' '),
                            $"{report.Title}\n{report.About}\n\n{Sums(report, business)}\nAs a paper and as a table with this mail."
                        )
                        {
                            Kind = PostKind.Report,
                            Report = $"{view.Report}?{Fixed(view.Query, kind, ask)}",
                        },
                        stop
                    );
                    return 1;
                }
            );
        return sent;
    }

    private static DateOnly Before(DateOnly today, ViewPace pace) =>
        pace == ViewPace.Weekly
            ? today.AddDays(-(((int)today.DayOfWeek + 6) % 7) - 1)
            : new DateOnly(
                today.Year,
                pace == ViewPace.Quarterly ? today.Month - ((today.Month - 1) % 3) : today.Month,
                1
            ).AddDays(-1);

    /// <summary>The same wishes with days that do not move any more.</summary>
    private static string Fixed(string query, ReportKind kind, ReportAsk ask)
    {
        var rest = query
            .Split('&', StringSplitOptions.RemoveEmptyEntries)
            .Where(p => p.Split('=')[0] is not ("days" or "from" or "until" or "on"));
        var days = kind.Days switch
        {
            ReportDays.Range => $"from={ReportAsk.Day(ask.From)}&until={ReportAsk.Day(ask.Until)}",
            _ => $"on={ReportAsk.Day(ask.Until)}",
        };
        return string.Join('&', rest.Prepend(days));
    }

    private static string Sums(Report report, Core.Trade.Business business) =>
        report.Rows.LastOrDefault(r => r.IsSum) is { } sum
            ? string.Concat(
                report
                    .Columns.Select((c, i) => (c, Cell: sum.Cells[i]))
                    .Where(c => c.c.Adds && c.Cell is not null)
                    .Select(c =>
                        $"{ReportWords.Dated(c.c.Head, business.Format)}: {ReportPapers.Text(c.Cell, business.Format)}\n"
                    )
            )
            : "";

    /// <inheritdoc/>
    public async Task<IReadOnlyList<(string Name, byte[] Content)>> AttachmentsAsync(
        string wish,
        CancellationToken stop
    )
    {
        var parts = wish.Split('?', 2);
        var business = await head.BusinessAsync(stop);
        if (ReportCatalog.Find(parts[0]) is not { } kind)
            return [];
        var (ask, against) = ReportAsk.OfQuery(parts[^1], await head.TodayAsync(stop), business.YearBegins);
        var report = await catalog.MakeAsync(kind, ask, against, stop);
        return
        [
            ($"{report.Name}.pdf", await papers.PdfAsync(report, ask.Of("language"), stop)),
            ($"{report.Name}.csv", files.Write(report.ToTable(), TableForm.Csv)),
        ];
    }

    private async Task<KeptView> FindAsync(int id, CancellationToken stop) =>
        await db.KeptViews.FindAsync([id], stop)
        ?? throw new RefusalException("", "This view is not there any more. Load the page again.");
}
