using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Receive;

/// <summary>What customers paid by card: what to see to, what is on its way to the bank, and each payment.</summary>
[Needs(Right.See)]
[Posts(Right.Money)]
public sealed class OnlineModel(PayerScreens screens, CardMessages messages, CardPayouts payouts) : DeskPage
{
    private const int MostShown = 100;

    public IReadOnlyList<CardCall> Problems { get; private set; } = [];

    public IReadOnlyList<CardPayout> OnTheWay { get; private set; } = [];

    public IReadOnlyList<(PayRequest Request, string Customer)> Requests { get; private set; } = [];

    public static string Word(PayState state) =>
        state switch
        {
            PayState.Paid => "paid",
            PayState.Declined => "declined",
            PayState.Left => "turned back",
            _ => "no answer yet",
        };

    protected override async Task<bool> ShowAsync()
    {
        Problems = await messages.ProblemsAsync();
        OnTheWay = await payouts.OnTheWayAsync();
        Requests = await screens.RequestsAsync(MostShown);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostSeenToAsync()
    {
        await messages.SeeToAsync(Form.Whole("id"), Form.Key);
        Say("Noted that it was seen to.");
        return Redirect("/receive/online");
    }

    /// <summary>Asks the card service for what it told and nobody took.</summary>
    public async Task<IActionResult> OnPostAskAsync()
    {
        var news = await messages.CatchUpAsync();
        Say(
            news == 0 ? "The card service has no news."
            : news == 1 ? "One piece of news was taken."
            : $"{news} pieces of news were taken."
        );
        return Redirect("/receive/online");
    }
}
