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
[Needs(Right.See)]
public sealed class RatesModel(BooksContext db, BusinessDesk business, TaxDesk taxes) : DeskPage
{
    public IReadOnlyList<TaxCode> Codes { get; private set; } = [];

    public IReadOnlyList<(string Name, DateOnly From, decimal Percent)> TaxRates { get; private set; } = [];

    public IReadOnlyList<ExchangeRate> ExchangeRates { get; private set; } = [];

    public IReadOnlyList<TaxRule> Rules { get; private set; } = [];

    public IEnumerable<(string, string)> SupplyChoices => Enum.GetValues<Supply>().Select(s => (s.ToString(), TaxDecision.Words(s)));

    public IEnumerable<(string, string)> BuyerChoices => Enum.GetValues<Buyer>().Select(b => (b.ToString(), TaxDecision.Words(b)));

    public IEnumerable<(string, string)> PlaceChoices => Enum.GetValues<Place>().Select(p => (p.ToString(), TaxDecision.Words(p)));

    public IEnumerable<(string, string)> CodeChoices => Codes.Select(c => (c.Id.ToString(), $"{c.Code} {c.Name}")).Prepend(("", "the item's own"));

    public IEnumerable<(string, string)> TaxChoices { get; private set; } = [];

    public IEnumerable<(string, string)> CurrencyChoices => Choices.Currencies;

    protected override async Task<bool> ShowAsync()
    {
        Codes = await db.TaxCodes.AsNoTracking().OrderBy(c => c.Id).ToListAsync();
        Rules = await db.TaxRules.AsNoTracking().OrderBy(r => r.Position).ThenBy(r => r.Id).ToListAsync();
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

    public async Task<IActionResult> OnPostRuleAsync()
    {
        await ReadHeadAsync();
        var form = Form;
        await taxes.AddRuleAsync(form.Choice<Supply>("supply"), form.Choice<Buyer>("buyer"), form.Choice<Place>("place"), form.Id("taxCodeId"), form.Key);
        Say("The rule is added. New lines follow it.");
        return Redirect("/setup/rates");
    }

    public async Task<IActionResult> OnPostRuleUpAsync()
    {
        await taxes.MoveRuleUpAsync(Form.Whole("id"), Form.Key);
        return Redirect("/setup/rates");
    }

    public async Task<IActionResult> OnPostRuleAwayAsync()
    {
        await taxes.RemoveRuleAsync(Form.Whole("id"), Form.Key);
        Say("The rule is taken away.");
        return Redirect("/setup/rates");
    }
}
