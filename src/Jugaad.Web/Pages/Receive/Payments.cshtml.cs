using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Receive;

/// <summary>Refunds by bank, and the files that they go to the bank with.</summary>
[Needs(Right.See)]
[Posts(Right.Money)]
public sealed class PaymentsModel(PaymentFiles files) : DeskPage
{
    public IReadOnlyList<RefundWaiting> Waiting { get; private set; } = [];

    public IReadOnlyList<PaymentFileRow> Made { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Waiting = await files.WaitingAsync();
        Made = await files.MadeAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var payOn = form.Date("payOn", "Give the day on which the bank is to pay.");
        form.ThrowIfAny();
        await files.MakeAsync(
            [.. Request.Form["refund"].Select(r => int.TryParse(r, out var id) ? id : 0).Where(id => id > 0)],
            payOn,
            form.Key
        );
        return Done("The payment file is made. Save it below, and give it to the bank.");
    }

    public async Task<IActionResult> OnPostTakeBackAsync()
    {
        await files.TakeBackAsync(Form.Whole("file"), Form.Key);
        return Done("Taken back. Its refunds wait again.");
    }
}
