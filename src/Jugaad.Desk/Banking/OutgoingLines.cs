using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Banking;

/// <summary>A receipt that a line of money gone out may have taken back.</summary>
public sealed record MayBeReturned(int ReceiptId, string Number, DateOnly Date, string Customer);

/// <summary>Credit that a line of money gone out may have paid back.</summary>
public sealed record MayBeRefunded(int ItemId, string Number, string Customer, long Open);

/// <summary>
/// Places money that went out to customers: a payment that the bank took back, and credit that was paid back.
/// </summary>
public sealed class OutgoingLines(BooksContext db, BookWriter writer, Returns returns, Refunds refunds)
{
    private const int Most = 40;

    /// <summary>
    /// Receipts of this account with just this amount, newest first; those whose number or payer the line names come
    /// first.
    /// </summary>
    public async Task<IReadOnlyList<MayBeReturned>> ReceiptsAsync(BankLine line, CancellationToken stop = default)
    {
        var amount = -line.Left;
        var found = await (
            from receipt in db.Receipts
            join item in db.AccountItems on receipt.Id equals item.ReceiptId
            join customer in db.Customers on receipt.CustomerId equals customer.Id
            where
                receipt.MoneyAccountId == line.AccountId
                && !receipt.IsUndone
                && receipt.Money.Amount == amount
                && receipt.Date <= line.Date
                && !db.Allocations.Any(a => a.LoweringId == item.Id && a.Raising.Kind == AccountItemKind.Returned)
            orderby receipt.Date descending, receipt.Id descending
            select new
            {
                receipt.Id,
                receipt.Number,
                receipt.Date,
                customer.Name,
            }
        )
            .Take(Most)
            .ToListAsync(stop);
        return
        [
            .. found
                .OrderByDescending(r =>
                    line.Text.Contains(r.Number, StringComparison.OrdinalIgnoreCase)
                    || (line.Name.Length > 0 && r.Name.Contains(line.Name, StringComparison.OrdinalIgnoreCase))
                )
                .Select(r => new MayBeReturned(r.Id, r.Number, r.Date, r.Name)),
        ];
    }

    /// <summary>Credit of customers that is enough for the line.</summary>
    public async Task<IReadOnlyList<MayBeRefunded>> CreditsAsync(BankLine line, CancellationToken stop = default)
    {
        var amount = -line.Left;
        return await (
            from item in db.AccountItems
            join customer in db.Customers on item.CustomerId equals customer.Id
            where
                item.Sign < 0
                && item.Open >= amount
                && item.Currency == line.Currency
                && (
                    item.Kind == AccountItemKind.Receipt
                    || item.Kind == AccountItemKind.CreditNote
                    || item.Kind == AccountItemKind.MovedIn
                )
            orderby item.Open == amount descending, customer.Name
            select new MayBeRefunded(item.Id, item.Number, customer.Name, item.Open)
        )
            .Take(Most)
            .ToListAsync(stop);
    }

    /// <summary>The line is a payment that the bank took back: its invoices are open again from that day on.</summary>
    public Task<int> ReturnAsync(int lineId, int receiptId, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var line = await LineAsync(lineId, stop);
                var receipt =
                    await db.Receipts.SingleOrDefaultAsync(r => r.Id == receiptId, stop)
                    ?? throw new RefusalException("receipt", "Choose the receipt that was taken back.");
                var worth = receipt.Money.Amount;
                if (receipt.MoneyAccountId != line.AccountId)
                    throw new RefusalException("receipt", $"{receipt.Number} came into another account.");
                if (worth != -line.Left)
                    throw new RefusalException(
                        "receipt",
                        $"{receipt.Number} is of another amount. All of a receipt goes back; what the bank took beside it is placed by itself."
                    );
                var made = await returns.ReturnAsync(receiptId, line.Date, reason, null, stop);
                line.Place(-worth, made.BookingId, null, $"{receipt.Number} returned");
                return lineId;
            }
        );

    /// <summary>The line paid a customer back from their credit.</summary>
    public Task<int> RefundAsync(int lineId, int creditId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var line = await LineAsync(lineId, stop);
                if (
                    !await db.AccountItems.AnyAsync(
                        i => i.Id == creditId && i.Sign < 0 && i.Currency == line.Currency,
                        stop
                    )
                )
                    throw new RefusalException("credit", "Choose the credit that was paid back.");
                var id = await refunds.PayAsync(
                    new RefundToPay(
                        creditId,
                        -line.Left,
                        line.AccountId,
                        line.Date,
                        new Payee(line.Name.Length > 0 ? line.Name : "not said", line.Account),
                        line.Text.Length > 140 ? line.Text[..140] : line.Text
                    ),
                    stop
                );
                var refund = await db
                    .Refunds.Where(r => r.Id == id)
                    .Select(r => new { r.Number, r.BookingId })
                    .SingleAsync(stop);
                line.Place(line.Left, refund.BookingId, null, refund.Number);
                return lineId;
            }
        );

    private async Task<BankLine> LineAsync(int id, CancellationToken stop)
    {
        var line =
            await db.BankLines.Include(l => l.Placements).SingleOrDefaultAsync(l => l.Id == id, stop)
            ?? throw new RefusalException("", "This bank line is not there.");
        return line.Left < 0
            ? line
            : throw new RefusalException("", "Only money that went out is a payment taken back, or paid back.");
    }
}
