using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>Plans and disputes, as whoever tells what is due reads them.</summary>
public sealed class Agreements(BooksContext db, BooksHead head, OwedBook owed) : IAgreements
{
    public async Task<Agreed> OnAsync(DateOnly day, int? customerId = null, CancellationToken stop = default)
    {
        var planned = db
            .Plans.Where(p => p.Made <= day && (p.EndedOn == null || p.EndedOn > day))
            .Select(p => p.CustomerId);
        var disputed = db
            .Disputes.Where(d => d.From <= day && (d.Until == null || d.Until > day))
            .Select(d => d.CustomerId);
        var customers = await planned
            .Union(disputed)
            .Where(c => customerId == null || c == customerId)
            .ToListAsync(stop);
        var parts = customers.Count == 0 ? [] : await PartsAsync(day, customers, stop);
        return new Agreed(day, (await head.BusinessAsync(stop)).AgesByDate, parts.ToLookup(p => p.ItemId));
    }

    private async Task<List<DuePart>> PartsAsync(DateOnly day, List<int> customers, CancellationToken stop)
    {
        var parts = new List<DuePart>();
        foreach (var owes in await owed.OfAsync(day, customers, stop))
        {
            var due = owes.Items.ToDictionary(i => i.ItemId, i => i.Due);
            parts.AddRange(
                owes.Portions.GroupBy(p => p.Item)
                    .Where(g => g.Any(p => p.Kind is PortionKind.Planned or PortionKind.Disputed))
                    .SelectMany(g => g)
                    .Select(p => new DuePart(
                        p.Item,
                        p.Kind == PortionKind.Planned ? p.Day!.Value : due[p.Item],
                        p.Amount,
                        p.Kind == PortionKind.Disputed
                    ))
            );
        }

        return parts;
    }
}
