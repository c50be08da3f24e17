using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Customers;

/// <summary>All customers with what they owe.</summary>
public sealed class IndexModel(CustomersList list) : DeskPage
{
    public string Search { get; private set; } = "";

    public Stretch<CustomerRow> List { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        Search = Listing.Search;
        List = await list.ReadAsync(Listing);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
