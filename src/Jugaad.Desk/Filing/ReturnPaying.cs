using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>What was paid of a return.</summary>
/// <param name="Amount">Minor units of the home currency; below zero for what came back from the authority.</param>
public sealed record ReturnPaid(int ReturnId, int BookingId, DateOnly Date, long Amount, string From, bool AtBank);

/// <summary>A payment of a return, as it is typed.</summary>
/// <param name="Amount">Minor units of the home currency, above zero.</param>
public sealed record ReturnToPay(int ReturnId, DateOnly Date, int MoneyAccountId, long Amount);

/// <summary>Pays what filed returns tell, at once or in parts, and tells what is left of each.</summary>
public sealed class ReturnPaying(BooksContext db, BookWriter writer, BooksHead head, OtherMoneyDesk money)
{
    /// <summary>What was paid of returns, in the order of its days; what was undone is left out.</summary>
    public async Task<IReadOnlyList<ReturnPaid>> OfAsync(
        IReadOnlyCollection<int> returns,
        CancellationToken stop = default
    ) =>
        await (
            from payment in db.Set<TaxPayment>()
            where returns.Contains(payment.ReturnId)
            join moved in db.OtherMoney on payment.OtherMoneyId equals moved.Id
            where moved.Booking!.UndoneOn == null
            join account in db.LedgerAccounts on moved.MoneyAccountId equals account.Id
            orderby moved.Date, moved.Id
            select new ReturnPaid(
                payment.ReturnId,
                moved.BookingId,
                moved.Date,
                -moved.Amount,
                account.Name,
                db.Set<Core.Banking.LinePlacement>().Any(p => p.JoinedBookingId == moved.BookingId)
            )
        ).ToListAsync(stop);

    /// <summary>Pays a return, or a part of it; where it came back, notes what came.</summary>
    /// <returns>The booking's id.</returns>
    /// <exception cref="RefusalException">When it is more than is left of it.</exception>
    public Task<int> PayAsync(ReturnToPay pay, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var filed =
                    await db.TaxReturns.AsNoTracking().SingleOrDefaultAsync(r => r.Id == pay.ReturnId, stop)
                    ?? throw new RefusalException("", "This return is not filed any more.");
                var left = filed.Owed - (await OfAsync([filed.Id], stop)).Sum(p => p.Amount);
                var business = await head.BusinessAsync(stop);
                var refusals = new Refusals();
                if (pay.Amount <= 0)
                    refusals.Add("amount", "Give the amount, above zero.");
                else if (pay.Amount > Math.Abs(left))
                    refusals.Add(
                        "amount",
                        $"{new Money(Math.Abs(left), business.HomeCurrency)} is left of this return. Give at most that."
                    );
                refusals.ThrowIfAny();
                var owed = await db
                    .TaxAuthorities.Where(a => a.Id == filed.AuthorityId)
                    .Select(a => a.OwedAccountId)
                    .SingleAsync(stop);
                var booking = await money.PostAsync(
                    new OtherMoneyToPost(
                        pay.Date,
                        pay.MoneyAccountId,
                        owed!.Value,
                        left > 0 ? -pay.Amount : pay.Amount,
                        null,
                        $"{filed.Title} to {filed.Authority}, {filed.From:yyyy-MM-dd} to {filed.To:yyyy-MM-dd}"
                    ),
                    toAuthority: true,
                    stop
                );
                await writer.SaveAsync(stop);
                db.Add(
                    new TaxPayment(
                        filed.Id,
                        await db.OtherMoney.Where(m => m.BookingId == booking).Select(m => m.Id).SingleAsync(stop)
                    )
                );
                return booking;
            }
        );
}
