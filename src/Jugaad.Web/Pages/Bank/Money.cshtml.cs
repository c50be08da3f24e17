using System.Globalization;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Bank;

/// <summary>What there is on each of our accounts, and moving money from one to another.</summary>
[Needs(Right.See)]
[Posts(Right.Money)]
public sealed class MoneyModel(
    MoneyScreens screens,
    ReceiveScreens money,
    OwnTransfers transfers,
    Conversions conversions,
    MoneySides sides
) : DeskPage
{
    public IReadOnlyList<OwnAccount> Accounts { get; private set; } = [];

    public IEnumerable<(string, string)> Choices { get; private set; } = [];

    public static IEnumerable<(string, string)> ChargeSides =>
        [("", "of what left"), ("to", "of what would have arrived")];

    public bool HasForeign { get; private set; }

    public IReadOnlyList<Core.Accounts.Conversion> Converted { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Accounts = await screens.AccountsAsync();
        HasForeign = Accounts.Any(a => !a.Currency.Equals(Business!.HomeCurrency));
        Converted = await conversions.LatelyAsync();
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
            form.Amount("amount", await sides.CurrencyOfAsync(form.Whole("from")))
        );
        var (from, to) = (form.Whole("from"), form.Whole("to"));
        var (home, left, arrived) = (
            Business!.HomeCurrency,
            await sides.CurrencyOfAsync(from),
            await sides.CurrencyOfAsync(to)
        );
        if (!left.Equals(home) || !arrived.Equals(home))
        {
            var onTo = form.Text("chargeOn").Length > 0;
            var (got, charge) = (form.OptionalAmount("got", arrived), form.Amount("charge", onTo ? arrived : left));
            form.ThrowIfAny();
            await conversions.MakeAsync(
                new ConversionToMake(
                    from,
                    to,
                    amount,
                    // Within one currency what arrives is what left, less the charge.
                    got ?? (left.Equals(arrived) ? amount - charge : 0),
                    date,
                    form.Text("text"),
                    form.Key
                )
                {
                    Charge = charge,
                    ChargeOnTo = onTo,
                }
            );
            return Done("Changed, and booked on both.");
        }

        form.ThrowIfAny();
        await transfers.MakeAsync(
            new TransferToMake(form.Whole("from"), form.Whole("to"), amount, date, form.Text("text"), form.Key)
        );
        return Done("Moved, and booked on both.");
    }
}
