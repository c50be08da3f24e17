using System.Globalization;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Bank;

/// <summary>What there is on each of our accounts, and moving money from one to another.</summary>
[Needs(Right.See)]
[Posts(Right.Money)]
public sealed class MoneyModel(MoneyScreens screens, ReceiveScreens money, OwnTransfers transfers) : DeskPage
{
    public IReadOnlyList<OwnAccount> Accounts { get; private set; } = [];

    public IEnumerable<(string, string)> Choices { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Accounts = await screens.AccountsAsync();
        Choices =
        [
            ("", "choose"),
            .. (await money.MoneyAccountsAsync()).Select(a => (a.Id.ToString(CultureInfo.InvariantCulture), a.Name)),
        ];
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var (date, amount) = (
            form.Date("date", "Give the day on which it was moved."),
            form.Amount("amount", Business!.HomeCurrency)
        );
        form.ThrowIfAny();
        await transfers.MakeAsync(
            new TransferToMake(form.Whole("from"), form.Whole("to"), amount, date, form.Text("text"), form.Key)
        );
        return Done("Moved, and booked on both.");
    }
}
