using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Receive;

/// <summary>One receipt, what it was set against, and what is left of it.</summary>
[Needs(Right.See)]
public sealed class ViewModel(ReceiveScreens screens, Receipts receipts) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public ReceiptView View { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.ReceiptAsync(Id) is not { } view) return false;
        View = view;
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostTakeAwayAsync()
    {
        await ReadHeadAsync();
        await receipts.TakeAwayAsync(Form.Whole("allocation"), Form.Key);
        Say("Taken away. The invoice is open again, and the money stays as credit.");
        return Redirect($"/receive/{Id}");
    }

    public async Task<IActionResult> OnPostSetAgainstAsync()
    {
        await ReadHeadAsync();
        if (await screens.ReceiptAsync(Id) is not { } view) return NotFound();
        var form = Form;
        var amount = form.Amount("amount", view.Receipt.Currency);
        form.ThrowIfAny();
        await receipts.SetAgainstAsync(view.Item.Id, form.Whole("item"), amount, form.Key);
        Say("Set against.");
        return Redirect($"/receive/{Id}");
    }
}
