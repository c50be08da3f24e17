using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>A promise, and what it had come to on the day.</summary>
public sealed record PromiseThen(CustomerPromise Promise, PromiseJudgement Judged);

/// <summary>A plan, and how it stood on the day.</summary>
public sealed record PlanThen(AgreedPlan Plan, PlanNow Stands);

/// <summary>What a customer owed on a day, and how it stood.</summary>
/// <param name="Items">What raises the balance and was open, the earliest due first.</param>
/// <param name="Credits">Money and credit that was not placed.</param>
/// <param name="Portions">They add up to what was open of the items.</param>
/// <param name="Promises">All that were there, the newest first.</param>
/// <param name="Plans">All that were there, the newest first.</param>
/// <param name="Disputes">Those that held.</param>
public sealed record CustomerOwes(
    int CustomerId,
    IReadOnlyList<OpenOnDay> Items,
    IReadOnlyList<OpenOnDay> Credits,
    IReadOnlyList<Portion> Portions,
    IReadOnlyList<PromiseThen> Promises,
    IReadOnlyList<PlanThen> Plans,
    IReadOnlyList<Dispute> Disputes
)
{
    /// <summary>What of an item can be asked for, in minor units of its currency.</summary>
    public long Askable(int itemId) =>
        Portions.Where(p => p.Item == itemId && p.Kind == PortionKind.Free).Sum(p => p.Amount);
}

/// <summary>
/// Reads what customers owe on any day and how it stands: promised, planned, in dispute, or to be asked for. Of a past
/// day it tells what held then.
/// </summary>
public sealed class OwedBook(BooksContext db, OpenItems openItems, CollectingRules rules)
{
    /// <summary>An allocation, as promises and plans look at it.</summary>
    private sealed record Set(int Id, int ItemId, DateOnly Day, DateOnly? Until, long Amount, bool IsMoney)
    {
        internal bool CountsOn(DateOnly day) => Day <= day && (Until is null || day < Until);
    }

    /// <summary>What promises and plans of some customers are judged by.</summary>
    private sealed record History(
        ILookup<int, (int Id, DateOnly Date, long Amount, Currency Currency)> ItemsOf,
        ILookup<int, Set> SetsOf
    );

    /// <param name="day">At its end.</param>
    /// <param name="customerId">Of one customer only.</param>
    /// <returns>Customers of whom something was open, and the one that was asked for in any case.</returns>
    public async Task<IReadOnlyList<CustomerOwes>> OnAsync(
        DateOnly day,
        int? customerId = null,
        CancellationToken stop = default
    )
    {
        var open = (await openItems.OnAsync(day, customerId, stop)).ToLookup(i => i.CustomerId);
        return await ReadAsync(day, open, customerId is { } one ? [one] : [.. open.Select(o => o.Key)], stop);
    }

    /// <summary>What some customers owed, also those of whom nothing was open.</summary>
    public async Task<IReadOnlyList<CustomerOwes>> OfAsync(
        DateOnly day,
        IReadOnlyCollection<int> customers,
        CancellationToken stop = default
    ) =>
        await ReadAsync(
            day,
            (await openItems.OfAsync(day, customers, stop)).ToLookup(i => i.CustomerId),
            customers,
            stop
        );

    private async Task<IReadOnlyList<CustomerOwes>> ReadAsync(
        DateOnly day,
        ILookup<int, OpenOnDay> open,
        IReadOnlyCollection<int> customers,
        CancellationToken stop
    )
    {
        var settings = await rules.ReadAsync(stop);
        var only = customers.Count == 1 ? customers.First() : (int?)null;
        var promises = (
            await db
                .Promises.AsNoTracking()
                .Include(p => p.Items)
                .Where(p =>
                    p.Made <= day && (p.EndedOn == null || p.EndedOn > day) && (only == null || p.CustomerId == only)
                )
                .OrderByDescending(p => p.Id)
                .ToListAsync(stop)
        ).ToLookup(p => p.CustomerId);
        var plans = (
            await db
                .Plans.AsNoTracking()
                .Include(p => p.Items)
                .Include(p => p.Parts)
                .Where(p =>
                    p.Made <= day && (p.EndedOn == null || p.EndedOn > day) && (only == null || p.CustomerId == only)
                )
                .OrderByDescending(p => p.Id)
                .ToListAsync(stop)
        ).ToLookup(p => p.CustomerId);
        var disputes = (
            await db
                .Disputes.AsNoTracking()
                .Where(d =>
                    d.From <= day && (d.Until == null || d.Until > day) && (only == null || d.CustomerId == only)
                )
                .OrderBy(d => d.Id)
                .ToListAsync(stop)
        ).ToLookup(d => d.CustomerId);
        var history = await HistoryAsync([.. customers.Where(c => promises.Contains(c) || plans.Contains(c))], stop);
        return
        [
            .. customers.Select(c => Owes(c, day, settings, history, open[c], promises[c], plans[c], [.. disputes[c]])),
        ];
    }

