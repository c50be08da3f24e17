using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Papers;

/// <summary>What is taken off an invoice without a credit note, and what comes back of it.</summary>
public sealed partial class IndexModel
{
    /// <summary>The part that was refused and stays open.</summary>
    public string Opened => Request.Method == "POST" ? Request.Query["handler"].ToString() : "";

    [Posts(Right.Money)]
    public Task<IActionResult> OnPostGiveUpRestAsync() =>
        OnItemAsync(
            async (form, item, _) =>
            {
                await settlements.GiveUpRestAsync(item, form.Key);
                return "The small rest is given up.";
            }
        );

    [Posts(Right.Money)]
    public Task<IActionResult> OnPostGiveEarlyAsync() =>
        OnItemAsync(
            async (form, item, _) =>
            {
                await settlements.GiveEarlyAsync(item, form.Text("earlyReason"), form.Key);
                return "The discount is given.";
            }
        );

    [Posts(Right.Money)]
    public Task<IActionResult> OnPostWriteOffAsync() =>
        OnItemAsync(
            async (form, item, currency) =>
            {
                var amount = form.Amount("writeOff", currency);
                var day = form.OptionalDate("writeOffOn");
                form.ThrowIfAny();
                // A form that does not ask takes the tax back, as it always was.
                var lowersTax = form.Text("asksTax").Length == 0 || form.Ticked("taxBack");
                await settlements.WriteOffAsync(item, amount, form.Text("why"), day, form.Key, lowersTax);
                return lowersTax ? "Written off, with its tax." : "Written off. Its tax stays owed.";
            }
        );

    [Posts(Right.Money)]
    public async Task<IActionResult> OnPostRecoverAsync()
    {
        if (await screens.MarginAsync(Id) is not { } margin)
            return NotFound();
        var amount = Form.Amount("recover", margin.Document.Currency);
        var item = await settlements.RecoverAsync(Form.Whole("settlement"), amount, null, Form.Key);
        Say("It is owed again. Enter the money that came.");
        return Redirect($"/receive/new?customer={margin.Document.CustomerId}&invoice={item}");
    }

    private Task<IActionResult> OnItemAsync(Func<TypedForm, int, Currency, Task<string>> work) =>
        DoAsync(async form =>
        {
            var margin = await screens.MarginAsync(Id);
            return await work(form, margin?.Item?.Id ?? 0, margin?.Document.Currency ?? Business!.HomeCurrency);
        });
}
