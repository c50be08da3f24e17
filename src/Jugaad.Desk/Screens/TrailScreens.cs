using System.Globalization;
using System.Linq.Expressions;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>What narrows the trail.</summary>
public sealed record TrailFilter(string Search, string Who, DateOnly? From, DateOnly? Until);

/// <summary>A line of the trail, with what it is about.</summary>
public sealed record TrailRow(
    int Id,
    DateTime At,
    DateOnly Day,
    string Who,
    string Text,
    int? CustomerId,
    string? Customer,
    int? DocumentId,
    int? ReceiptId
);

/// <summary>Reads the trail of who did what.</summary>
public sealed class TrailScreens(BooksContext db)
{
    private static readonly ListOrders<Row> Orders = new ListOrders<Row>(r => r.Entry.Id, "-id").By(
        "id",
        r => r.Entry.Id
    );

    private static readonly Expression<Func<Row, TrailRow>> Shown = r => new TrailRow(
        r.Entry.Id,
        r.Entry.At,
        r.Entry.Day,
        r.Entry.Who,
        r.Entry.Text,
        r.Entry.CustomerId,
        r.Customer == null ? null : r.Customer.Name,
        r.Entry.DocumentId,
        r.Entry.ReceiptId
    );

    /// <summary>The newest first.</summary>
    public async Task<Stretch<TrailRow>> ListAsync(
        TrailFilter filter,
        ListPlace place,
        CancellationToken stop = default
    )
    {
        var rows = Narrow(filter, null);
        return await SearchAsync(filter.Search, stop) is { } search
            ? await Orders.ReadFoundAsync(
                rows,
                near => Narrow(filter, search.Condition(near)),
                search.Words,
                "",
                Shown,
                place,
                stop
            )
            : await Orders.ReadAsync(rows, "", Shown, place, stop);
    }

    public async Task<ListTotals> TotalsAsync(TrailFilter filter, CancellationToken stop = default) =>
        ListTotals.Of(await (await NarrowAsync(filter, stop)).CountAsync(stop));

    /// <summary>All that the filter lets through, for a file.</summary>
    public async Task<Report> ReportAsync(TrailFilter filter, CancellationToken stop = default)
    {
        var rows = await Orders.Sorted(await NarrowAsync(filter, stop), "").Select(Shown).ToListAsync(stop);
        return new Report(
            "trail",
            "Trail",
            "",
            [
                new("day", "Day"),
                new("at", "At (UTC)"),
                new("who", "Who"),
                new("what", "What"),
                new("customer", "Customer"),
            ],
            rows.ConvertAll(r => new ReportRow([
                r.Day,
                r.At.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
                r.Who,
                r.Text,
                r.Customer,
            ]))
        );
    }

    private async Task<IQueryable<Row>> NarrowAsync(TrailFilter filter, CancellationToken stop) =>
        Narrow(filter, (await SearchAsync(filter.Search, stop))?.Condition(null));

    /// <summary>What a search means: words of the entry, or of its customer.</summary>
    private sealed record Search(Found Words, Found Customers)
    {
        internal Expression<Func<TrailEntry, bool>> Condition(IReadOnlyCollection<int>? near) =>
            Found.Either(Words.Among<TrailEntry>(t => t.Id, near), Customers.Among<TrailEntry>(t => t.CustomerId ?? 0));
    }

    /// <returns>Null where nothing is searched.</returns>
    private async Task<Search?> SearchAsync(string typed, CancellationToken stop) =>
        typed.Trim().Length == 0
            ? null
            : new Search(
                await WordSearch.TrailAsync(db, typed, stop),
                await WordSearch.CustomersAsync(db, typed, stop)
            );

    private IQueryable<Row> Narrow(TrailFilter filter, Expression<Func<TrailEntry, bool>>? search)
    {
        var trail = db.Trail.AsNoTracking();
        if (search is not null)
            trail = trail.Where(search);
        if (filter.Who.Length > 0)
            trail = trail.Where(t => t.Who == filter.Who);
        if (filter.From is { } from)
            trail = trail.Where(t => t.Day >= from);
        if (filter.Until is { } until)
            trail = trail.Where(t => t.Day <= until);
        var rows =
            from entry in trail
            join customer in db.Customers on entry.CustomerId equals customer.Id into customers
            from customer in customers.DefaultIfEmpty()
            select new Row { Entry = entry, Customer = customer };
        return rows;
    }

    private sealed class Row
    {
        public required TrailEntry Entry { get; init; }

        public Customer? Customer { get; init; }
    }

    public async Task<IReadOnlyList<string>> PeopleAsync(CancellationToken stop = default) =>
        await db.Trail.Select(t => t.Who).Distinct().OrderBy(w => w).ToListAsync(stop);
}
