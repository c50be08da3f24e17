using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>Agrees plans with customers, and ends them.</summary>
public sealed class Plans(BooksContext db, BookWriter writer, BooksHead head, OwedBook owed)
{
    /// <summary>Divides what is open of some items into dated parts.</summary>
    /// <param name="parts">They add up to what is open of the items.</param>
    /// <exception cref="RefusalException">With all that is wrong; also where something is in dispute, promised or in
    /// another plan already.</exception>
    public Task<int> AgreeAsync(
        int customerId,
        IReadOnlyCollection<int> itemIds,
        IReadOnlyList<PlanPart> parts,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var customer =
                    await db.Customers.SingleOrDefaultAsync(c => c.Id == customerId && c.MergedIntoId == null, stop)
                    ?? throw new RefusalException("", "This customer is not there.");
                var today = await head.TodayAsync(stop);
                var owes = (await owed.OnAsync(today, customerId, stop))[0];
                var items = owes.Items.Where(i => itemIds.Contains(i.ItemId)).ToList();
                if (items.Count != itemIds.Distinct().Count())
                    throw new RefusalException(
                        "items",
                        "Something that is chosen is not open any more. Load the page again."
                    );
                if (items.Select(i => i.Currency).Distinct().Count() > 1)
                    throw new RefusalException("items", "Choose items of one currency.");
                if (items.Find(i => owes.Askable(i.ItemId) != i.Open) is { } held)
                    throw new RefusalException(
                        "items",
                        $"{held.Number} is in dispute, promised or in a plan already. End that first, or leave it out."
                    );
                var plan = new AgreedPlan(
                    customerId,
                    items.Count > 0 ? items[0].Currency : customer.Currency,
                    new PaymentPlan(today, parts),
                    itemIds,
                    items.Sum(i => i.Open),
                    await db.Allocations.IgnoreQueryFilters().MaxAsync(a => (int?)a.Id, stop) ?? 0,
                    writer.Who
                );
                db.Plans.Add(plan);
                await writer.TrailAsync(
                    $"Plan agreed with {customer.Name}: {new Money(plan.Amount, plan.Currency)} {plan.Currency} in {parts.Count} parts",
                    customerId
                );
                await writer.SaveAsync(stop);
                return plan.Id;
            }
        );

    /// <summary>Ends a plan: the original due days hold again.</summary>
    /// <exception cref="RefusalException">When it is not there, or has ended.</exception>
    public Task<int> EndAsync(int planId, Once once = default) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var plan =
                    await db.Plans.SingleOrDefaultAsync(p => p.Id == planId, stop)
                    ?? throw new RefusalException("", "This plan is not there.");
                plan.End(await head.TodayAsync(stop));
                await writer.TrailAsync($"Plan of {plan.Made} ended; the due days hold again", plan.CustomerId);
                return planId;
            }
        );
}
