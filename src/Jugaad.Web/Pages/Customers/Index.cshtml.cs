using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Customers;

/// <summary>All customers with what they owe.</summary>
public sealed class IndexModel(AccountScreens screens) : DeskPage
{
    public string Search { get; private set; } = "";

    public ListPage<CustomerRow> List { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        Search = Request.Query["q"].ToString();
        List = await screens.CustomersAsync(
            Search,
            Request.Query["sort"].ToString(),
            int.TryParse(Request.Query["page"], out var page) ? page : 1
        );
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
