using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reports;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>What should come in, by week, and what makes up each.</summary>
[Needs(Right.See)]
public sealed class ExpectedModel(ExpectedReports reports, ITableFiles files) : DeskPage
{
    private const int MonthsBack = 6;

    public ExpectedThen Then { get; private set; } = null!;

    public int Weeks { get; private set; }

    /// <summary>What is late today and not in dispute: what the line begins with, in home currency.</summary>
    public long Late =>
        Then.Rows.Where(r => r.Part.Expected is not null && r.Item.Due < Then.Day).Sum(r => r.Part.Home);

    protected override async Task<bool> ShowAsync()
    {
        Weeks =
            int.TryParse(Request.Query["weeks"], out var weeks) && weeks is > 0 and <= ExpectedMoney.MostWeeks
                ? weeks
                : ExpectedMoney.UsualWeeks;
        Then = await reports.ExpectedAsync(AskedDay("on") ?? Today, Weeks);
        return true;
    }

    public IReadOnlyList<PastMonth> Past { get; private set; } = [];

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    /// <summary>Each part of what is expected, as a file.</summary>
    public async Task<IActionResult> OnGetFileAsync(TableForm form)
    {
        await ShowAsync();
        var report = ExpectedReports.Items(Then);
        return File(
            files.Write(report.ToTable(), form),
            TableDownload.TypeOf(form),
            $"{report.Name}.{form.ToString().ToLowerInvariant()}"
        );
    }

    /// <summary>What would have been said of past months, beside what came.</summary>
    public async Task<IActionResult> OnGetPastAsync()
    {
        Past = await reports.PastAsync(MonthsBack);
        return Partial("_Past", this);
    }
}
