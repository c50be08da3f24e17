using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Receive;

/// <summary>All receipts.</summary>
[Needs(Right.See)]
[Posts(Right.See)]
public sealed class IndexModel(ReceiptsList list, Sending sending) : DeskPage
{
    public string Search { get; private set; } = "";

    public bool Unplaced { get; private set; }

    public Stretch<ReceiptRow> List { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        (Unplaced, Search, _) = ReceiptsList.FilterOf(Listing);
        List = await list.ReadAsync(Listing);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public Task<IActionResult> OnPostPickedAsync() =>
        PickedAsync(
            "/receive",
            list,
            asked =>
                asked == "confirm"
                    ? new PickedAct(
                        "confirmed; the mails are in the post",
                        (id, once) => sending.ConfirmAsync(id, once)
                    )
                    : null
        );
}
