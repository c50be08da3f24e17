using Jugaad.Core.Paying;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Keeping;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages;

/// <summary>The day sheet.</summary>
public sealed class IndexModel(
    DayScreens screens,
    SaidScreens said,
    StillToSetUp setUp,
    BackupScreens backups,
    Importing importing,
    ImportJobs jobs,
    CardMessages cards,
    ReturnFiling filing,
    TimeProvider clock
) : DeskPage
{
    public DayView View { get; private set; } = null!;

    /// <summary>Returns whose period has ended and that are not filed.</summary>
    public IReadOnlyList<ReturnDue> ReturnsDue { get; private set; } = [];

    /// <summary>What new books still lack; the demo lacks nothing.</summary>
    public IReadOnlyList<SetUpStep> SetUp { get; private set; } = [];

    /// <summary>UTC, by the machine.</summary>
    public DateTime Now => clock.GetUtcNow().UtcDateTime;

    /// <summary>
    /// How the backups of these books stand; null for whoever does not look after them, and in the demo.
    /// </summary>
    public BackupStanding? Backups { get; private set; }

    /// <summary>Imports of which only a part is in the books, and nothing is being done about it.</summary>
    public IReadOnlyList<ImportRun> HalfWay { get; private set; } = [];

    /// <summary>Promises that were not kept, and those that were kept since yesterday.</summary>
    public IReadOnlyList<PromiseRow> Promises { get; private set; } = [];

    /// <summary>What the card service told of money, and nobody has seen to.</summary>
    public IReadOnlyList<CardCall> CardProblems { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        if (May(Jugaad.Desk.Books.Right.Masters))
            HalfWay = [.. (await importing.HalfWayAsync()).Where(r => jobs.Of(r.Id) is not { Finished: false })];
        if (May(Jugaad.Desk.Books.Right.Setup) && Business?.PinnedDay is null)
            Backups = await backups.StandingAsync();
        if (May(Jugaad.Desk.Books.Right.Setup) && Business?.PinnedDay is null)
            SetUp = await setUp.ListAsync();
        View = await screens.DayAsync();
        if (SeesMoney)
        {
            Promises = await said.NewsAsync();
            CardProblems = await cards.ProblemsAsync();
            ReturnsDue = [.. (await filing.DueAsync()).Where(d => d.HasEnded)];
        }

        return true;
    }

    /// <summary>What the check of the books found, where it found anything.</summary>
    public IReadOnlyList<string> Differences =>
        HttpContext.RequestServices.GetRequiredService<LastCheck>().Report?.Differences ?? [];

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
