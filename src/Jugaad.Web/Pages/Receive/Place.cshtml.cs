using Jugaad.Core.Accounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Receive;

/// <summary>What shall become of money or credit that is not placed: set against, kept, or paid back.</summary>
[Needs(Right.Money)]
[Posts(Right.Money)]
public sealed class PlaceModel(
    ReceiveScreens screens,
    Receipts receipts,
    Refunds refunds,
    Settlements settlements,
    MoneySides sides
) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    /// <summary>Whether it may be paid back in another currency than it is in.</summary>
    public bool AsksWhatLeft { get; private set; }

    public CreditView View { get; private set; } = null!;

    public IEnumerable<(string, string)> MoneyChoices { get; private set; } = [];

    /// <summary>The account in the credit's own currency, where there is one; else the first stands.</summary>
    public string? PaysFrom { get; private set; }

    /// <summary>Whether paying back is what was asked for.</summary>
    public bool RefundOpen =>
        Request.Query["handler"] == "Refund" || Request.Query["do"] == "refund" || View.CouldPay.Count == 0;

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.CreditAsync(Id) is not { } view)
            return false;
        View = view;
        var places = await screens.MoneyAccountsAsync();
        MoneyChoices = places.Select(a => (a.Id.ToString(), a.Name)).ToList();
        PaysFrom = places.FirstOrDefault(a => View.Item.Currency.Equals(a.Currency))?.Id.ToString();
        AsksWhatLeft = !View.Item.Currency.Equals(Business!.HomeCurrency) || await screens.HasForeignAccountsAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public Task<IActionResult> OnPostSetAgainstAsync() =>
        DoAsync(
            async (form, view) =>
            {
                var amount = form.Amount("amount", view.Item.Currency);
                form.ThrowIfAny();
                await receipts.SetAgainstAsync(Id, form.Whole("item"), amount, form.Key);
                return "Set against.";
            }
        );

    public Task<IActionResult> OnPostOldestAsync() =>
        DoAsync(
            async (form, _) =>
            {
                await receipts.PlaceOldestFirstAsync(Id, form.Key);
                return "Set against what is oldest.";
            }
        );

    public Task<IActionResult> OnPostRestAsync() =>
        DoAsync(
            async (form, _) =>
            {
                await settlements.GiveUpRestAsync(Id, form.Key);
                return "The small rest is kept.";
            }
        );

    public Task<IActionResult> OnPostRefundAsync() =>
        DoAsync(
            async (form, view) =>
            {
                var (amount, date) = (
                    form.Amount("refund", view.Item.Currency),
                    form.Date("date", "Give the day on which it is paid back.")
                );
                var account = await sides.CurrencyOfAsync(form.Whole("moneyAccountId"));
                var (left, charge) = (form.OptionalAmount("left", account), form.Amount("charge", account));
                form.ThrowIfAny();
                var payee =
                    form.Text("iban").Trim().Length == 0
                        ? null
                        : new Payee(form.Text("payee"), form.Text("iban"), form.Text("bic"));
                await refunds.PayAsync(
                    new RefundToPay(
                        Id,
                        amount,
                        form.Whole("moneyAccountId"),
                        date,
                        payee,
                        form.Text("reference"),
                        form.Key
                    )
                    {
                        Left = left,
                        Charge = charge,
                    }
                );
                return payee is null ? "Paid back in cash." : "Booked. It goes to the bank with the next payment file.";
            }
        );

    private async Task<IActionResult> DoAsync(Func<TypedForm, CreditView, Task<string>> work)
    {
        if (await screens.CreditAsync(Id) is not { } view)
            return NotFound();
        Say(await work(Form, view));
        // Whatever is left is asked about again; once nothing is, one is back where it came from.
        return Redirect(
            (await screens.CreditAsync(Id))?.Item.Open > 0
                ? $"/receive/place/{Id}"
                : ItemAddress(view.Item.DocumentId, view.Item.ReceiptId, view.Item.CustomerId)
        );
    }
}
