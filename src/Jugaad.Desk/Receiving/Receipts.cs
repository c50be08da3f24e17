using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Selling;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>Money from a customer as it was typed.</summary>
/// <param name="Amount">Minor units of the customer's currency.</param>
/// <param name="Against">What of it is set against which account item; the rest stays as credit.</param>
public sealed record ReceiptToPost(
    int CustomerId, DateOnly Date, int MoneyAccountId, long Amount, string Reference, IReadOnlyList<(int ItemId, long Amount)> Against, string? FormKey = null);

/// <summary>Posts receipts, and sets receipts and credits against what is open.</summary>
public sealed class Receipts(BooksContext db, BookWriter writer, BooksHead head, MastersLoader masters)
{
    /// <returns>The receipt's id.</returns>
    /// <exception cref="RefusalException">With what is wrong, each by its field; fields of the allocation are <c>against[itemId]</c>.</exception>
    public Task<int> PostAsync(ReceiptToPost typed, CancellationToken stop = default) => writer.WriteAsync(Right.Money, typed.FormKey, async () =>
    {
        var business = await head.BusinessAsync(stop);
        var customer = await db.Customers.FindAsync([typed.CustomerId], stop) ?? throw new RefusalException("customerId", "Choose the customer whose money this is.");
        await CheckAsync(typed, customer.Currency, stop);
        var rate = await masters.RateAsync(customer.Currency, typed.Date, stop);
        var series = await db.Series.Where(s => s.UsedFor == "Receipt" && !s.Retired).OrderByDescending(s => s.IsUsual).ThenBy(s => s.Id).FirstAsync(stop);
        var number = series.Take(typed.Date, taken => db.Receipts.Any(r => r.SeriesId == series.Id && r.Number == taken));
        var receipt = new Receipt(series.Id, number, customer.Id, typed.Date, typed.MoneyAccountId, customer.Currency, typed.Amount, rate, typed.Reference, writer.Who);
        db.Receipts.Add(receipt);
        await writer.SaveAsync(stop);

        var item = new AccountItem(AccountItemKind.Receipt, customer.Id, number, typed.Date, typed.Date, customer.Currency, typed.Amount, rate, business.HomeCurrency) { ReceiptId = receipt.Id };
        db.AccountItems.Add(item);
        var accounts = await db.PostingAccountsAsync(stop);
        var entry = PostingRules.ForReceipt(receipt, accounts, business.HomeCurrency);
        entry.ReceiptId = receipt.Id;
        db.Journal.Add(entry);
        await writer.SaveAsync(stop);
        foreach (var (itemId, amount) in typed.Against.Where(a => a.Amount != 0)) await TieAsync(itemId, item, amount, typed.Date, accounts, $"against[{itemId}]", stop);
        await writer.TrailAsync($"Receipt {number} of {business.Format.WithCode(typed.Amount, customer.Currency)} posted{(item.Open > 0 ? $"; {business.Format.WithCode(item.Open, customer.Currency)} stays as credit" : "")}", customer.Id, null, receipt.Id);
        return receipt.Id;
    }, stop);

    /// <summary>Sets a part of a receipt or credit against an open item, today.</summary>
    /// <param name="amount">Minor units.</param>
    public Task<int> SetAgainstAsync(int loweringId, int raisingId, long amount, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Money, formKey, async () =>
    {
        var lowering = await db.AccountItems.FindAsync([loweringId], stop) ?? throw new RefusalException("", "This receipt or credit is not there.");
        await TieAsync(raisingId, lowering, amount, await head.TodayAsync(stop), await db.PostingAccountsAsync(stop), "amount", stop);
        return loweringId;
    }, stop);

    /// <summary>Sets a receipt or credit against what its customer owes, oldest first, as far as it reaches.</summary>
    /// <exception cref="RefusalException">When nothing is left of it, or nothing is owed.</exception>
    public Task<int> PlaceOldestFirstAsync(int loweringId, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Money, formKey, async () =>
    {
        var lowering = await db.AccountItems.FindAsync([loweringId], stop) ?? throw new RefusalException("", "This receipt or credit is not there.");
        var owed = await db.AccountItems.Where(i => i.CustomerId == lowering.CustomerId && i.Open > 0 && i.Sign > 0).ToListAsync(stop);
        var parts = OldestFirst.Propose(lowering.Open, owed);
        if (lowering.Raises || parts.Count == 0) throw new RefusalException("", $"There is nothing to set {lowering.Number} against.");
        var (accounts, today) = (await db.PostingAccountsAsync(stop), await head.TodayAsync(stop));
        foreach (var (item, amount) in parts) await TieAsync(item.Id, lowering, amount, today, accounts, "amount", stop);
        return loweringId;
    }, stop);

