using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>Before the letters go: who would get what and why, who would not and why not.</summary>
[Needs(Right.See)]
[Posts(Right.Mail)]
public sealed class LettersModel(
    LadderRun run,
    LetterScreens screens,
    Ladders ladders,
    CollectingRules rules,
    LadderProgress progress
) : DeskPage
{
    private const int MostOfLately = 60;

    public IReadOnlyList<LadderCase> Cases { get; private set; } = [];

    public IReadOnlyList<LetterRow> Lately { get; private set; } = [];

    public IReadOnlyList<LeftOutRow> LeftOut { get; private set; } = [];

    public CollectingSettings Settings { get; private set; } = null!;

    public LadderProgress Progress => progress;

    protected override async Task<bool> ShowAsync()
    {
        Settings = await rules.ReadAsync();
        Cases = await run.LookAsync();
        Lately = await screens.LatelyAsync(MostOfLately);
        LeftOut = await screens.LeftOutAsync();
        return true;
    }

    /// <summary>By which way a step reaches the customer.</summary>
    public static string Words(StepWay way) =>
        way switch
        {
            StepWay.Mail => "a mail",
            StepWay.Print => "a printed letter",
            StepWay.Message => "a message",
            _ => "a call",
        };

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        List<int> only =
        [
            .. Request.Form["only"].Select(i => int.TryParse(i, CultureInfo.InvariantCulture, out var id) ? id : 0),
        ];
        if (only.Count == 0)
            throw new RefusalException("", "Nobody is picked. Pick those who are to be written to.");
        var report = await run.RunAsync(only);
        Say(
            $"{report.Taken} {(report.Taken == 1 ? "step is" : "steps are")} taken"
                + (report.Left.Count > 0 ? $"; {report.Left.Count} left: {report.Left[0].Why}" : "")
        );
        return Redirect("/collect/letters");
    }

    [Posts(Right.Collect)]
    public async Task<IActionResult> OnPostTakeInAsync()
    {
        await ladders.TakeInAgainAsync(Form.Whole("left"), Form.Key);
        return Done("They are written to again");
    }
}
