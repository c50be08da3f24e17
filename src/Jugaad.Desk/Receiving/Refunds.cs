using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>A refund as it was typed.</summary>
/// <param name="CreditId">The receipt or credit note that it is paid from.</param>
/// <param name="Amount">Minor units; null for all that is left of it.</param>
/// <param name="Payee">Where it goes by bank; null where it is paid in cash, or goes back to the card that
/// paid.</param>
public sealed record RefundToPay(
    int CreditId,
    long? Amount,
    int MoneyAccountId,
    DateOnly Date,
    Payee? Payee,
    string Reference,
    string? FormKey = null
)
{
    /// <summary>
    /// What left the account, in minor units of its currency; null where that is not known, for what is paid back at the
    /// rate of the day.
    /// </summary>
    public long? Left { get; init; }

    /// <summary>What the bank took of that, in minor units of the account's currency.</summary>
    public long Charge { get; init; }
}

/// <summary>Pays customers back from their credit.</summary>
public sealed class Refunds(BooksContext db, BookWriter writer, BooksHead head, MoneySides sides, AccountBook book)
{
    /// <returns>The refund's id.</returns>
    /// <exception cref="RefusalException">When there is less credit than that, or it cannot go there.</exception>
    public Task<int> PayAsync(RefundToPay typed, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Money,
            new Once(typed.FormKey, stop),
            async () =>
            {
                var credit = await book.ItemAsync(typed.CreditId, "", stop);
                var business = await head.BusinessAsync(stop);
                var amount = typed.Amount ?? credit.Open;
                var refusals = new Refusals();
                if (credit.Raises)
                    refusals.Add(
                        "",
                        $"{credit.Number} is no credit. Choose a receipt or a credit note with something left."
                    );
                else if (credit.Open == 0)
                    refusals.Add("", $"Nothing is left of {credit.Number} to pay back.");
                else if (amount > credit.Open)
                    refusals.Add(
                        "amount",
                        $"{new Money(amount, credit.Currency)} is more than the {new Money(credit.Open, credit.Currency)} that is left of {credit.Number}. Give at most that."
                    );
                MoneyPlaces.CheckDay(refusals, typed.Date, await head.TodayAsync(stop));
                await db.CheckAsync(refusals, typed.MoneyAccountId, "moneyAccountId", stop);
                var kind = await db
                    .LedgerAccounts.Where(a => a.Id == typed.MoneyAccountId)
                    .Select(a => a.Kind)
                    .SingleOrDefaultAsync(stop);
                if (typed.Payee is null && kind == MoneyKind.Bank)
                    refusals.Add("iban", "Give the account that the money goes to, or pay it from a cash box.");
                if (typed.Payee is not null && kind == MoneyKind.Cash)
                    refusals.Add(
                        "moneyAccountId",
                        "A cash box pays into the hand. Choose the bank account, or leave the customer's account empty."
                    );
                refusals.ThrowIfAny();
                var money = await sides.WentAsync(
                    typed.MoneyAccountId,
                    credit.Currency,
                    amount,
                    typed.Left,
                    typed.Charge,
                    typed.Date,
                    stop
                );
                var booking = await book.BeginAsync(BookingKind.Refund, typed.Date, credit.CustomerId, stop);
                var (seriesId, number) = await book.NumberAsync("Refund", booking.Date, stop);
                var refund = new Refund(
                    seriesId,
                    number,
                    credit.CustomerId,
                    booking.Date,
                    typed.MoneyAccountId,
                    credit.Currency,
                    amount,
                    money,
                    typed.Payee,
                    typed.Reference,
                    booking
                );
                db.Refunds.Add(refund);
                var item = book.PutMoney(
                    booking,
                    AccountItemKind.Refund,
                    credit.CustomerId,
                    number,
                    credit.Currency,
                    amount,
                    money.HomeLessCharge(business.HomeCurrency)
                );
                book.Post(
                    booking,
                    PostingRules.ForRefund(refund, await book.AccountsAsync(stop), business.HomeCurrency)
                );
                await writer.SaveAsync(stop);
                await book.TieAsync(booking, item, credit, amount, "amount", stop);
                booking.Say(
                    $"{business.Format.WithCode(amount, credit.Currency)} paid back from {credit.Number} as {number}{(refund.ByBank ? $", to {refund.PayeeName}" : kind == MoneyKind.Cash ? " in cash" : " to the card")}"
                );
                await writer.TrailAsync(booking.Words, credit.CustomerId, credit.DocumentId, credit.ReceiptId);
                return refund.Id;
            }
        );
}
