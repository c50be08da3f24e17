using Jugaad.Core;
using Jugaad.Core.Trade;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>The business whose books these are, and the business day. Read once for each unit of work.</summary>
public sealed class BooksHead(BooksContext db, TimeProvider clock)
{
    private Business? _business;

    /// <summary>Null while the books are empty.</summary>
    public async Task<Business?> FindBusinessAsync(CancellationToken stop = default) =>
        _business ??= await db.Businesses.SingleOrDefaultAsync(stop);

    /// <exception cref="RefusalException">While the books are empty.</exception>
    public async Task<Business> BusinessAsync(CancellationToken stop = default) =>
        await FindBusinessAsync(stop)
        ?? throw new RefusalException("", "These books are empty. Set up the business first.");

    /// <summary>The day that Jugaad takes as today: pinned in the demo's books, the machine's elsewhere.</summary>
    public async Task<DateOnly> TodayAsync(CancellationToken stop = default) =>
        (await FindBusinessAsync(stop))?.PinnedDay ?? DateOnly.FromDateTime(clock.GetLocalNow().DateTime);

    /// <summary>The business day with the machine's time of day, as people here would say when it is.</summary>
    public async Task<DateTimeOffset> NowAsync(CancellationToken stop = default)
    {
        var now = clock.GetLocalNow();
        return new DateTimeOffset((await TodayAsync(stop)).ToDateTime(TimeOnly.FromDateTime(now.DateTime)), now.Offset);
    }

    /// <summary>After a change that was rolled back, what was read may no longer be true.</summary>
    internal void Forget() => _business = null;
}
