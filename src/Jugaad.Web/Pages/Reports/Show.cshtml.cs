using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reports;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Reports;

/// <summary>A report as a page: its rows with where each leads; the same as its files.</summary>
[Needs(Right.See)]
public sealed class ShowModel(AgedReports aged, JournalReports journal, BooksContext db) : DeskPage
{
    private const int RowsOnPage = 200;

    [BindProperty(SupportsGet = true)]
    public string Name { get; set; } = "";

    internal ReportWish Wish { get; private set; } = null!;

    /// <summary>Null where it cannot be made yet, such as without an account.</summary>
    public Report? Report { get; private set; }

    /// <summary>Why it cannot be made; empty where nothing was asked for yet.</summary>
    public string Problem { get; private set; } = "";

    public ListPage<ReportRow> Shown { get; private set; } = new([], 1, RowsOnPage, 0);

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    /// <summary>The column whose words lead to what the row is about.</summary>
    public int LinkColumn => Report!.Columns.ToList().FindIndex(c => c.Key is "number" or "text");

    public string About =>
        Report is null ? ""
        : Wish.IsRange ? $"{Day(Wish.From)} to {Day(Wish.Until)}"
        : $"at the end of {Day(Wish.On)}";

    public string Text(object? cell) =>
        cell switch
        {
            DateOnly day => Day(day),
            Money money => Format.Amount(money),
            _ => Desk.Lists.Report.Text(cell),
        };

    protected override async Task<bool> ShowAsync()
    {
        Wish = ReportWish.Read(Name, Request.Query, AskedDay, Today);
        if (Name == "account")
            AccountChoices = (await db.LedgerAccounts.AsNoTracking().OrderBy(a => a.Code).ToListAsync())
                .Select(a => (a.Id.ToString(CultureInfo.InvariantCulture), $"{a.Code} {a.Name}"))
                .Prepend(("0", "choose an account"));
        if ((Name == "account" && Wish.Account == 0) || (Name == "statement" && Wish.Customer.Length == 0))
            return true;
        try
        {
            Report = await Wish.MakeAsync(aged, journal);
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
}
