using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>Something that was open at the end of a day. Amounts are minor units.</summary>
/// <param name="Due">As its document says; what was agreed since is told by <see cref="IAgreements"/>.</param>
/// <param name="HomeOpen">What of it was open in home currency.</param>
public sealed record OpenOnDay(
    int ItemId,
    int CustomerId,
    AccountItemKind Kind,
    string Number,
    DateOnly Date,
    DateOnly Due,
    Currency Currency,
    long Amount,
    long Open,
    long HomeOpen,
    int Sign,
    int? DocumentId,
    int? ReceiptId
)
{
    /// <summary>What <see cref="Amount"/> is kept at in home currency.</summary>
    public long HomeAmount { get; init; }

    /// <summary>As it counts on a side of the account that has it.</summary>
    public OpenOnDay On(AccountSide side) =>
        side.IsWhole ? this with { Currency = side.Currency, Amount = HomeAmount, Open = HomeOpen } : this;
}

/// <summary>What was open on any day: what was open then, not what is open now.</summary>
public sealed class OpenItems(BooksContext db)
{
    /// <param name="Freed">Whether the item had this open on the day and not now; else the other way round.</param>
    private sealed record Change(int ItemId, bool Freed, long Amount, long Home);

    /// <summary>All that was open at the end of a day.</summary>
    /// <param name="customerId">Of one customer only.</param>
    public Task<IReadOnlyList<OpenOnDay>> OnAsync(
        DateOnly day,
        int? customerId = null,
        CancellationToken stop = default
    ) => ReadAsync(day, customerId is { } one ? [one] : null, stop);

    /// <summary>What was open of some customers at the end of a day.</summary>
    public Task<IReadOnlyList<OpenOnDay>> OfAsync(
        DateOnly day,
        IReadOnlyCollection<int> customers,
        CancellationToken stop = default
    ) => ReadAsync(day, customers, stop);

    private async Task<IReadOnlyList<OpenOnDay>> ReadAsync(
        DateOnly day,
        IReadOnlyCollection<int>? customers,
        CancellationToken stop
    )
    {
        // What is open now is kept; only what was set against each other, or taken apart, after the day changes it. The
        // two are asked for apart, as each has an index of its own.
        var ever = db.Allocations.IgnoreQueryFilters().AsNoTracking();
        IQueryable<Allocation>[] later =
        [
            ever.Where(a => a.Date > day && a.Until == null),
            ever.Where(a => a.Until > day && a.Date <= day),
        ];
        var changes = new List<Change>();
        foreach (var some in later)
        {
            var asked = customers is null ? some : some.Where(a => customers.Contains(a.Raising.CustomerId));
            changes.AddRange(
                await asked
                    .Where(a => a.Raising.Date <= day)
                    .Select(a => new Change(a.RaisingId, a.Date > day, a.Amount, a.HomeRaising))
                    .ToListAsync(stop)
            );
            changes.AddRange(
                await asked
                    .Where(a => a.Lowering.Date <= day)
                    .Select(a => new Change(a.LoweringId, a.Date > day, a.Amount, a.HomeLowering))
                    .ToListAsync(stop)
            );
        }

        var back = changes
            .GroupBy(c => c.ItemId)
            .ToDictionary(
                g => g.Key,
                g => (Amount: g.Sum(c => c.Freed ? c.Amount : -c.Amount), Home: g.Sum(c => c.Freed ? c.Home : -c.Home))
            );

        var items = db.AccountItems.AsNoTracking().Where(i => i.Date <= day);
        if (customers is not null)
            items = items.Where(i => customers.Contains(i.CustomerId));
        var rows = await Shown(items.Where(i => i.Open > 0)).ToListAsync(stop);
        var there = rows.Select(r => r.ItemId).ToHashSet();
        foreach (var some in back.Keys.Where(id => !there.Contains(id)).Chunk(5_000))
            rows.AddRange(await Shown(items.Where(i => some.Contains(i.Id))).ToListAsync(stop));
        return
        [
            .. rows.Select(r =>
                    back.TryGetValue(r.ItemId, out var so)
                        ? r with
                        {
                            Open = r.Open + so.Amount,
                            HomeOpen = r.HomeOpen + so.Home,
                        }
                        : r
                )
                .Where(r => r.Open != 0),
        ];
    }

    private static IQueryable<OpenOnDay> Shown(IQueryable<AccountItem> items) =>
        items.Select(i => new OpenOnDay(
            i.Id,
            i.CustomerId,
            i.Kind,
            i.Number,
            i.Date,
            i.Due,
            i.Currency,
            i.Amount,
            i.Open,
            i.HomeOpen,
            i.Sign,
            i.DocumentId,
            i.ReceiptId
        )
        {
            HomeAmount = i.HomeAmount,
        });
}
