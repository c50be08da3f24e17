using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>
/// Undoes a booking: what it set against each other comes apart, what it took apart is set against each other again,
/// what it put on accounts goes, and each of its entries gets one the other way round on the same day. Then everything
/// stands as it did before, and the booking says that it was undone.
/// </summary>
public sealed class Undoing(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    AccountBook book,
    SpokenOf spoken,
    Banking.PayerLearning learning
)
{
    /// <returns>The booking's id.</returns>
    /// <exception cref="RefusalException">When its day is closed, or something else was built on it.</exception>
    public Task<int> UndoAsync(int bookingId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var booking =
                    await db.Bookings.FindAsync([bookingId], stop)
                    ?? throw new RefusalException("", "This is not there any more.");
                var business = await head.BusinessAsync(stop);
                if (business.ClosedUpTo is { } closed && booking.Date <= closed)
                    throw new RefusalException(
                        "",
                        $"This counts on {booking.Date:yyyy-MM-dd}, and the books are closed up to {closed:yyyy-MM-dd}. Open them again back to then, or book the opposite on {closed.AddDays(1):yyyy-MM-dd} or later."
                    );
                if (
                    await db
                        .Refunds.Where(r => r.BookingId == bookingId && r.PaymentFileId != null)
                        .Select(r => r.PaymentFileId)
                        .FirstOrDefaultAsync(stop) is
                    { } file
                )
                    throw new RefusalException(
                        "",
                        $"This refund went into the payment file {await db.PaymentFiles.Where(f => f.Id == file).Select(f => f.Reference).SingleAsync(stop)}. If that did not go to the bank, take the file back first; if it did, the money has to come back as a receipt."
                    );
                await MustNotBeOfACardAsync(bookingId, stop);
                if (
                    await db
                        .BankLines.Where(l =>
                            l.Placements.Any(p => p.BookingId == bookingId && p.Amount < 0 != l.Amount < 0)
                        )
                        .Select(l => (DateOnly?)l.Date)
                        .FirstOrDefaultAsync(stop) is
                    { } fee
                )
                    throw new RefusalException(
                        "",
                        $"This fee was kept of the money on the bank line of {fee:yyyy-MM-dd}, and the two belong together. Put the line back on the bench instead."
                    );
                booking.Undo(await head.TodayAsync(stop));
                await UndoAsync(booking, stop);
                await writer.TrailAsync(
                    $"Undone: {booking.Words}",
                    booking.CustomerId,
                    null,
                    await db
                        .Receipts.Where(r => r.BookingId == bookingId)
                        .Select(r => (int?)r.Id)
                        .FirstOrDefaultAsync(stop)
                );
                return bookingId;
            }
        );

    /// <summary>What the card service took or paid back has happened, whatever the books say.</summary>
    private async Task MustNotBeOfACardAsync(int bookingId, CancellationToken stop)
    {
        if (
            await db
                .Receipts.Where(r => r.BookingId == bookingId && db.PayRequests.Any(p => p.ReceiptId == r.Id))
                .Select(r => r.Number)
                .FirstOrDefaultAsync(stop) is
            { } receipt
        )
            throw new RefusalException(
                "",
                $"{receipt} was paid by card, and the card service has the money. Take it away from the invoice, move it to another customer, or pay it back to the card."
            );
        if (await db.PayRequests.AnyAsync(p => p.Refunds.Any(r => r.BookingId == bookingId), stop))
            throw new RefusalException(
                "",
                "This went back to the card through the card service, so it cannot be undone here. Ask the customer to pay again."
            );
    }

    private async Task<AccountItem?> SpokenAsync(List<AccountItem> items, List<int> ids, CancellationToken stop)
    {
        var about = await spoken.AmongAsync(ids, stop);
        return items.Find(i => about.Contains(i.Id));
    }

    private async Task UndoAsync(Booking booking, CancellationToken stop)
    {
        var items = await db.AccountItems.Where(i => i.BookingId == booking.Id).ToListAsync(stop);
        var ids = items.ConvertAll(i => i.Id);
        if (await SpokenAsync(items, ids, stop) is { } about)
            throw new RefusalException(
                "",
                $"{about.Number} {SpokenOf.Why}, so it stays on the account. Set money or a credit against it instead."
            );
        await ComeApartAsync(booking, ids, stop);
        db.TaxFigures.RemoveRange(await db.TaxFigures.Where(f => f.BookingId == booking.Id).ToListAsync(stop));
        var made = await Allocations().Where(a => a.BookingId == booking.Id).ToListAsync(stop);
        foreach (var allocation in made)
            await ForgetAsync(allocation, stop);
        foreach (
            var entry in await db
                .Journal.Include(e => e.Lines)
                .Where(e => e.BookingId == booking.Id && !e.IsMirrored)
                .OrderBy(e => e.Id)
                .ToListAsync(stop)
        )
            db.Journal.Add(entry.Mirror());
        await writer.SaveAsync(stop);
        foreach (
            var ended in await Allocations().Where(a => a.EndedById == booking.Id).OrderBy(a => a.Id).ToListAsync(stop)
        )
            await ReviveAsync(ended, stop);
        foreach (var receipt in await db.Receipts.Where(r => r.BookingId == booking.Id).ToListAsync(stop))
            receipt.Undo();
        var joined = await db.Receipts.Where(r => r.BookingId == booking.Id).Select(r => r.Id).ToListAsync(stop);
        var lines = await db
            .BankLines.Include(l => l.Placements)
            .Where(l =>
                l.Placements.Any(p =>
                    p.BookingId == booking.Id || p.JoinedBookingId == booking.Id || joined.Contains(p.ReceiptId ?? 0)
                )
            )
            .ToListAsync(stop);
        foreach (var line in lines)
        {
            foreach (
                var placement in line
                    .Placements.Where(p =>
                        p.BookingId == booking.Id
                        || p.JoinedBookingId == booking.Id
                        || joined.Contains(p.ReceiptId ?? 0)
                    )
                    .ToList()
            )
                line.TakeBack(placement);
        }
        db.AccountItems.RemoveRange(items);
        await writer.SaveAsync(stop);
        foreach (var line in lines)
            await learning.UnlearnAsync(line, stop);
    }

    /// <summary>Why nothing is taken off an invoice that was cancelled.</summary>
    internal static Phrase StayTogether(Allocation allocation) =>
        $"{allocation.Raising.Number} is cancelled by {allocation.Lowering.Number}, and the two stay together. Copy the invoice into a new draft instead.";

    private IQueryable<Allocation> Allocations() =>
        db
            .Allocations.IgnoreQueryFilters()
            .Include(a => a.Raising)
                .ThenInclude(i => i.Booking)
            .Include(a => a.Lowering)
                .ThenInclude(i => i.Booking)
            .Include(a => a.Booking)
            .Include(a => a.EndedBy);

    /// <summary>
    /// What was merely set against something since comes apart; what was built on it must be undone first.
    /// </summary>
    private async Task ComeApartAsync(Booking booking, List<int> items, CancellationToken stop)
    {
        var later = await Allocations()
            .Where(a => a.BookingId != booking.Id && (items.Contains(a.RaisingId) || items.Contains(a.LoweringId)))
            .OrderByDescending(a => a.Id)
            .ToListAsync(stop);
        foreach (var allocation in later)
        {
            if (allocation.Booking is { IsUndone: false, Kind: not BookingKind.SetAgainst } on)
                throw new RefusalException("", $"Something was done with it since: {on.Words}. Undo that first.");
            await ForgetAsync(allocation, stop);
        }

        var ended = await Allocations()
            .Where(a => a.BookingId == booking.Id && a.EndedById != null && a.EndedById != booking.Id)
            .ToListAsync(stop);
        if (ended.Find(a => a.EndedBy is { IsUndone: false, Kind: not BookingKind.TakenAway }) is { } built)
            throw new RefusalException(
                "",
                $"Something was done with it since: {built.EndedBy!.Words}. Undo that first."
            );
    }

    /// <summary>Makes an allocation as if it had never been, with what it and its end posted.</summary>
    private async Task ForgetAsync(Allocation allocation, CancellationToken stop)
    {
        if (
            allocation is { Until: null, Raising.DocumentId: { } billed }
            && await db.Documents.AnyAsync(d => d.Id == billed && d.State == DocumentState.Cancelled, stop)
        )
            throw new RefusalException("", StayTogether(allocation));
        allocation.Forget();
        await book.FollowAsync(allocation, stop);
        db.Allocations.Remove(allocation);
        foreach (
            var other in new[] { allocation.Booking, allocation.EndedBy }.OfType<Booking>().Where(b => !b.IsUndone)
        )
            await CloseAsync(other, allocation, stop);
    }

    /// <summary>
    /// A booking that was nothing but this allocation, or its end, is undone with it; of a larger one, only its
    /// difference goes back.
    /// </summary>
    private async Task CloseAsync(Booking other, Allocation allocation, CancellationToken stop)
    {
        if (
            await Allocations()
                .AnyAsync(a => (a.BookingId == other.Id || a.EndedById == other.Id) && a.Id != allocation.Id, stop)
        )
        {
            book.Post(
                other,
                PostingRules.ForAllocation(
                    allocation,
                    await book.AccountsAsync(stop),
                    other.Id == allocation.EndedById ? allocation.Until!.Value : allocation.Date,
                    takenBack: other.Id != allocation.EndedById
                )
            );
            return;
        }

        foreach (
            var entry in await db
                .Journal.Include(e => e.Lines)
                .Where(e => e.BookingId == other.Id && !e.IsMirrored)
                .ToListAsync(stop)
        )
            db.Journal.Add(entry.Mirror());
        other.Undo(await head.TodayAsync(stop));
    }

    /// <summary>Sets two items against each other again, as they were.</summary>
    private async Task ReviveAsync(Allocation ended, CancellationToken stop)
    {
        // What used the freed amount after that for a while and was taken apart too would count twice on a day in
        // between.
        if (
            await Allocations()
                .Where(a =>
                    a.BookingId > ended.EndedById
                    && (a.RaisingId == ended.RaisingId || a.LoweringId == ended.LoweringId)
                    && a.Until > a.Date
                )
                .FirstOrDefaultAsync(stop) is
            { EndedBy: { } since }
        )
            throw new RefusalException("", $"Something was done with it since: {since.Words}. Undo that first.");
        var gain = ended.ExchangeGain;
        ended.Revive();
        if (ended.Booking is not null)
            book.Post(
                ended.Booking,
                PostingRules.ForExchange(ended, ended.ExchangeGain - gain, await book.AccountsAsync(stop), ended.Date)
            );
        await book.FollowAsync(ended, stop);
    }
}
