using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Receive;

/// <summary>Money in or out that belongs to no invoice.</summary>
[Needs(Right.Money)]
[Posts(Right.Money)]
public sealed class OtherModel(ReceiveScreens screens, OtherMoneyDesk desk, MoneySides sides) : DeskPage
{
    public IEnumerable<(string, string)> MoneyChoices { get; private set; } = [];

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    public IEnumerable<(string, string)> TaxChoices { get; private set; } = [];

    public IReadOnlyList<OtherRow> Rows { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        MoneyChoices = (await screens.MoneyAccountsAsync()).Select(a => (a.Id.ToString(), a.Name)).ToList();
        AccountChoices = (await screens.OtherAccountsAsync()).Select(a => (a.Id.ToString(), a.Name)).ToList();
        TaxChoices = [("", "none"), .. (await screens.TaxCodesAsync()).Select(c => (c.Id.ToString(), c.Name))];
        Rows = await screens.OtherAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var (date, amount) = (
            form.Date("date", "Give the day on which the money came or went."),
            form.Amount("amount", await sides.CurrencyOfAsync(form.Whole("moneyAccountId")))
        );
        form.ThrowIfAny();
        await desk.PostAsync(
            new OtherMoneyToPost(
                date,
                form.Whole("moneyAccountId"),
                form.Whole("ledgerAccountId"),
                amount,
                form.Id("taxCodeId"),
                form.Text("text"),
                form.Key
            )
        );
        return Done("Booked.");
    }
}
