using Jugaad.Core;
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
                var amount = form.Amount("writeOff.amount", currency);
                var day = form.OptionalDate("writeOff.date");
                form.ThrowIfAny();
                // A form that does not ask takes the tax back, as it always was.
                var lowersTax = form.Text("asksTax").Length == 0 || form.Ticked("taxBack");
                var why = form.Text("writeOff.reason");
                await InFormAsync("writeOff", settlements.WriteOffAsync(item, amount, why, day, form.Key, lowersTax));
                return lowersTax ? "Written off, with its tax." : "Written off. Its tax stays owed.";
            }
        );

    [Posts(Right.Money)]
    public async Task<IActionResult> OnPostRecoverAsync()
    {
        if (await screens.MarginAsync(Id) is not { } margin)
            return NotFound();
        var form = Form;
        var amount = form.Amount("recover.amount", margin.Document.Currency);
        form.ThrowIfAny();
        var settlement = form.Whole("settlement");
        var item = await InFormAsync("recover", settlements.RecoverAsync(settlement, amount, null, form.Key));
        Say("It is owed again. Enter the money that came.");
        return Redirect($"/receive/new?customer={margin.Document.CustomerId}&invoice={item}");
    }

    [Posts(Right.Money)]
    public Task<IActionResult> OnPostTaxOffAsync() =>
        DoAsync(async form =>
        {
            var day = form.OptionalDate("taxOff.date");
            form.ThrowIfAny();
            var why = form.Text("taxOff.reason");
            var settlement = form.Whole("settlement");
            await InFormAsync("taxOff", settlements.TakeTaxOffAsync(settlement, why, day, form.Key));
            return "Its tax is taken back on that day. The return that has the day, or the next open one, tells it.";
        });

    /// <summary>What is refused reaches the fields of the form that asked.</summary>
    private static async Task<T> InFormAsync<T>(string form, Task<T> work)
    {
        try
        {
            return await work;
        }
        catch (RefusalException refused)
        {
            throw refused.Below(form);
        }
    }

    private Task<IActionResult> OnItemAsync(Func<TypedForm, int, Currency, Task<string>> work) =>
        DoAsync(async form =>
        {
            var margin = await screens.MarginAsync(Id);
            return await work(form, margin?.Item?.Id ?? 0, margin?.Document.Currency ?? Business!.HomeCurrency);
        });
}
