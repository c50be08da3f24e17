using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Returns;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>Sets what one return left over against what another asks for.</summary>
public sealed class ReturnCarrying(BooksContext db, BookWriter writer, BooksHead head, ReturnBalances balances)
{
    /// <summary>Sets what a return left over against what others to the same authority ask for, the oldest first.</summary>
    /// <returns>How many returns it was set against.</returns>
    /// <exception cref="RefusalException">When nothing is left over, or nothing else is to be paid.</exception>
    public Task<int> CarryAsync(int returnId, Once once = default) =>
        writer.WriteAsync(Right.Money, once, stop => CarryWithinAsync(returnId, stop));

    /// <summary>The same, within a write that is under way.</summary>
    internal async Task<int> CarryWithinAsync(int returnId, CancellationToken stop)
    {
        var (filed, balance) = await balances.FindAsync(returnId, stop);
        if (balance.Left >= 0)
            throw new RefusalException("", "Nothing is left over of this return.");
        var others = await db
            .TaxReturns.AsNoTracking()
            .Where(r => r.AuthorityId == filed.AuthorityId && r.Id != returnId)
            .OrderBy(r => r.From)
            .ThenBy(r => r.Amendment)
            .ToListAsync(stop);
        var lefts = await balances.BalancesAsync(others.ConvertAll(o => o.Id), stop);
        var parts = ReturnBalance
            .Spread(-balance.Left, others.Where(o => lefts[o.Id].Left > 0).Select(o => (o.Id, lefts[o.Id].Left)))
            .ToList();
        if (parts.Count == 0)
            throw new RefusalException(
                "",
                $"Nothing else is to be paid to {filed.Authority}. It waits here until the next return is filed."
            );
        var today = await head.TodayAsync(stop);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        foreach (var (to, amount) in parts)
        {
            db.TaxCarries.Add(new TaxCarry(returnId, to, amount, today));
            await writer.TrailAsync(
                $"{ReturnBalances.What(filed)}: {new Money(amount, home)} left over of it set against {ReturnBalances.What(others.Single(o => o.Id == to))}"
            );
        }

        await writer.SaveAsync(stop);
        return parts.Count;
    }

    /// <summary>Takes apart what was carried on.</summary>
    public Task<int> UncarryAsync(int carryId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var carry =
                    await db.TaxCarries.FindAsync([carryId], stop)
                    ?? throw new RefusalException("", "This was taken apart already.");
                var (filed, _) = await balances.FindAsync(carry.FromReturnId, stop);
                var home = (await head.BusinessAsync(stop)).HomeCurrency;
                db.TaxCarries.Remove(carry);
                await writer.TrailAsync(
                    $"{ReturnBalances.What(filed)}: {new Money(carry.Amount, home)} left over of it is not set against another any more"
                );
                return carryId;
            }
        );

    /// <summary>What was paid too much of returns goes against what is left of others, within a write.</summary>
    internal async Task CarryOverpaidAsync(int authorityId, CancellationToken stop)
    {
        var all = await db
            .TaxReturns.Where(r => r.AuthorityId == authorityId)
            .OrderBy(r => r.From)
            .ThenBy(r => r.Amendment)
            .Select(r => r.Id)
            .ToListAsync(stop);
        foreach (var id in all)
        {
            var now = await balances.BalancesAsync(all, stop);
            if (now[id].IsOverpaid && now.Values.Any(b => b.Left > 0))
                await CarryWithinAsync(id, stop);
        }
    }
}
