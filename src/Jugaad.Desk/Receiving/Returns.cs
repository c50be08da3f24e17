using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>What became of a receipt that the bank took back.</summary>
/// <param name="ChargeDraftId">The draft invoice over the charge; null where none is billed on.</param>
public sealed record Returned(int BookingId, int? ChargeDraftId);

/// <summary>Receipts that the bank took back: direct debits returned, cheques that bounced.</summary>
public sealed class Returns(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    AccountBook book,
    Drafts drafts,
    Settlements settlements
)
{
    /// <summary>
    /// From that day on the invoices are open again, as the money is gone; before it they were paid. All of a receipt
    /// goes back.
    /// </summary>
    /// <param name="charge">What it is billed on with, in units of the customer's currency; null for nothing.</param>
    /// <exception cref="RefusalException">When some of the money was paid back or moved already.</exception>
    public async Task<Returned> ReturnAsync(
        int receiptId,
        DateOnly date,
        string reason,
        decimal? charge = null,
        Once once = default
    )
    {
        int? draft = null;
        var booking = await writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var receipt =
                    await db.Receipts.SingleOrDefaultAsync(r => r.Id == receiptId, stop)
                    ?? throw new RefusalException("", "This receipt is not there.");
                var (refusals, today) = (new Refusals(), await head.TodayAsync(stop));
                MoneyPlaces.CheckDay(refusals, date, today);
                if (date < receipt.Date)
                    refusals.Add(
                        "date",
                        $"The receipt is of {receipt.Date:yyyy-MM-dd}; it cannot have gone back before. Choose that day or a later one."
                    );
                Texts.Required(refusals, "reason", reason, 200, "Say why the bank took it back.");
                if (charge <= 0)
                    refusals.Add("charge", "Give the charge above zero, or leave it empty.");
                if (receipt.IsUndone)
                    refusals.Add("", "This receipt was undone.");
                refusals.ThrowIfAny();
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
                var made = await book.BeginAsync(BookingKind.Returned, date, receipt.CustomerId, stop);
                foreach (var allocation in placed)
                    await book.EndAsync(made, allocation, made.Date, stop);
                await settlements.LoseEarlyAsync(made, placed, stop);
                var home = (await head.BusinessAsync(stop)).HomeCurrency;
                var back = book.PutMoney(
                    made,
                    AccountItemKind.Returned,
                    receipt.CustomerId,
                    receipt.Number,
                    receipt.Currency,
                    receipt.Amount,
                    receipt.Money.HomeWithCharge(home)
                );
                book.Post(made, PostingRules.ForReturn(receipt, made.Date, await book.AccountsAsync(stop), home));
                await writer.SaveAsync(stop);
                await book.TieAsync(made, back, item, receipt.Amount, "", stop);
                made.Say(
                    $"{receipt.Number} of {(await head.BusinessAsync(stop)).Format.WithCode(receipt.Amount, receipt.Currency)} returned by the bank: {reason.Trim()}"
                );
                await writer.TrailAsync(made.Words, receipt.CustomerId, null, receiptId);
                if (charge is { } price)
                    draft = await ChargeAsync(receipt, price, stop);
                return made.Id;
            }
        );
        return new Returned(booking, draft);
    }

    private async Task<int> ChargeAsync(Receipt receipt, decimal price, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        var content = new DraftContent
        {
            CustomerId = receipt.CustomerId,
            Currency = receipt.Currency.Code,
            Date = await head.TodayAsync(stop),
            Lines =
            [
                new DraftLine(
                    null,
                    $"Charge for the returned payment {receipt.Number} of {business.Format.Date(receipt.Date)}",
                    1,
                    "C62",
                    price,
                    null,
                    null,
                    business.DefaultTaxCodeId ?? 0,
                    business.DefaultLedgerAccountId ?? 0
                ),
            ],
        };
        return (
            await drafts.MakeAsync(
                DocumentKind.Invoice,
                content,
                null,
                $"Draft invoice over the charge for {receipt.Number}",
                stop
            )
        ).Id;
    }
}
