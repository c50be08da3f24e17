using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>
/// Writes on customers' accounts for the desks: whatever they put there, set against each other, take apart or post
/// goes through here and is noted with its booking, so that the booking can be undone as one.
/// </summary>
public sealed class AccountBook(BooksContext db, BookWriter writer, BooksHead head, Numbers numbers)
{
    private PostingAccounts? _accounts;

    /// <exception cref="RefusalException">When the chart lacks one.</exception>
    public async Task<PostingAccounts> AccountsAsync(CancellationToken stop) =>
        _accounts ??= await db.PostingAccountsAsync(stop);

    /// <summary>Begins a booking on a day; where the books are closed by then, on the first open one.</summary>
    public async Task<Booking> BeginAsync(BookingKind kind, DateOnly day, int? customerId, CancellationToken stop)
    {
        var booking = new Booking(kind, (await head.BusinessAsync(stop)).OpenDay(day), customerId, writer.Who);
        db.Bookings.Add(booking);
        await writer.SaveAsync(stop);
        return booking;
    }

    /// <summary>Puts something on a customer's account, on the booking's day.</summary>
    public async Task<AccountItem> PutAsync(
        Booking booking,
        AccountItemKind kind,
        int customerId,
        string number,
        Currency currency,
        long amount,
        QuotedRate rate,
        CancellationToken stop
    )
    {
        var item = new AccountItem(
            kind,
            customerId,
            number,
            booking.Date,
            booking.Date,
            currency,
            amount,
            rate,
            (await head.BusinessAsync(stop)).HomeCurrency
        );
        item.Belong(booking);
        db.AccountItems.Add(item);
        return item;
    }

    /// <summary>Puts on a customer's account what moved on a money account.</summary>
    /// <param name="home">What that is worth, in minor units of home.</param>
    public AccountItem PutMoney(
        Booking booking,
        AccountItemKind kind,
        int customerId,
        string number,
        Currency currency,
        long amount,
        long home
    )
    {
        var item = new AccountItem(kind, customerId, number, booking.Date, currency, amount, home);
        item.Belong(booking);
        db.AccountItems.Add(item);
        return item;
    }

    public void Post(Booking booking, JournalEntry? entry)
    {
        if (entry is null || entry.Lines.Count == 0)
            return;
        entry.Belong(booking);
        db.Journal.Add(entry);
    }

    /// <summary>Sets two items against each other.</summary>
    /// <param name="amount">Minor units.</param>
    /// <exception cref="RefusalException">When either has less than that open.</exception>
    public async Task<Allocation> TieAsync(
        Booking booking,
        AccountItem raising,
        AccountItem lowering,
        long amount,
        string field,
        CancellationToken stop
    )
    {
        var allocation = Allocation.Make(
            raising,
            lowering,
            amount,
            await FreeFromAsync(raising.Id, lowering.Id, booking.Date, stop),
            field
        );
        allocation.Belong(booking);
        db.Allocations.Add(allocation);
        Post(booking, PostingRules.ForAllocation(allocation, await AccountsAsync(stop), allocation.Date));
        await FollowAsync(allocation, stop);
        // What is taken off an invoice by itself is told by whoever takes it off.
        if (lowering.Kind.CanBePlaced() && raising.Kind.IsDemand())
            await writer.TrailAsync(
                await WordsAsync(allocation, stop),
                raising.CustomerId,
                raising.DocumentId,
                lowering.ReceiptId
            );
        return allocation;
    }

    /// <summary>
    /// The first day, from one on, on which what was taken apart counts no more: what it freed can be used from then
    /// only, or more would have been set against an item on a day in between than it comes to.
    /// </summary>
    private async Task<DateOnly> FreeFromAsync(int raising, int lowering, DateOnly day, CancellationToken stop)
    {
        var until = await db
            .Allocations.IgnoreQueryFilters()
            .Where(a => (a.RaisingId == raising || a.LoweringId == lowering) && a.Until > day && a.Until > a.Date)
            .MaxAsync(a => a.Until, stop);
        return until ?? day;
    }

    /// <summary>Takes two items apart from a day on.</summary>
    public async Task EndAsync(Booking booking, Allocation allocation, DateOnly day, CancellationToken stop)
    {
        allocation.End(booking, day);
        Post(
            booking,
            PostingRules.ForAllocation(allocation, await AccountsAsync(stop), allocation.Until!.Value, takenBack: true)
        );
        await FollowAsync(allocation, stop);
        if (allocation.Lowering.Kind.CanBePlaced() && allocation.Raising.Kind.IsDemand())
            await writer.TrailAsync(
                $"{await WordsAsync(allocation, stop)}: taken away",
                allocation.Raising.CustomerId,
                allocation.Raising.DocumentId,
                allocation.Lowering.ReceiptId
            );
    }

    /// <exception cref="RefusalException">When it is not there.</exception>
    public async Task<AccountItem> ItemAsync(int id, string field, CancellationToken stop) =>
        await db.AccountItems.FindAsync([id], stop)
        ?? throw new RefusalException(field, "This is not on the account any more. Load the page again.");

    /// <summary>The next number of a receipt or refund.</summary>
    public Task<(int SeriesId, string Number)> NumberAsync(string usedFor, DateOnly day, CancellationToken stop) =>
        numbers.GiveAsync(usedFor, day, stop);

    /// <summary>A document is settled once nothing of it is open, and issued again once something is.</summary>
    internal async Task FollowAsync(Allocation allocation, CancellationToken stop)
    {
        foreach (var item in new[] { allocation.Raising, allocation.Lowering })
            if (item.DocumentId is { } id && await db.Documents.FindAsync([id], stop) is { } document)
                document.FollowOpenAmount(item.Open);
    }

    internal async Task<string> WordsAsync(Allocation allocation, CancellationToken stop) =>
        $"{(await head.BusinessAsync(stop)).Format.WithCode(allocation.Amount, allocation.Raising.Currency)} of {allocation.Lowering.Number} set against {allocation.Raising.Number}";
}