    private static CustomerOwes Owes(
        int customer,
        DateOnly day,
        CollectingSettings settings,
        History history,
        IEnumerable<OpenOnDay> open,
        IEnumerable<CustomerPromise> promised,
        IEnumerable<AgreedPlan> planned,
        IReadOnlyList<Dispute> disputes
    )
    {
        var items = open.Where(i => i.Sign > 0).OrderBy(i => i.Due).ThenBy(i => i.ItemId).ToList();
        var credits = open.Where(i => i.Sign < 0).OrderBy(i => i.Date).ThenBy(i => i.ItemId).ToList();
        var promises = promised.Select(p => Judge(p, day, settings, history, credits)).ToList();
        var plans = planned.Select(p => new PlanThen(p, Stand(p, day, settings, history))).ToList();
        var portions = Portions.Of(
            items.Select(i => new OwedItem(i.ItemId, i.Due, i.Open)),
            disputes.Select(d => new DisputedNow(d.ItemId, d.Amount)),
            plans.Where(p => p.Stands.IsKept).Select(p => new PlannedNow(Ids(p.Plan), p.Stands.Parts)),
            promises
                .Where(p => p.Judged.Holds)
                .Select(p => new PromisedNow(Promised(p.Promise, items), p.Promise.Until, p.Judged.Missing))
                .Where(p => p.Items.Count > 0)
        );
        return new CustomerOwes(customer, items, credits, portions, promises, plans, disputes);
    }

    private static PromiseThen Judge(
        CustomerPromise promise,
        DateOnly day,
        CollectingSettings settings,
        History history,
        List<OpenOnDay> credits
    )
    {
        var last = promise.Promised.LastDay(settings.Grace);
        var named = Ids(promise);
        var items = history
            .ItemsOf[promise.CustomerId]
            .Where(i => i.Currency.Equals(promise.Currency))
            .Where(i => named.Count == 0 ? i.Date <= promise.Made : named.Contains(i.Id))
            .ToList();
        var ids = items.Select(i => i.Id).ToHashSet();
        var sets = history.SetsOf[promise.CustomerId].Where(s => ids.Contains(s.ItemId)).ToList();
        var at = day < last ? day : last;
        // What was set against it in time counts only while it was not taken away again by the day that is told of.
        var counted = sets.Where(s => s.Day <= at && s.CountsOn(day)).ToList();
        return new PromiseThen(
            promise,
            promise.Promised.On(
                day,
                settings.Grace,
                counted.Where(s => s.IsMoney && s.Id > promise.After).Select(s => new Came(s.Day, s.Amount)),
                credits
                    .Where(c =>
                        c.Kind is AccountItemKind.Receipt or AccountItemKind.MovedIn
                        && c.Currency.Equals(promise.Currency)
                        && c.Date >= promise.Made
                        && c.Date <= last
                    )
                    .Sum(c => c.Open),
                items.Sum(i => i.Amount) - counted.Sum(s => s.Amount)
            )
        );
    }

    private static PlanNow Stand(AgreedPlan plan, DateOnly day, CollectingSettings settings, History history)
    {
        var ids = Ids(plan);
        return plan.Plan.On(
            day,
            settings.PlanDaysLate,
            history
                .SetsOf[plan.CustomerId]
                .Where(s => ids.Contains(s.ItemId) && s.Id > plan.After && s.CountsOn(day))
                .Select(s => new Came(s.Day < plan.Made ? plan.Made : s.Day, s.Amount))
        );
    }

    private async Task<History> HistoryAsync(IReadOnlyCollection<int> customers, CancellationToken stop)
    {
        if (customers.Count == 0)
            return new History(
                Array.Empty<int>().ToLookup(i => i, i => (i, default(DateOnly), 0L, default(Currency)!)),
                Array.Empty<Set>().ToLookup(s => s.ItemId)
            );
        var items = await db
            .AccountItems.AsNoTracking()
            .Where(i => customers.Contains(i.CustomerId) && i.Sign > 0)
            .Select(i => new
            {
                i.CustomerId,
                i.Id,
                i.Date,
                i.Amount,
                i.Currency,
            })
            .ToListAsync(stop);
        var sets = await db
            .Allocations.IgnoreQueryFilters()
            .AsNoTracking()
            .Where(a => customers.Contains(a.Raising.CustomerId))
            .Select(a => new
            {
                a.Raising.CustomerId,
                Set = new Set(
                    a.Id,
                    a.RaisingId,
                    a.Date,
                    a.Until,
                    a.Amount,
                    a.Lowering.Kind == AccountItemKind.Receipt || a.Lowering.Kind == AccountItemKind.MovedIn
                ),
            })
            .ToListAsync(stop);
        return new History(
            items.ToLookup(i => i.CustomerId, i => (i.Id, i.Date, i.Amount, i.Currency)),
            sets.ToLookup(s => s.CustomerId, s => s.Set)
        );
    }

    private static HashSet<int> Ids(CustomerPromise promise) => [.. promise.Items.Select(i => i.ItemId)];

    /// <summary>What of the open items a promise is for: those that it names, else all of its currency.</summary>
    private static HashSet<int> Promised(CustomerPromise promise, List<OpenOnDay> open)
    {
        var named = Ids(promise);
        return named.Count > 0
            ? named
            : [.. open.Where(i => i.Currency.Equals(promise.Currency)).Select(i => i.ItemId)];
    }

    private static HashSet<int> Ids(AgreedPlan plan) => [.. plan.Items.Select(i => i.ItemId)];
}
