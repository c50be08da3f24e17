using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Counter;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Papers;

/// <summary>Invoices a sale at the counter to the customer who wants it by name.</summary>
[Needs(Right.Issue)]
[Posts(Right.Issue)]
public sealed class ByNameModel(SalesByName sales, SellScreens screens, AccountScreens accounts) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public Document Sale { get; private set; } = null!;

    /// <summary>Why it cannot be done; empty where it can.</summary>
    public string Refused { get; private set; } = "";

    public string Search { get; private set; } = "";

    public IReadOnlyList<CustomerRow> Candidates { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.MarginAsync(Id) is not { } margin)
            return false;
        Sale = margin.Document;
        Search = Request.Query["q"].ToString().Trim();
        try
        {
            await sales.FindAsync(Id);
        }
        catch (Core.RefusalException refused)
        {
            Refused = refused.In(Format);
            return true;
        }

        if (Search.Length > 0)
            Candidates =
            [
                .. (await accounts.CustomersAsync(Search, "", ListPlace.Start)).Rows.Where(r =>
                    r.Id != Sale.CustomerId
                ),
            ];
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var made = await sales.NameAsync(Id, Form.Whole("customer"), Form.Key);
        Say("The sale is credited and invoiced by name; its money went along.");
        return Redirect($"/papers/{made}");
    }
}
