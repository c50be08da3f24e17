using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Paying;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Jugaad.Web.Pages.Payer;

/// <summary>
/// The page of the stand-in for a card service, on which one plays the payer: pays, is declined, turns back; and says
/// whether the news of it comes at once, twice, or only tomorrow.
/// </summary>
[AllowAnonymous]
[EnableRateLimiting("customer")]
[Posts(Right.Customer)]
public sealed class CardStandInModel(ICardPage page, ICardService service, CardMessages messages, PaySetup setup)
    : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public string Id { get; set; } = "";

    public PlayedPayment Payment { get; private set; } = null!;

    public Currency Currency => Currency.Of(Payment.Currency);

    public static IEnumerable<(string, string)> NewsChoices =>
        [("once", "at once"), ("twice", "twice"), ("late", "with tomorrow's")];

    protected override Task<bool> ShowAsync()
    {
        if (!service.IsStandIn || page.Find(Id) is not { } found)
            return Task.FromResult(false);
        Payment = found;
        return Task.FromResult(true);
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public Task<IActionResult> OnPostPayAsync() => PlayAsync(CardNews.Paid);

    public Task<IActionResult> OnPostDeclineAsync() => PlayAsync(CardNews.Declined);

    public Task<IActionResult> OnPostTurnBackAsync() => PlayAsync(CardNews.Left);

    private async Task<IActionResult> PlayAsync(CardNews news)
    {
        if (!await ShowAsync())
            return NotFound();
        var comes = Form.Text("comes");
        if (page.Play(Id, news, Today, await setup.SecretAsync()) is { } message && comes != "late")
            for (var i = 0; i < (comes == "twice" ? 2 : 1); i++)
                await messages.TakeAsync(message);
        return Redirect(new Uri(Payment.ReturnTo).PathAndQuery);
    }
}
