using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>One letter of a step before it goes: looked at, changed, sent, or held.</summary>
[Needs(Right.Mail)]
[Posts(Right.Mail)]
public sealed class LetterModel(LadderRun run, Ladders ladders, Connections connections) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public LadderCase Case { get; private set; } = null!;

    /// <summary>Null for a call, and where nothing goes.</summary>
    public MailToSend? Mail { get; private set; }

    /// <summary>Whether money of theirs that waits shall keep nothing back.</summary>
    public bool AllTheSame => Request.Query["all"] == "1";

    public IReadOnlyList<(int Id, string Title)> Papers =>
        [
            .. Case
                .Asked.Where(a => a.DocumentId is { } d && Mail!.DocumentIds.Contains(d))
                .Select(a => (a.DocumentId!.Value, a.Number)),
        ];

    protected override async Task<bool> ShowAsync()
    {
        if (await run.LookAtAsync(Id, AllTheSame) is not { } one)
            return false;
        Case = one;
        Mail = one.Step is { Way: not StepWay.Call } ? await run.ComposeAsync(one) : null;
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        if (await run.LookAtAsync(Id, AllTheSame) is not { } one)
            return NotFound();
        var form = Form;
        var changed = one.Step is { Way: not StepWay.Call }
            ? new MailToSend(form.Text("to"), form.Text("subject"), form.Text("body"))
            : null;
        await run.TakeAsync(Id, AllTheSame, changed, form.Key);
        Say(
            changed is null
                ? $"{one.Name} is on the list of whom to ask"
                : $"The letter to {one.Name} is {await connections.WhereAsync(changed.To.Length > 0 ? PostWay.Mail : PostWay.Print, changed.To)}"
        );
        return Redirect("/collect/letters");
    }

    [Posts(Right.Collect)]
    public async Task<IActionResult> OnPostHoldAsync()
    {
        var form = Form;
        var until = form.OptionalDate("leftUntil");
        form.ThrowIfAny();
        await ladders.LeaveOutAsync(Id, null, until, form.Text("leftReason"), form.Key);
        Say("The letter is held, and they are left out");
        return Redirect("/collect/letters");
    }
}
