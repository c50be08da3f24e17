using Jugaad.Desk.Books;
using Jugaad.Desk.Reports;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Reports;

/// <summary>Valuations of other currencies that are posted at a period's end, and posting one.</summary>
[Needs(Right.See)]
[Posts(Right.Money)]
public sealed class ValuationsModel(ValuationDesk desk) : DeskPage
{
    public IReadOnlyList<PostedValuation> Posted { get; private set; } = [];

    public DateOnly MonthEnd => new DateOnly(Today.Year, Today.Month, 1).AddDays(-1);

    protected override async Task<bool> ShowAsync()
    {
        Posted = await desk.PostedAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var day = form.Date("on", "Give the last day of the period.");
        form.ThrowIfAny();
        await desk.PostAsync(day, form.Key);
        return Done("The valuation is posted, and taken back on the next day.");
    }
}
