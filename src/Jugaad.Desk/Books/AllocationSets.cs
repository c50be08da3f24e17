using Jugaad.Core.Returns;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>Reads what was ever set against items, also what was taken apart since.</summary>
internal static class AllocationSets
{
    /// <param name="items">Their ids.</param>
    /// <param name="to">Up to which day; null for all.</param>
    internal static async Task<ILookup<int, SetOn>> SetsAsync(
        this BooksContext db,
        IQueryable<int> items,
        DateOnly? to,
        CancellationToken stop
    )
    {
        var sets = db.Allocations.IgnoreQueryFilters().AsNoTracking().Where(a => to == null || a.Date <= to);
        var raised = await sets.Where(a => items.Contains(a.RaisingId))
            .Select(a => new
            {
                Id = a.RaisingId,
                a.Date,
                a.Until,
                a.Amount,
            })
            .ToListAsync(stop);
        var lowered = await sets.Where(a => items.Contains(a.LoweringId))
            .Select(a => new
            {
                Id = a.LoweringId,
                a.Date,
                a.Until,
                a.Amount,
            })
            .ToListAsync(stop);
        return raised.Concat(lowered).ToLookup(s => s.Id, s => new SetOn(s.Date, s.Until, s.Amount));
    }
}
