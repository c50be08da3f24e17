using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>A reminder with its text shown before it goes.</summary>
[Needs(Right.Mail)]
[Posts(Right.Mail)]
public sealed class RemindModel(
    AccountScreens screens,
    LateScreens late,
    Reminders reminders,
    PostTray tray,
    Connections connections
) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public AccountView View { get; private set; } = null!;

    /// <summary>Null where nothing is late.</summary>
    public MailToSend? Mail { get; private set; }

    /// <summary>Why nobody is reminded although something is late; empty otherwise.</summary>
    public string WhyNot { get; private set; } = "";

    public LastReminded? Reminded { get; private set; }

    public IReadOnlyList<(int Id, string Title)> Papers { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.WholeAsync(Id) is not { } view)
            return false;
        View = view;
        Reminded = (await late.RemindedAsync()).GetValueOrDefault(Id);
        if (view.Aged.Overdue == 0)
            return true;
        try
        {
            Mail = await reminders.ComposeAsync(Id);
        }
        catch (RefusalException refused)
        {
            WhyNot = refused.In(Format);
            return true;
        }

        Papers = view
            .Open.Where(i => i.DocumentId is { } document && Mail.DocumentIds.Contains(document))
            .Select(i => (i.DocumentId!.Value, i.Number))
            .ToList();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        if (await screens.WholeAsync(Id) is not { } view)
            return NotFound();
        if (view.Aged.Overdue == 0)
            throw new RefusalException("", $"Nothing of {view.Customer.Name} is late any more, so nothing was sent.");
        var form = Form;
        var composed = await reminders.ComposeAsync(Id);
        await tray.AddAsync(
            composed with
            {
                To = form.Text("to"),
                Subject = form.Text("subject"),
                Body = form.Text("body"),
            },
            form.Key
        );
        Say($"The reminder to {view.Customer.Name} is {await connections.WhereAsync(PostWay.Mail, Form.Text("to"))}");
        return Redirect("/collect");
    }
}
