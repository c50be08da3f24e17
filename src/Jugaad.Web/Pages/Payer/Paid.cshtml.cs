using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Paying;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Payer;

/// <summary>What came of a card payment, on the payer's way back.</summary>
[AllowAnonymous]
[EnableRateLimiting("customer")]
[Posts(Right.Customer)]
public sealed class PaidModel(CardRequests requests, Wordings wordings, BooksContext db) : DeskPage, ISpeaksToCustomer
{
    public SiteWords? Says { get; private set; }

    [BindProperty(SupportsGet = true)]
    public string Key { get; set; } = "";

    public PayRequest Payment { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        if (await requests.FindAsync(Key) is not { } found)
            return false;
        Payment = found;
        var language = await db.Customers.Where(c => c.Id == found.CustomerId).Select(c => c.Language).SingleAsync();
        Says = new SiteWords(await wordings.InAsync(language), Business!);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
