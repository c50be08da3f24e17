using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Receive;

/// <summary>One receipt, what it was set against, and what goes wrong with it.</summary>
[Needs(Right.See)]
[Posts(Right.Money)]
public sealed class ViewModel(
    ReceiveScreens screens,
    CustomerFinder customers,
    Receipts receipts,
    Transfers transfers,
    Returns returns,
    PayerScreens payers,
    CardPayingBack payingBack
) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public ReceiptView View { get; private set; } = null!;

    /// <summary>The card payment that it is; null where it is none.</summary>
    public PayRequest? Payment { get; private set; }

    /// <summary>The part that was refused and stays open.</summary>
    public string Opened => Request.Method == "POST" ? Request.Query["handler"].ToString() : "";

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.ReceiptAsync(Id) is not { } view)
            return false;
        View = view;
        Payment = await payers.PaymentOfAsync(Id);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostTakeAwayAsync()
    {
        await receipts.TakeAwayAsync(Form.Whole("allocation"), Form.Key);
        Say("Taken away. The invoice is open again, and the money stays as credit.");
        return Redirect($"/receive/{Id}");
    }

    public async Task<IActionResult> OnPostPayBackAsync()
    {
        if (await screens.ReceiptAsync(Id) is not { } view)
            return NotFound();
        var form = Form;
        var amount = form.OptionalAmount("amount", view.Receipt.Currency);
        form.ThrowIfAny();
        await payingBack.PayAsync(Id, amount, form.Key);
        Say("Paid back to the card. It leaves card clearing with the service's next payout.");
        return Redirect($"/receive/{Id}");
    }

    public async Task<IActionResult> OnPostMoveAsync()
    {
        var to = await customers.MeantAsync(Form.Text("to"), "to");
        var there = await transfers.MoveAsync(Id, to.Id, Form.Key);
        Say($"Moved to {to.Name}. Say what it is for.");
        return Redirect($"/receive/place/{there}");
    }

    public async Task<IActionResult> OnPostReturnAsync()
    {
        if (await screens.ReceiptAsync(Id) is not { } view)
            return NotFound();
        var form = Form;
        var (date, charge) = (
            form.Date("date", "Give the day on which the bank took it back."),
            form.OptionalAmount("charge", view.Receipt.Currency)
        );
        form.ThrowIfAny();
        var returned = await returns.ReturnAsync(
            Id,
            date,
            form.Text("reason"),
            charge is { } minor ? new Core.Amounts.Money(minor, view.Receipt.Currency).Units : null,
            form.Key
        );
        Say(
            $"Booked as returned. What it had paid is open again.{(returned.ChargeDraftId is null ? "" : " The charge is a draft invoice; look it over and issue it.")}"
        );
        return Redirect(returned.ChargeDraftId is { } draft ? $"/sell/edit/{draft}" : $"/receive/{Id}");
    }
}
