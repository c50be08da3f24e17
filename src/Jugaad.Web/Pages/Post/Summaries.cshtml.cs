using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Post;

/// <summary>Sales at the counter to nobody in particular, told together: what waits, and what was told.</summary>
[Needs(Right.See)]
[Posts(Right.Issue)]
public sealed class SummariesModel(SalesSummaries summaries, SummaryScreens screens) : DeskPage
{
    public DateOnly From { get; private set; }

    public DateOnly Until { get; private set; }

    public SummaryPeriod Period { get; private set; }

    public SummaryPlan Plan { get; private set; } = null!;

    public IReadOnlyList<SummaryRow> Rows { get; private set; } = [];

    /// <summary>The choice of this page, for its addresses.</summary>
    public string Choice => $"from={From:yyyy-MM-dd}&until={Until:yyyy-MM-dd}&by={Period}";

    protected override async Task<bool> ShowAsync()
    {
        // By itself the month that is over.
        var thisMonth = new DateOnly(Today.Year, Today.Month, 1);
        From = AskedDay("from") ?? thisMonth.AddMonths(-1);
        Until = AskedDay("until") ?? thisMonth.AddDays(-1);
        Period = Request.Query["by"] == nameof(SummaryPeriod.Day) ? SummaryPeriod.Day : SummaryPeriod.Month;
        Plan = await summaries.PlanAsync(From, Until, Period);
        Rows = await screens.RowsAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await ShowAsync();
        var made = await summaries.GatherAsync(From, Until, Period, Form.Key);
        Say(
            made == 1
                ? "One summary is made. Look it over, then send it."
                : $"{made} summaries are made. Look them over, then send them."
        );
        return Redirect($"/post/summaries?{Choice}");
    }
}
