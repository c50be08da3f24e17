using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Post;

/// <summary>One mail, as its reader sees it where the stand-in kept it.</summary>
[Needs(Right.See)]
[Posts(Right.Mail)]
public sealed class ViewModel(PostScreens screens, PostTray tray, SentPapers sent, IKeptMails mails) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public PostItem Item { get; private set; } = null!;

    public KeptMail? Kept { get; private set; }

    /// <summary>What went along, as it went.</summary>
    public IReadOnlyList<SentPaper> Sent { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.FindAsync(Id) is not { } item)
            return false;
        (Item, Kept, Sent) = (item, mails.Find(item.Key), await sent.OfAsync(Id));
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostSettleAsync()
    {
        await tray.SettleAsync(Id, Form.Key);
        return Done("Noted: it arrived.");
    }
}
