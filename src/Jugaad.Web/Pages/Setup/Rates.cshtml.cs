using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Exchange rates by day.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class RatesModel(DayScreens screens, BusinessDesk business) : DeskPage
{
    public ListPage<ExchangeRate> ExchangeRates { get; private set; } = null!;

    public IEnumerable<(string, string)> CurrencyChoices => Choices.Currencies;

    protected override async Task<bool> ShowAsync()
    {
        ExchangeRates = await screens.RatesAsync(int.TryParse(Request.Query["page"], out var page) ? page : 1);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostExchangeAsync()
    {
        var form = Form;
        var from = form.Date("from", "Give the day from which the rate holds.");
        var rate = form.Figure("rate", 10);
        form.ThrowIfAny();
        await business.EnterRateAsync(form.Text("currency"), from, rate, form.Key);
        Say("The exchange rate is entered.");
        return Redirect("/setup/rates");
    }
}
