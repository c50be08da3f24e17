using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Ways of payment, reasons for notes, small differences, and up to when the books are closed.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class MoneyModel(BooksContext db, KeptListsDesk lists, Periods periods, ReceiveScreens screens) : DeskPage
{
    public IReadOnlyList<(PayWay Way, string Into)> Ways { get; private set; } = [];

    public IReadOnlyList<NoteReason> Reasons { get; private set; } = [];

    public IEnumerable<(string, string)> MoneyChoices { get; private set; } = [];

    public IEnumerable<(string, string)> FeeChoices { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        var names = await db.LedgerAccounts.ToDictionaryAsync(a => a.Id, a => $"{a.Code} {a.Name}");
        Ways = (await db.PayWays.AsNoTracking().OrderBy(w => w.Id).ToListAsync()).ConvertAll(w =>
            (w, names[w.MoneyAccountId])
        );
        Reasons = await db.NoteReasons.AsNoTracking().OrderBy(r => r.Text).ToListAsync();
        MoneyChoices = (await screens.MoneyAccountsAsync()).Select(a => (a.Id.ToString(), a.Name)).ToList();
        FeeChoices = (
            await db
                .LedgerAccounts.AsNoTracking()
                .Where(a => a.Role == Core.Journal.AccountRole.Other && !a.Retired)
                .OrderBy(a => a.Code)
                .ToListAsync()
        )
            .Select(a => (a.Id.ToString(), $"{a.Code} {a.Name}"))
            .Prepend(("", "no account: do not look for fees"))
            .ToList();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAddWayAsync()
    {
        await lists.AddWayAsync(Form.Text("name"), Form.Whole("moneyAccountId"), Form.Key);
        return Done("Added. It is offered with every receipt.");
    }

    public async Task<IActionResult> OnPostRetireWayAsync()
    {
        await lists.RetireWayAsync(Form.Whole("id"), Form.Text("retired").Length > 0, Form.Key);
        return Done("Done. Receipts keep what they say.");
    }

    public async Task<IActionResult> OnPostAddReasonAsync()
    {
        await lists.AddReasonAsync(Form.Text("text"), Form.Key);
        return Done("Added. It is offered with every credit and debit note.");
    }

    public async Task<IActionResult> OnPostRetireReasonAsync()
    {
        await lists.RetireReasonAsync(Form.Whole("id"), Form.Text("retired").Length > 0, Form.Key);
        return Done("Done. Papers keep what they say.");
    }

    public async Task<IActionResult> OnPostCloseAsync()
    {
        var form = Form;
        var day = form.OptionalDate("closedUpTo");
        form.ThrowIfAny();
        await periods.CloseUpToAsync(day, form.Key);
        return Done(day is null ? "Nothing is closed any more." : "Closed.");
    }

    public async Task<IActionResult> OnPostSettleAsync()
    {
        var form = Form;
        var small = form.Amount("smallDifference", Business!.HomeCurrency);
        form.ThrowIfAny();
        await periods.SettleAsync(
            form.Ticked("leavesTax"),
            small,
            form.Id("feeAccountId"),
            form.Ticked("depositsAtOnce"),
            form.Key
        );
        return Done("Saved.");
    }
}
