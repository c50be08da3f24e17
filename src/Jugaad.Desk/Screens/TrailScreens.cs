using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>What narrows the trail.</summary>
public sealed record TrailFilter(string Search, string Who, DateOnly? From, DateOnly? Until, int Page);

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
    public Task<ListPage<TrailRow>> ListAsync(TrailFilter filter, CancellationToken stop = default)
    {
        var trail = db.Trail.AsNoTracking();
        if (filter.Search.Trim().Length > 0)
        {
            var pattern = SearchText.Anywhere(filter.Search);
            trail = trail.Where(t =>
                EF.Functions.Like(t.Text, pattern, "\\")
                || db.Customers.Any(c => c.Id == t.CustomerId && EF.Functions.Like(c.Name, pattern, "\\"))
            );
        }

        if (filter.Who.Length > 0)
            trail = trail.Where(t => t.Who == filter.Who);
        if (filter.From is { } from)
            trail = trail.Where(t => t.Day >= from);
        if (filter.Until is { } until)
            trail = trail.Where(t => t.Day <= until);
        return (
            from entry in trail
            join customer in db.Customers on entry.CustomerId equals customer.Id into customers
            from customer in customers.DefaultIfEmpty()
            orderby entry.Id descending
            select new TrailRow(
                entry.Id,
                entry.At,
                entry.Day,
                entry.Who,
                entry.Text,
                entry.CustomerId,
                customer == null ? null : customer.Name,
                entry.DocumentId,
                entry.ReceiptId
            )
        ).PageAsync(filter.Page, stop);
    }

    public async Task<IReadOnlyList<string>> PeopleAsync(CancellationToken stop = default) =>
        await db.Trail.Select(t => t.Who).Distinct().OrderBy(w => w).ToListAsync(stop);
}
