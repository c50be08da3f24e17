using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Items;

/// <summary>All items.</summary>
public sealed class IndexModel(ItemScreens screens) : DeskPage
{
    public string Search { get; private set; } = "";

    public ListPage<ItemRow> List { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        Search = Request.Query["q"].ToString();
        List = await screens.ListAsync(Search, Request.Query["sort"].ToString(), int.TryParse(Request.Query["page"], out var page) ? page : 1);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
