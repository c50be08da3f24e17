using Jugaad.Desk.Books;
using Jugaad.Desk.Reports;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Reports;

/// <summary>What to look at before a month or a year is closed, ticked off point by point.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class ClosingModel(ClosingDesk closing) : DeskPage
{
    public ClosingList List { get; private set; } = null!;

    public string Address => $"/reports/closing?on={List.UpTo:yyyy-MM-dd}";

    protected override async Task<bool> ShowAsync()
    {
        List = await closing.ListAsync(await UpToAsync());
        return true;
    }

    private async Task<DateOnly> UpToAsync()
    {
        if (AskedDay("on") is not { } day)
            return await closing.NextAsync();
        // Books are closed by whole months.
        return new DateOnly(day.Year, day.Month, 1).AddMonths(1).AddDays(-1);
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostTickAsync()
    {
        var upTo = await UpToAsync();
        await closing.TickAsync(upTo, Form.Text("point"), Form.Text("done") == "yes", Form.Key);
        return Redirect($"/reports/closing?on={upTo:yyyy-MM-dd}");
    }

    public async Task<IActionResult> OnPostAsync()
    {
        var upTo = await UpToAsync();
        await closing.CloseAsync(upTo, Form.Key);
        return Done($"The books are closed up to {Day(upTo)}.");
    }
}
