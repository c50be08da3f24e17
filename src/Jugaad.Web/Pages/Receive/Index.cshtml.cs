using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Receive;

/// <summary>All receipts.</summary>
[Needs(Right.See)]
public sealed class IndexModel(ReceiveScreens screens) : DeskPage
{
    public string Search { get; private set; } = "";

    public bool Unplaced { get; private set; }

    public ListPage<ReceiptRow> List { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        Search = Request.Query["q"].ToString();
        Unplaced = Request.Query["show"] == "unplaced";
        List = await screens.ListAsync(Unplaced, Search, int.TryParse(Request.Query["page"], out var page) ? page : 1);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
