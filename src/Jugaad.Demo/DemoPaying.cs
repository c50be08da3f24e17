using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Demo;

/// <summary>
/// Customers who pay by card from their own page: one of whom the news comes twice, one who is declined first, and one
/// whose money is still on its way to the bank.
/// </summary>
internal sealed class DemoPaying(DemoHistory history)
{
    internal void Plan()
    {
        At(7, 1, SetUpAsync);
        At(8, 27, () => PayAsync("MERIV", 2, CardNews.Paid));
        At(9, 3, () => PayAsync("PIIRI", 1, CardNews.Declined, CardNews.Paid));
        At(9, 15, () => PayAsync("KAIJO", 1, CardNews.Paid));
    }

    private void At(int month, int day, Func<Task> work) =>
        history.At(new DateOnly(DemoWorld.Today.Year, month, day), work);

    private async Task SetUpAsync()
    {
        var fees = await history.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Code == "4950").Select(a => a.Id).SingleAsync()
        );
        await history.WithAsync<Periods>(p => p.SettleAsync(false, 100, fees));
        await history.WithAsync<PaySetup>(s => s.SetAsync(new PayingToSet("", true, null, "", 0, 0, null)));
    }

    /// <summary>Pays the oldest that is open, as often as it takes.</summary>
    /// <param name="told">How often the last piece of news comes.</param>
    private async Task PayAsync(string customer, int told, params CardNews[] plays)
    {
        var id = history.CustomerId(customer);
        var account = await history.WithAsync<PayerScreens, PayerAccount>(s => s.AccountAsync(id));
        // Cards pay what is owed at home.
        var item = account.Open.Where(i => i.Currency.Code == "EUR").MinBy(i => i.Due);
        if (item is null)
            return;
        var address = await history.WithAsync<CustomerLinks, string>(l => l.AccountAddressAsync(id));
        await history.WithAsync<CustomerLinks>(l => l.SeeAccountAsync(id));
        var page = await history.WithAsync<CardRequests, string>(r =>
            r.AskAsync(id, [item.Id], item.Open, new Uri(address).AbsolutePath)
        );
        var secret = await history.WithAsync<PaySetup, string>(s => s.SecretAsync());
        foreach (var news in plays)
        {
            var message = await history.WithAsync<ICardPage, CardMessage?>(p =>
                Task.FromResult(p.Play(page.Split('/')[^1], news, history.Day, secret))
            );
            for (var i = 0; i < told; i++)
                await history.WithAsync<CardMessages>(m => m.TakeAsync(message!));
        }
    }
}
