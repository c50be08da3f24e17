using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>What becomes of disputes.</summary>
public sealed class Disputes(BooksContext db, BookWriter writer, BooksHead head)
{
    /// <summary>Ends a dispute: what was in it can be asked for again, as far as it is open.</summary>
    /// <exception cref="RefusalException">When it is not there or has ended, or nothing is said of how.</exception>
    public Task<int> EndAsync(int disputeId, DisputeOutcome outcome, string found, Once once = default) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var dispute = await FindAsync(disputeId, stop);
                dispute.End(await head.TodayAsync(stop), outcome, found);
                var number = await db
                    .AccountItems.Where(i => i.Id == dispute.ItemId)
                    .Select(i => i.Number)
                    .SingleAsync(stop);
                await writer.TrailAsync($"Dispute about {number} ended: {outcome.Words()}", dispute.CustomerId);
                return disputeId;
            }
        );

    /// <summary>Ends disputes about what was credited since they began.</summary>
    /// <returns>How many.</returns>
    public Task<int> EndCreditedAsync(CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Collect,
            stop,
            async () =>
            {
                var credited = await (
                    from dispute in db.Disputes
                    where dispute.Until == null
                    select new
                    {
                        dispute,
                        Credited = db
                            .Allocations.Where(a =>
                                a.RaisingId == dispute.ItemId
                                && a.Lowering.Kind == AccountItemKind.CreditNote
                                && a.Date >= dispute.From
                            )
                            .Sum(a => a.Amount),
                        Number = db.AccountItems.Where(i => i.Id == dispute.ItemId).Select(i => i.Number).Single(),
                    }
                ).ToListAsync(stop);
                var ended = credited.Where(c => c.Credited >= c.dispute.Amount).ToList();
                foreach (var (dispute, number) in ended.Select(c => (c.dispute, c.Number)))
                {
                    dispute.End(await head.TodayAsync(stop), DisputeOutcome.Granted, "");
                    await writer.TrailAsync(
                        $"Dispute about {number} ended by itself: {DisputeOutcome.Granted.Words()}",
                        dispute.CustomerId
                    );
                }

                return ended.Count;
            }
        );

    /// <summary>Says who sees to a dispute.</summary>
    /// <exception cref="RefusalException">When it or the person is not there.</exception>
    public Task<int> HandToAsync(int disputeId, int? personId, Once once = default) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var dispute = await FindAsync(disputeId, stop);
                if (personId is { } id && !await db.Users.AnyAsync(u => u.Id == id, stop))
                    throw new RefusalException("seesTo", "There is nobody of that name here. Choose somebody else.");
                dispute.HandTo(personId);
                return disputeId;
            }
        );

    private async Task<Dispute> FindAsync(int id, CancellationToken stop) =>
        await db.Disputes.SingleOrDefaultAsync(d => d.Id == id, stop)
        ?? throw new RefusalException("", "This dispute is not there.");
}
