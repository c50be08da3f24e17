using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Returns;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>A payment of a return, as it is typed.</summary>
/// <param name="Amount">Minor units of the home currency, above zero.</param>
/// <param name="MayBeOver">Whether more may be paid than is left; that is carried on.</param>
public sealed record ReturnToPay(int ReturnId, DateOnly Date, int MoneyAccountId, long Amount, bool MayBeOver = false);

/// <summary>Pays what filed returns tell, at once or in parts.</summary>
public sealed class ReturnPaying(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    ReturnBalances balances,
    OtherMoneyDesk money
) : IPayTaxes
{
    /// <inheritdoc/>
    public async Task<IReadOnlyList<TaxToPay>> LeftAsync(CancellationToken stop)
    {
        var filed = await db.TaxReturns.AsNoTracking().OrderBy(r => r.From).ThenBy(r => r.Amendment).ToListAsync(stop);
        if (filed.Count == 0)
            return [];
        var left = await balances.BalancesAsync(filed.ConvertAll(r => r.Id), stop);
        var authorities = await db.TaxAuthorities.AsNoTracking().ToDictionaryAsync(a => a.Id, stop);
        return
        [
            .. filed
                .Where(r => left[r.Id].Left != 0)
                .Select(r => new TaxToPay(
                    r.Id,
                    ReturnBalances.What(r),
                    [r.Reference, authorities[r.AuthorityId].OurNumber, r.Authority],
                    left[r.Id].Left
                )),
        ];
    }

    /// <inheritdoc/>
    public Task<int> PaidAsync(int returnId, DateOnly date, int moneyAccountId, long amount, CancellationToken stop) =>
        PayAsync(new ReturnToPay(returnId, date, moneyAccountId, amount), stop);

    /// <summary>Pays a return, or a part of it; where it came back, notes what came.</summary>
    /// <returns>The booking's id.</returns>
    /// <exception cref="RefusalException">When it is more than is left of it.</exception>
    public Task<int> PayAsync(ReturnToPay pay, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var (filed, balance) = await balances.FindAsync(pay.ReturnId, stop);
                var left = balance.Left;
                var business = await head.BusinessAsync(stop);
                var over = pay.MayBeOver && left > 0 ? Math.Max(0, pay.Amount - left) : 0;
                var refusals = new Refusals();
                if (pay.Amount <= 0)
                    refusals.Add("amount", "Give the amount, above zero.");
                else if (pay.Amount - over > Math.Abs(left))
                    refusals.Add(
                        "amount",
                        $"{new Money(Math.Abs(left), business.HomeCurrency)} is left of this return. Give at most that{(left > 0 ? ", or tick that more was paid" : "")}."
                    );
                refusals.ThrowIfAny();
                var booking = await money.PostAsync(
                    new OtherMoneyToPost(
                        pay.Date,
                        pay.MoneyAccountId,
                        await balances.OwedAsync(filed, stop),
                        left > 0 ? -pay.Amount : pay.Amount,
                        null,
                        ReturnBalances.What(filed)
                    ),
                    toAuthority: true,
                    stop
                );
                await writer.SaveAsync(stop);
                db.Add(
                    new TaxPayment(
                        filed.Id,
                        await db.OtherMoney.Where(m => m.BookingId == booking).Select(m => m.Id).SingleAsync(stop),
                        over
                    )
                );
                return booking;
            }
        );
}
