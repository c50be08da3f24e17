using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A promise in the list of all.</summary>
public sealed record PromiseRow(int CustomerId, string Customer, PromiseThen Promise);

/// <summary>A plan in the list of all.</summary>
public sealed record PlanRow(int CustomerId, string Customer, PlanThen Plan);

/// <summary>A dispute in the list of all.</summary>
/// <param name="Age">Days since it was raised; up to its end where it has ended.</param>
/// <param name="Open">What of the item is open now, in minor units.</param>
public sealed record DisputeRow(
    Dispute Dispute,
    string Customer,
    string Number,
    int? DocumentId,
    Currency Currency,
    long Open,
    string SeesTo,
    int Age
);

/// <summary>All that was promised, agreed and not agreed to.</summary>
public sealed record SaidByAll(
    IReadOnlyList<PromiseRow> Promises,
    IReadOnlyList<PlanRow> Plans,
    IReadOnlyList<DisputeRow> Disputes
);

/// <summary>Reads what customers said about what they owe.</summary>
public sealed class SaidScreens(BooksContext db, BooksHead head, OwedBook owed)
{
    /// <summary>For how long something that is over stays in the lists.</summary>
    private const int DaysShown = 90;

    private const int DaysOfNews = 30;

    public async Task<SaidByAll> ReadAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var since = today.AddDays(-DaysShown);
        // Also of those who owe nothing any more: they kept what they said.
        var customers = await db
            .Promises.Where(p => p.Until >= since)
            .Select(p => p.CustomerId)
            .Union(db.Plans.Where(p => p.EndedOn == null).Select(p => p.CustomerId))
            .ToListAsync(stop);
        var owes = await owed.OfAsync(today, customers, stop);
        var names = await db
            .Customers.Where(c => customers.Contains(c.Id))
            .ToDictionaryAsync(c => c.Id, c => c.Name, stop);
        var disputes = await (
            from dispute in db.Disputes.AsNoTracking()
            join item in db.AccountItems on dispute.ItemId equals item.Id
            join customer in db.Customers on dispute.CustomerId equals customer.Id
            where (dispute.Until == null || dispute.Until >= since) && dispute.Outcome != DisputeOutcome.Mistake
            orderby dispute.Until != null, dispute.From, dispute.Id
            select new
            {
                dispute,
                customer.Name,
                item.Number,
                item.DocumentId,
                item.Currency,
                item.Open,
                SeesTo = db.Users.Where(u => u.Id == dispute.SeesToId).Select(u => u.FullName).FirstOrDefault(),
            }
        ).ToListAsync(stop);
        return new SaidByAll(
            [
                .. owes.SelectMany(o => o.Promises.Select(p => new PromiseRow(o.CustomerId, names[o.CustomerId], p)))
                    .Where(p => p.Promise.Promise.Until >= since)
                    .OrderBy(p => !p.Promise.Judged.Holds)
                    .ThenBy(p =>
                        p.Promise.Judged.Holds ? p.Promise.Promise.Until.DayNumber : -p.Promise.Promise.Until.DayNumber
                    )
                    .ThenBy(p => p.Promise.Promise.Id),
            ],
            [
                .. owes.SelectMany(o => o.Plans.Select(p => new PlanRow(o.CustomerId, names[o.CustomerId], p)))
                    .Where(p => !p.Plan.Stands.IsPaid || p.Plan.Stands.Parts[^1].PaidOn >= since)
                    .OrderBy(p => p.Plan.Stands.IsPaid)
                    .ThenBy(p => p.Plan.Stands.Next?.Day)
                    .ThenBy(p => p.Plan.Plan.Id),
            ],
            [
                .. disputes.Select(d => new DisputeRow(
                    d.dispute,
                    d.Name,
                    d.Number,
                    d.DocumentId,
                    d.Currency,
                    d.Open,
                    d.SeesTo ?? "",
                    (d.dispute.Until ?? today).DayNumber - d.dispute.From.DayNumber
                )),
            ]
        );
    }

    /// <summary>
    /// What the morning has to tell: promises that were not kept, until somebody spoke to the customer again, and those
    /// that were kept since yesterday.
    /// </summary>
    public async Task<IReadOnlyList<PromiseRow>> NewsAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var since = today.AddDays(-DaysOfNews);
        var customers = await db
            .Promises.Where(p => p.EndedOn == null && p.Until >= since)
            .Select(p => p.CustomerId)
            .Distinct()
            .ToListAsync(stop);
        var names = await db
            .Customers.Where(c => customers.Contains(c.Id))
            .ToDictionaryAsync(c => c.Id, c => c.Name, stop);
        var spoken = (
            await db
                .ContactNotes.Where(n => !n.TakenBack && customers.Contains(n.CustomerId))
                .GroupBy(n => n.CustomerId)
                .Select(g => new { g.Key, Day = g.Max(n => n.Day) })
                .ToListAsync(stop)
        ).ToDictionary(g => g.Key, g => g.Day);
        if (customers.Count == 0)
            return [];
        var news = new List<PromiseRow>();
        var before = (await owed.OfAsync(today.AddDays(-1), customers, stop))
            .SelectMany(o => o.Promises)
            .ToDictionary(p => p.Promise.Id, p => p.Judged.State);
        foreach (var owes in await owed.OfAsync(today, customers, stop))
        {
            var customer = owes.CustomerId;
            foreach (var promise in owes.Promises)
            {
                var keptNow =
                    promise.Judged.State == PromiseState.Kept
                    && before.GetValueOrDefault(promise.Promise.Id) != PromiseState.Kept;
                var broke =
                    promise.Judged.IsBroken
                    && promise.Promise.Until >= since
                    && promise.Promise.Until >= spoken.GetValueOrDefault(customer);
                if (keptNow || broke)
                    news.Add(new PromiseRow(customer, names[customer], promise));
            }
        }

        return [.. news.OrderByDescending(n => n.Promise.Judged.Missing).ThenBy(n => n.Promise.Promise.Id)];
    }
}
