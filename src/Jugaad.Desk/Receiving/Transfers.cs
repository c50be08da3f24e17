using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>Moves a receipt that was entered at the wrong customer to the right one.</summary>
public sealed class Transfers(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    AccountBook book,
    Settlements settlements
)
{
    /// <summary>
    /// What the receipt was set against is open again; its whole amount goes from the one account to the other, and can
    /// be set against what the other customer owes.
    /// </summary>
    /// <returns>The account item on which the other customer has it.</returns>
    /// <exception cref="RefusalException">When the other has another currency, or some of the money was paid back
    /// already.</exception>
    public Task<int> MoveAsync(int receiptId, int customerId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var receipt =
                    await db.Receipts.SingleOrDefaultAsync(r => r.Id == receiptId && !r.IsUndone, stop)
                    ?? throw new RefusalException("", "This receipt is not there any more.");
                var to =
                    await db.Customers.FindAsync([customerId], stop)
                    ?? throw new RefusalException("to", "Choose the customer whose money this is.");
                if (to.Id == receipt.CustomerId)
                    throw new RefusalException("to", $"The receipt is {to.Name}'s already. Choose another customer.");
                if (!to.Currency.Equals(receipt.Currency))
                    throw new RefusalException(
                        "to",
                        $"{to.Name} is billed in {to.Currency}, and this receipt is in {receipt.Currency}. Undo the receipt and enter it anew."
                    );
                var from = await db.Customers.SingleAsync(c => c.Id == receipt.CustomerId, stop);
                var item = await db.AccountItems.SingleAsync(i => i.ReceiptId == receiptId, stop);
                var placed = await db
                    .Allocations.Include(a => a.Raising)
                        .ThenInclude(i => i.Booking)
                    .Include(a => a.Lowering)
                    .Where(a => a.LoweringId == item.Id)
                    .OrderBy(a => a.Id)
                    .ToListAsync(stop);
                if (placed.Find(a => !a.Raising.Kind.IsDemand()) is { } gone)
                    throw new RefusalException(
                        "",
                        $"{gone.Raising.Booking?.Words ?? gone.Raising.Kind.Word()}. Undo that first."
                    );
                var booking = await book.BeginAsync(BookingKind.Transfer, await head.TodayAsync(stop), from.Id, stop);
                foreach (var allocation in placed)
                    await book.EndAsync(booking, allocation, booking.Date, stop);
                await settlements.LoseEarlyAsync(booking, placed, stop);
                var home = (await head.BusinessAsync(stop)).HomeCurrency;
                var worth = receipt.Money.HomeWithCharge(home);
                var movedOut = book.PutMoney(
                    booking,
                    AccountItemKind.MovedOut,
                    from.Id,
                    receipt.Number,
                    receipt.Currency,
                    receipt.Amount,
                    worth
                );
                var movedIn = book.PutMoney(
                    booking,
                    AccountItemKind.MovedIn,
                    to.Id,
                    receipt.Number,
                    receipt.Currency,
                    receipt.Amount,
                    worth
                );
                book.Post(booking, PostingRules.ForTransfer(movedOut, await book.AccountsAsync(stop), receiptId, home));
                await writer.SaveAsync(stop);
                await book.TieAsync(booking, movedOut, item, receipt.Amount, "", stop);
                booking.Say(
                    $"{receipt.Number} of {(await head.BusinessAsync(stop)).Format.WithCode(receipt.Amount, receipt.Currency)} moved from {from.Name} to {to.Name}"
                );
                await writer.TrailAsync(booking.Words, from.Id, null, receiptId);
                await writer.TrailAsync(booking.Words, to.Id);
                await writer.SaveAsync(stop);
                return movedIn.Id;
            }
        );
}
