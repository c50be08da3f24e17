using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Selling;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>How far something is, in minor units of what it comes to in its price mode, charges left aside.</summary>
/// <param name="Whole">What all of it comes to.</param>
/// <param name="Delivered">What is on delivery notes; null where nothing is delivered from it.</param>
/// <param name="Billed">What is on invoices, drafts included.</param>
public sealed record Progress(long Whole, long? Delivered, long Billed)
{
    public bool IsBilled => Billed >= Whole;

    public bool IsDelivered => Delivered is null || Delivered >= Whole;
}

/// <summary>Reads how much of quotes, orders and delivery notes is delivered and billed.</summary>
public sealed class ProgressScreens(BooksContext db, LineUses uses)
{
    /// <summary>Of each document that something may be made from, by its id.</summary>
    public async Task<IReadOnlyDictionary<int, Progress>> OfAsync(IReadOnlyCollection<int> ids, CancellationToken stop = default)
    {
        var lines = await db.Set<DocumentLine>().AsNoTracking().Where(l => ids.Contains(l.DocumentId)).ToListAsync(stop);
        var counted = lines.Where(l => l.Counts).ToList();
        var found = await uses.OfAsync(counted.ConvertAll(l => l.Id), null, stop);
        // What a quote became is billed from the order that was made from it.
        var ordered = await ThroughOrdersAsync([.. counted.Where(l => found[l.Id].Left.Ordered != 0).Select(l => l.Id)], stop);
        return counted.GroupBy(l => l.DocumentId).ToDictionary(g => g.Key, g => new Progress(
            g.Sum(l => l.Base),
            found[g.First().Id].Document.Kind == DocumentKind.Order ? g.Sum(l => Share(l, found[l.Id].Left.Delivered)) : null,
            g.Sum(l => found[l.Id].Left.BilledAmount + ordered.GetValueOrDefault(l.Id))));
    }

    private async Task<Dictionary<int, long>> ThroughOrdersAsync(List<int> quoteLines, CancellationToken stop)
    {
        if (quoteLines.Count == 0) return [];
        var lines = await (from line in db.Set<DocumentLine>().AsNoTracking()
                           join order in db.Documents on line.DocumentId equals order.Id
                           where line.FromLineId != null && quoteLines.Contains(line.FromLineId.Value) && order.Kind == DocumentKind.Order && order.State != DocumentState.Cancelled
                           select line).ToListAsync(stop);
        var found = await uses.OfAsync(lines.ConvertAll(l => l.Id), null, stop);
        return lines.GroupBy(l => l.FromLineId!.Value).ToDictionary(g => g.Key, g => g.Sum(l => found[l.Id].Left.BilledAmount));
    }

    private static long Share(DocumentLine line, decimal quantity) => new LineUse(line.Quantity, line.Base) { Billed = quantity }.BilledAmount;
}
