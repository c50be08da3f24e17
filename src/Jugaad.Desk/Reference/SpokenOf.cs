using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>
/// Finds of which items on accounts something was said or written: promised, planned, in dispute, asked for in a letter
/// or online, or left out of letters. They stay in the books, so that one knows what it was about.
/// </summary>
public sealed class SpokenOf(BooksContext db)
{
    /// <summary>Why one that was spoken of is not taken out.</summary>
    public const string Why = "was promised, planned, disputed, written about or asked for online since";

    /// <returns>Those of the items, by id.</returns>
    public async Task<HashSet<int>> AmongAsync(IReadOnlyCollection<int> items, CancellationToken stop = default) =>
        items.Count == 0
            ? []
            :
            [
                .. await db
                    .Promises.SelectMany(p => p.Items)
                    .Select(i => i.ItemId)
                    .Union(db.Plans.SelectMany(p => p.Items).Select(i => i.ItemId))
                    .Union(db.Disputes.Select(d => d.ItemId))
                    .Union(db.ChaseLetters.SelectMany(l => l.Items).Select(i => i.ItemId))
                    .Union(db.LeftOut.Where(l => l.ItemId != null).Select(l => l.ItemId!.Value))
                    .Union(db.PayRequests.SelectMany(r => r.Parts).Select(p => p.ItemId))
                    .Union(db.LateCharges.Select(c => c.ItemId))
                    .Where(id => items.Contains(id))
                    .ToListAsync(stop),
            ];
}
