using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Paying;

/// <summary>Pays card payments back to the card.</summary>
public sealed class CardPayingBack(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Refunds refunds,
    PaySetup setup,
    ICardService service
)
{
    /// <summary>Pays what is left of a card payment's receipt back, or a part of it.</summary>
    /// <param name="amount">Minor units; null for all that is left of it as credit.</param>
    /// <returns>The refund's id.</returns>
    /// <exception cref="RefusalException">When less is left of it, or the service does not do it; nothing is booked
    /// then.</exception>
    public Task<int> PayAsync(int receiptId, long? amount, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var request =
                    await db
                        .PayRequests.Include(r => r.Refunds)
                        .SingleOrDefaultAsync(r => r.ReceiptId == receiptId, stop)
                    ?? throw new RefusalException("", "This receipt is none of a card payment made here.");
                var item = await db.AccountItems.SingleAsync(i => i.ReceiptId == receiptId, stop);
                var back = amount ?? item.Open;
                if (back > request.Total - request.Refunds.Sum(r => r.Amount))
                    throw new RefusalException(
                        "amount",
                        $"Of this payment, {new Money(request.Total - request.Refunds.Sum(r => r.Amount), request.Currency)} can go back to the card at most."
                    );
                var today = await head.TodayAsync(stop);
                var refund = await refunds.PayAsync(
                    new RefundToPay(
                        item.Id,
                        back,
                        await db.Receipts.Where(r => r.Id == receiptId).Select(r => r.MoneyAccountId).SingleAsync(stop),
                        today,
                        null,
                        request.ServiceId
                    ),
                    stop
                );
                var booking = await db.Refunds.Where(r => r.Id == refund).Select(r => r.BookingId).SingleAsync(stop);
                // The service is asked last: when it refuses, all of it is taken back; its key keeps it from paying twice.
                string name;
                try
                {
                    name = await service.PayBackAsync(
                        request.ServiceId,
                        back,
                        $"{request.Key}-{request.Refunds.Count + 1}",
                        today,
                        await setup.SecretAsync(stop),
                        stop
                    );
                }
                catch (CarrierException not)
                {
                    throw new RefusalException(
                        "",
                        $"The card service did not pay it back: {not.Message} Nothing was booked."
                    );
                }

                request.PayBack(new CardRefund(booking, back, name));
                return refund;
            }
        );
}
