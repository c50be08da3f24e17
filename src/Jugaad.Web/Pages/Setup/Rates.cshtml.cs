using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Tax codes with their dated rates, and exchange rates.</summary>
public sealed class RatesModel(BooksContext db, BusinessDesk business, TaxDesk taxes) : DeskPage
{
    public IReadOnlyList<TaxCode> Codes { get; private set; } = [];

    public IReadOnlyList<(string Name, DateOnly From, decimal Percent)> TaxRates { get; private set; } = [];

    public IReadOnlyList<ExchangeRate> ExchangeRates { get; private set; } = [];

    public IEnumerable<(string, string)> TaxChoices { get; private set; } = [];

    public IEnumerable<(string, string)> CurrencyChoices => Choices.Currencies;

    protected override async Task<bool> ShowAsync()
    {
        Codes = await db.TaxCodes.AsNoTracking().OrderBy(c => c.Id).ToListAsync();
        var components = await db.TaxComponents.AsNoTracking().OrderBy(c => c.Id).ToListAsync();
        TaxRates = components.SelectMany(c => c.Rates.OrderByDescending(r => r.From).Select(r => (c.Name, r.From, r.Percent))).ToList();
        TaxChoices = components.ConvertAll(c => (c.Name, c.Name));
        ExchangeRates = await db.ExchangeRates.AsNoTracking().OrderByDescending(r => r.From).ThenBy(r => r.Currency).Take(12).ToListAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostExchangeAsync()
    {
        await ReadHeadAsync();
        var form = Form;
        var from = form.Date("from", "Give the day from which the rate holds.");
        var rate = form.Figure("rate", 10);
        form.ThrowIfAny();
        await business.EnterRateAsync(form.Text("currency"), from, rate, form.Key);
        Say("The exchange rate is entered.");
        return Redirect("/setup/rates");
    }

    public async Task<IActionResult> OnPostTaxAsync()
    {
        await ReadHeadAsync();
        var form = Form;
        var from = form.Date("taxFrom", "Give the day on which the rate begins.");
        var percent = form.Figure("taxPercent", Limits.PercentDecimals);
        form.ThrowIfAny();
        await taxes.AddRateAsync(form.Text("component"), from, percent);
        Say("The tax rate is entered.");
        return Redirect("/setup/rates");
    }
}
