using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Post;

/// <summary>The post tray.</summary>
[Needs(Right.See)]
[Posts(Right.Mail)]
public sealed class IndexModel(PostList list, PostScreens screens, PostTray tray, Connections connections) : DeskPage
{
    public Stretch<PostItem> List { get; private set; } = null!;

    /// <summary>What waits to be printed.</summary>
    public IReadOnlyList<int> Pile { get; private set; } = [];

    /// <summary>Why mail stays here; null where it goes.</summary>
    public string? Held { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        Held = await connections.HeldAsync(PostWay.Mail);
        List = await list.ReadAsync(Listing);
        Pile = await screens.PileAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    [Posts(Right.See)]
    public Task<IActionResult> OnPostPickedAsync() =>
        PickedAsync(
            "/post",
            list,
            asked =>
                asked switch
                {
                    "again" => new PickedAct("on the way again", (id, once) => tray.TryAgainAsync(id, once)),
                    "withdraw" => new PickedAct("taken back", (id, once) => tray.WithdrawAsync(id, once)),
                    "printed" => new PickedAct("noted as printed and posted", PrintedAsync),
                    _ => null,
                }
        );

    private async Task PrintedAsync(int id, Once once)
    {
        if (await tray.PrintedAsync([id], once) == 0)
            throw new RefusalException("", "This is not in the pile to print.");
    }

    public async Task<IActionResult> OnPostTryAgainAsync()
    {
        await tray.TryAgainAsync(Form.Whole("id"), Form.Key);
        Say("It is tried again now.");
        return Redirect("/post");
    }

    public async Task<IActionResult> OnPostPrintedAsync()
    {
        var items = Request.Form["item"].Select(i => int.TryParse(i, out var id) ? id : 0).Where(id => id > 0).ToList();
        await tray.PrintedAsync(items, Form.Key);
        Say("Noted as printed and posted.");
        return Redirect("/post");
    }

    public async Task<IActionResult> OnPostWithdrawAsync()
    {
        await tray.WithdrawAsync(Form.Whole("id"), Form.Key);
        Say("Taken back; it was not sent.");
        return Redirect("/post");
    }
}
