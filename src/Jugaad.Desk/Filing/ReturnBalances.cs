using Jugaad.Core;
using Jugaad.Core.Returns;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>What was paid of a return.</summary>
/// <param name="Amount">Minor units of the home currency; below zero for what came back from the authority.</param>
public sealed record ReturnPaid(int ReturnId, int BookingId, DateOnly Date, long Amount, string From, bool AtBank)
{
    /// <summary>What of it goes beyond what was left then.</summary>
    public long Over { get; init; }
}

/// <summary>What one return left over that was set against another.</summary>
/// <param name="Amount">Minor units of the home currency.</param>
public sealed record ReturnCarried(int Id, TaxReturn From, TaxReturn To, long Amount, DateOnly On);

/// <summary>Reads what became of what filed returns ask for.</summary>
public sealed class ReturnBalances(BooksContext db)
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
            {
                Over = payment.Over,
            }
        ).ToListAsync(stop);

    /// <summary>What authorities charged besides, in the order of its days; what was taken back is left out.</summary>
    public async Task<IReadOnlyList<TaxCharge>> ChargesAsync(
        IReadOnlyCollection<int> returns,
        CancellationToken stop = default
    ) =>
        await db
            .TaxCharges.AsNoTracking()
            .Where(c => returns.Contains(c.ReturnId) && c.UndoneOn == null)
            .OrderBy(c => c.Date)
            .ThenBy(c => c.Id)
            .ToListAsync(stop);

    /// <summary>What was carried on from a return, or to it.</summary>
    public async Task<IReadOnlyList<ReturnCarried>> CarriedAsync(int returnId, CancellationToken stop = default) =>
        await (
            from carry in db.TaxCarries
            where carry.FromReturnId == returnId || carry.ToReturnId == returnId
            join fromReturn in db.TaxReturns on carry.FromReturnId equals fromReturn.Id
            join toReturn in db.TaxReturns on carry.ToReturnId equals toReturn.Id
            orderby carry.Id
            select new ReturnCarried(carry.Id, fromReturn, toReturn, carry.Amount, carry.On)
        )
            .AsNoTracking()
            .ToListAsync(stop);

    /// <summary>What became of what returns ask for, by return.</summary>
    public async Task<IReadOnlyDictionary<int, ReturnBalance>> BalancesAsync(
        IReadOnlyCollection<int> returns,
        CancellationToken stop = default
    )
    {
        var owed = await db
            .TaxReturns.Where(r => returns.Contains(r.Id))
            .ToDictionaryAsync(r => r.Id, r => r.Owed, stop);
        var paid = (await OfAsync(returns, stop)).ToLookup(p => p.ReturnId);
        var charged = (await ChargesAsync(returns, stop)).ToLookup(c => c.ReturnId);
        var carried = await db
            .TaxCarries.AsNoTracking()
            .Where(c => returns.Contains(c.FromReturnId) || returns.Contains(c.ToReturnId))
            .ToListAsync(stop);
        return owed.ToDictionary(
            o => o.Key,
            o => new ReturnBalance(
                o.Value,
                charged[o.Key].Sum(c => c.Amount),
                paid[o.Key].Sum(p => p.Amount),
                paid[o.Key].Sum(p => p.Over),
                carried.Where(c => c.ToReturnId == o.Key).Sum(c => c.Amount),
                carried.Where(c => c.FromReturnId == o.Key).Sum(c => c.Amount)
            )
        );
    }

    /// <exception cref="RefusalException">When it is not filed any more.</exception>
    internal async Task<(TaxReturn Filed, ReturnBalance Balance)> FindAsync(int id, CancellationToken stop) =>
        (
            await db.TaxReturns.AsNoTracking().SingleOrDefaultAsync(r => r.Id == id, stop)
                ?? throw new RefusalException("", "This return is not filed any more."),
            (await BalancesAsync([id], stop)).GetValueOrDefault(id)!
        );

    /// <summary>Which return it is, for the trail and the bank.</summary>
    internal static string What(TaxReturn filed) =>
        $"{filed.Title} to {filed.Authority}, {filed.From:yyyy-MM-dd} to {filed.To:yyyy-MM-dd}";

    /// <summary>The ledger account of what is owed to the return's authority.</summary>
    internal Task<int> OwedAsync(TaxReturn filed, CancellationToken stop) =>
        db.TaxAuthorities.Where(a => a.Id == filed.AuthorityId).Select(a => a.OwedAccountId!.Value).SingleAsync(stop);
}
