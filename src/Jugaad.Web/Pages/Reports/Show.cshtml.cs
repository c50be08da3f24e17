using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reports;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Reports;

/// <summary>A report as a page: its rows with where each leads; the same as its files and its paper.</summary>
[Needs(Right.See)]
[Posts(Right.Masters)]
public sealed class ShowModel(ReportCatalog catalog, KeptViews views, BooksContext db) : DeskPage
{
    private const int RowsOnPage = 200;

    /// <summary>Up to how many rows the sums stand on the page at once.</summary>
    private const int SumsAtOnce = 2_000;

    [BindProperty(SupportsGet = true)]
    public string Name { get; set; } = "";

    public ReportWish Wish { get; private set; } = null!;

    /// <summary>Null where it cannot be made yet, such as without an account.</summary>
    public Report? Report { get; private set; }

    /// <summary>Why it cannot be made; empty where nothing was asked for yet.</summary>
    public string Problem { get; private set; } = "";

    public ListPage<ReportRow> Shown { get; private set; } = new([], 1, RowsOnPage, 0);

    /// <summary>Where its sums are asked for; empty where they are on the page.</summary>
    public string SumsAddress { get; private set; } = "";

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    public IEnumerable<(string, string)> DayChoices { get; } =
        NamedDays.All.Select(d => (d.Name, d.Words)).Prepend(("", "the days typed here"));

    public IEnumerable<(string, string)> AgainstChoices { get; } =
    [("nothing", "nothing"), ("before", "the period before"), ("yearbefore", "the same days a year before")];

    /// <summary>The column whose words lead to what the row is about.</summary>
    public int LinkColumn
    {
        get
        {
            var columns = Report!.Columns.ToList();
            var named = columns.FindIndex(c =>
                c.Key is "number" or "text" or "customer" or "item" or "account" or "name"
            );
            return named >= 0 ? named : 0;
        }
    }

    public string About =>
        Report is null
            ? ""
            : (
                Wish.Kind.Days == ReportDays.Range ? $"{Day(Wish.Ask.From)} to {Day(Wish.Ask.Until)}"
                : Wish.Kind.Days == ReportDays.Day ? $"at the end of {Day(Wish.Ask.Until)}"
                : "as things stand"
            ) + (Report.About.EndsWith(InHome, StringComparison.Ordinal) ? InHome : "");

    private string InHome => $", in {Business!.HomeCurrency}";

    /// <summary>A column's name; where it is of other days, these as the business writes them.</summary>
    public string HeadOf(ReportColumn column) => ReportWords.Dated(column.Head, Format);

    public string Text(object? cell) => ReportPapers.Text(cell, Format);

    /// <summary>Whether each row has a bar of its own.</summary>
    public bool HasBars => Report is { Drawn: not null, Over: DrawnOver.Rows };

    /// <summary>How long the bar of a row is, in percent of the longest; null where the report draws none.</summary>
    public int? BarOf(ReportRow row)
    {
        if (Report?.Drawn is not { } drawn || row.IsSum)
            return null;
        var at = Report.Columns.ToList().FindIndex(c => c.Key == drawn);
        var most = Report.Rows.Where(r => !r.IsSum).Max(r => Math.Abs(((Money)r.Cells[at]!).Minor));
        return most == 0 ? 0 : (int)(100 * Math.Abs(((Money)row.Cells[at]!).Minor) / most);
    }

    /// <summary>Whether what the bar stands for is below zero.</summary>
    public bool IsBelow(ReportRow row) =>
        ((Money)row.Cells[Report!.Columns.ToList().FindIndex(c => c.Key == Report.Drawn)]!).Minor < 0;

    protected override async Task<bool> ShowAsync()
    {
        if (ReportCatalog.Find(Name) is not { Page: null } kind)
            return false;
        Wish = ReportWish.Read(kind, Request.Query, AskedDay, Today, Business!.YearBegins);
        if (kind.Needs == "account")
            AccountChoices = (await db.LedgerAccounts.AsNoTracking().OrderBy(a => a.Code).ToListAsync())
                .Select(a => (a.Id.ToString(CultureInfo.InvariantCulture), $"{a.Code} {a.Name}"))
                .Prepend(("0", "choose an account"));
        if (kind.Needs.Length > 0 && Wish.Ask.Of(kind.Needs) is "" or "0")
            return true;
        var page = Math.Max(1, int.TryParse(Request.Query["page"], out var asked) ? asked : 1);
        try
        {
            if (kind.IsInParts)
                await ReadPartAsync(kind, page);
            else
                await ReadWholeAsync(kind, page);
        }
        catch (RefusalException refused)
        {
            Problem = refused.In(Format);
        }

        return true;
    }

    private async Task ReadWholeAsync(ReportKind kind, int page)
    {
        Report = await catalog.MakeAsync(kind, Wish.Ask, Wish.Against);
        var number = Math.Clamp(page, 1, LastOf(Report.Rows.Count));
        Shown = new ListPage<ReportRow>(
            [.. Report.Rows.Skip((number - 1) * RowsOnPage).Take(RowsOnPage)],
            number,
            RowsOnPage,
            Report.Rows.Count
        );
    }

    /// <summary>Only the rows of the page; of a long report the sums are asked for once these are there.</summary>
    private async Task ReadPartAsync(ReportKind kind, int page)
    {
        Task<Report> WindowAsync(int number) =>
            catalog.MakeAsync(
                kind,
                Wish.Ask with
                {
                    Window = new ReportWindow((number - 1) * RowsOnPage, RowsOnPage, SumsAtOnce),
                }
            );
        var part = await WindowAsync(page);
        var (of, number) = (part.Of!.Value, Math.Min(page, LastOf(part.Of.Value)));
        if (number != page)
            part = await WindowAsync(number);
        if (of > SumsAtOnce)
            SumsAddress = $"/reports/{Name}/sums?{Wish.Query(false)}";
        Report = part;
        Shown = new ListPage<ReportRow>(part.Rows, number, RowsOnPage, of);
    }

    private static int LastOf(int rows) => Math.Max(1, (rows + RowsOnPage - 1) / RowsOnPage);

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    /// <summary>Keeps the report as it is asked for under a name of one's own.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (ReportCatalog.Find(Name) is not { Page: null } kind)
            return NotFound();
        var wish = ReportWish.Read(kind, Request.Query, AskedDay, Today, Business!.YearBegins);
        await views.KeepAsync(Form.Text("viewName"), Name, wish.Query(movesOn: true), Form.Key);
        Say("Kept. It stands here from now on.");
        return Redirect("/reports");
    }
}
