using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
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

    [BindProperty(SupportsGet = true)]
    public string Name { get; set; } = "";

    public ReportWish Wish { get; private set; } = null!;

    /// <summary>Null where it cannot be made yet, such as without an account.</summary>
    public Report? Report { get; private set; }

    /// <summary>Why it cannot be made; empty where nothing was asked for yet.</summary>
    public string Problem { get; private set; } = "";

    public ListPage<ReportRow> Shown { get; private set; } = new([], 1, RowsOnPage, 0);

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

    public string Text(object? cell) =>
        cell switch
        {
            DateOnly day => Day(day),
            Money money => Format.Amount(money),
            decimal number => Format.Typed(number),
            _ => Desk.Lists.Report.Text(cell),
        };

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
        try
        {
            Report = await catalog.MakeAsync(kind, Wish.Ask, Wish.Against);
        }
        catch (RefusalException refused)
        {
            Problem = refused.In(Format);
        }

        if (Report is null)
            return true;
        var last = Math.Max(1, (Report.Rows.Count + RowsOnPage - 1) / RowsOnPage);
        var page = Math.Clamp(int.TryParse(Request.Query["page"], out var asked) ? asked : 1, 1, last);
        Shown = new ListPage<ReportRow>(
            [.. Report.Rows.Skip((page - 1) * RowsOnPage).Take(RowsOnPage)],
            page,
            RowsOnPage,
            Report.Rows.Count
        );
        return true;
    }

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
