using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Lines;

/// <summary>
/// Settles orders and delivery notes once nothing of them is left, and opens them again where something comes back.
/// </summary>
public sealed class Completion(BooksContext db, LineUses uses, BookWriter writer)
{
    /// <summary>Follows up what a document was made from, and what that was made from.</summary>
    public async Task FollowAsync(Document document, CancellationToken stop = default)
    {
        await writer.SaveAsync(stop);
        var lines = document.Lines.Select(l => l.FromLineId).OfType<int>().ToList();
        while (lines.Count > 0)
        {
            var ids = await db.Set<DocumentLine>()
                .Where(l => lines.Contains(l.Id))
                .Select(l => l.DocumentId)
                .Distinct()
                .ToListAsync(stop);
            var sources = await db.Documents.Include(d => d.Lines).Where(d => ids.Contains(d.Id)).ToListAsync(stop);
            foreach (var source in sources.Where(s => s.Kind is DocumentKind.Order or DocumentKind.DeliveryNote))
                await FollowOneAsync(source, stop);
            lines = sources.SelectMany(s => s.Lines).Select(l => l.FromLineId).OfType<int>().ToList();
        }
    }

    /// <summary>Follows up an order that was itself changed.</summary>
    public async Task FollowChangedAsync(Document order, CancellationToken stop = default)
    {
        await writer.SaveAsync(stop);
        await FollowOneAsync(order, stop);
    }

    private async Task FollowOneAsync(Document source, CancellationToken stop)
    {
        var counted = source.Lines.Where(l => l.Counts).ToList();
        var found = await uses.OfAsync(counted.ConvertAll(l => l.Id), null, stop);
        var isOrder = source.Kind == DocumentKind.Order;
        var left = counted.Any(l =>
            found[l.Id].Left is var use
            && ((isOrder && use.LeftToDeliver != 0) || (use.InStages ? use.LeftToStage != 0 : use.LeftToBill != 0))
        );
        source.FollowOpenAmount(left ? 1 : 0);
    }
}
