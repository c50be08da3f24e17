using System.Globalization;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Moving;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Moving;

/// <summary>What was taken over from other books, and putting it right.</summary>
[Needs(Right.Money)]
[Posts(Right.Money)]
public sealed class OpeningModel(OpeningDesk desk) : DeskPage
{
    private const int Most = 200;

    public string Search { get; private set; } = "";

    public IReadOnlyList<OpeningItemRow> Items { get; private set; } = [];

    public IReadOnlyList<OpeningBalanceRow> Balances { get; private set; } = [];

    public OpeningItemRow? Item { get; private set; }

    public OpeningBalanceRow? Balance { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        Search = Request.Query["q"].ToString();
        var (item, balance) = (Asked("item"), Asked("balance"));
        var all = await desk.ItemsAsync(Search, item is null ? Most : int.MaxValue);
        Balances = await desk.BalancesAsync();
        Item = all.FirstOrDefault(i => i.Item.Id == item);
        Balance = Balances.FirstOrDefault(b => b.EntryId == balance);
        Items = [.. all.Take(Most)];
        return true;
    }

    private int? Asked(string name) =>
        int.TryParse(Request.Query[name], NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id : null;

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostItemAsync()
    {
        if (!await ShowAsync() || Item is null)
            return NotFound();
        var form = Form;
        var (date, due, amount) = (
            form.Date("date", "Give the date."),
            form.OptionalDate("due"),
            form.Amount("amount", Item.Item.Currency)
        );
        var rate = form.Text("rate").Trim().Length == 0 ? (decimal?)null : form.Figure("rate", 10);
        form.ThrowIfAny();
        await desk.PutItemRightAsync(
            new OpeningItemToPutRight(
                Item.Item.Id,
                form.Text("number"),
                date,
                due,
                amount,
                rate,
                form.Text("reason"),
                form.Key
            )
        );
        return Back("Put right.");
    }

    public async Task<IActionResult> OnPostItemOutAsync()
    {
        await desk.TakeItemOutAsync(Asked("item") ?? 0, Form.Text("reason"), Form.Key);
        return Back("Taken out.");
    }

    public async Task<IActionResult> OnPostBalanceAsync()
    {
        if (!await ShowAsync() || Balance is null)
            return NotFound();
        var form = Form;
        var (date, amount) = (
            form.Date("date", "Give the date of the balance."),
            form.OptionalAmount("amount", Business!.HomeCurrency)
        );
        form.ThrowIfAny();
        if (amount is null)
            throw new RefusalException("amount", "Give the balance; 0 takes it out.");
        await desk.PutBalanceRightAsync(Balance.EntryId, date, amount.Value, form.Text("reason"), form.Key);
        return Back("Put right.");
    }

    private RedirectResult Back(string said)
    {
        Say(said);
        return Redirect("/moving/opening");
    }
}