    /// <summary>Takes an allocation away: both items are as they were before it, and the receipt stays.</summary>
    public Task<int> TakeAwayAsync(int allocationId, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Money, formKey, async () =>
    {
        var allocation = await db.Allocations.Include(a => a.Raising).Include(a => a.Lowering).SingleOrDefaultAsync(a => a.Id == allocationId, stop)
            ?? throw new RefusalException("", "This allocation was taken away already.");
        if (allocation.Raising.DocumentId is { } raised && await db.Documents.AnyAsync(d => d.Id == raised && d.State == DocumentState.Cancelled, stop))
            throw new RefusalException("", $"{allocation.Raising.Number} is cancelled by {allocation.Lowering.Number}, and the two stay together. Copy the invoice into a new draft instead.");
        var entry = PostingRules.ForAllocation(allocation, await db.PostingAccountsAsync(stop), allocation.Date, takenBack: true);
        if (entry is not null) db.Journal.Add(entry);
        allocation.TakeAway();
        db.Allocations.Remove(allocation);
        await FollowAsync(allocation, stop);
        await writer.TrailAsync($"{await WordsAsync(allocation, stop)}: taken away", allocation.Raising.CustomerId, allocation.Raising.DocumentId, allocation.Lowering.ReceiptId);
        return allocation.LoweringId;
    }, stop);

    private async Task CheckAsync(ReceiptToPost typed, Currency currency, CancellationToken stop)
    {
        var refusals = new Refusals();
        var today = await head.TodayAsync(stop);
        if (typed.Date > today) refusals.Add("date", $"{typed.Date:yyyy-MM-dd} is yet to come. Choose today or a day before.");
        if (typed.Date.Year < 1990) refusals.Add("date", "Give the day on which the money came in.");
        var role = await db.LedgerAccounts.Where(a => a.Id == typed.MoneyAccountId).Select(a => (AccountRole?)a.Role).SingleOrDefaultAsync(stop);
        if (role != AccountRole.Money) refusals.Add("moneyAccountId", "Choose where the money came in.");
        else if (await db.LedgerAccounts.AnyAsync(a => a.Id == typed.MoneyAccountId && a.Retired, stop)) refusals.Add("moneyAccountId", "This account is retired. Choose another, or offer it again under Setup.");
        if (typed.Amount <= 0) refusals.Add("amount", "Give the amount that came in, above zero.");
        var against = typed.Against.Sum(a => a.Amount);
        if (typed.Amount > 0 && against > typed.Amount)
            refusals.Add("against", $"You set {new Money(against, currency)} against invoices, {new Money(against - typed.Amount, currency)} more than the receipt of {new Money(typed.Amount, currency)}. Lower one of the parts.");
        if (typed.Against.Any(a => a.Amount < 0)) refusals.Add("against", "A part cannot be below zero. Leave it empty for none.");
        if (typed.Against.Select(a => a.ItemId).Distinct().Count() != typed.Against.Count) refusals.Add("against", "An invoice is named twice. Name each once.");
        refusals.ThrowIfAny();
    }

    private async Task TieAsync(int raisingId, AccountItem lowering, long amount, DateOnly date, PostingAccounts accounts, string field, CancellationToken stop)
    {
        var raising = await db.AccountItems.FindAsync([raisingId], stop) ?? throw new RefusalException(field, "This invoice is not there any more.");
        var allocation = Allocation.Make(raising, lowering, amount, date, field);
        db.Allocations.Add(allocation);
        if (PostingRules.ForAllocation(allocation, accounts, allocation.Date) is { } entry) db.Journal.Add(entry);
        await FollowAsync(allocation, stop);
        await writer.TrailAsync(await WordsAsync(allocation, stop), raising.CustomerId, raising.DocumentId, lowering.ReceiptId);
    }

    private async Task FollowAsync(Allocation allocation, CancellationToken stop)
    {
        foreach (var item in new[] { allocation.Raising, allocation.Lowering })
            if (item.DocumentId is { } id && await db.Documents.FindAsync([id], stop) is { } document) document.FollowOpenAmount(item.Open);
    }

    private async Task<string> WordsAsync(Allocation allocation, CancellationToken stop) =>
        $"{(await head.BusinessAsync(stop)).Format.WithCode(allocation.Amount, allocation.Raising.Currency)} of {allocation.Lowering.Number} set against {allocation.Raising.Number}";
}
