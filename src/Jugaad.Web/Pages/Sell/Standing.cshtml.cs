using Jugaad.Desk.Books;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Standing;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Sell;

/// <summary>All standing invoices: what comes next, and what each gave.</summary>
[Needs(Right.Draft)]
[Posts(Right.Issue)]
public sealed class StandingModel(StandingList list, StandingDesk desk, DailyRun run, StandingProgress progress)
    : DeskPage
{
    public StandingFilter Filter { get; private set; } = new("", "", "");

    public Stretch<StandingRow> List { get; private set; } = null!;

    public StandingProgress Progress => progress;

    protected override async Task<bool> ShowAsync()
    {
        Filter = StandingList.FilterOf(Listing);
        List = await list.ReadAsync(Listing);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostRunAsync()
    {
        var done = await run.RunAsync();
        return Done(done == 0 ? "Nothing was due." : $"{done} done.");
    }

    [Posts(Right.Draft)]
    public Task<IActionResult> OnPostPickedAsync() =>
        PickedAsync(
            "/sell/standing",
            list,
            asked =>
                asked switch
                {
                    "pause" => new PickedAct("paused", (id, once) => desk.PauseAsync(id, true, once)),
                    "resume" => new PickedAct("going on", (id, once) => desk.PauseAsync(id, false, once)),
                    _ => null,
                }
        );
}
