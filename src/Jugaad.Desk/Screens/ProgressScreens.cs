using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lines;
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

/// <summary>A quote or an order that is billed in stages and has something left.</summary>
/// <param name="LastOn">The day of its latest stage or deposit.</param>
/// <param name="Drafted">Whether a stage of it waits as a draft.</param>
public sealed record StagedRow(
    int Id,
    string Number,
    int CustomerId,
    string Customer,
    Currency Currency,
    DateOnly LastOn,
    bool Drafted,
    Progress Progress
)
{
    public long Left => Progress.Whole - Progress.Billed;
}

/// <summary>Reads how much of quotes, orders and delivery notes is delivered and billed.</summary>
public sealed class ProgressScreens(BooksContext db, LineUses uses)
{
    /// <summary>Of each document that something may be made from, by its id.</summary>
    public async Task<IReadOnlyDictionary<int, Progress>> OfAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop = default
    )
    {
        var lines = await db.Set<DocumentLine>()
            .AsNoTracking()
            .Where(l => ids.Contains(l.DocumentId))
            .ToListAsync(stop);
        var counted = lines.Where(l => l.Counts).ToList();
        var found = await uses.OfAsync(counted.ConvertAll(l => l.Id), null, stop);
        // What a quote became is billed from the order that was made from it.
        var ordered = await ThroughOrdersAsync(
            [.. counted.Where(l => found[l.Id].Left.Ordered != 0).Select(l => l.Id)],
            stop
        );
        return counted
            .GroupBy(l => l.DocumentId)
            .ToDictionary(
                g => g.Key,
                g => new Progress(
                    g.Sum(l => l.Base),
                    found[g.First().Id].Document.Kind == DocumentKind.Order
                        ? g.Sum(l => Share(l, found[l.Id].Left.Delivered))
                        : null,
                    g.Sum(l => found[l.Id].Left.BilledAmount + ordered.GetValueOrDefault(l.Id))
                )
            );
    }

    /// <summary>What is billed in stages and has something left, the one with the newest stage first.</summary>
    public async Task<IReadOnlyList<StagedRow>> StagedAsync(CancellationToken stop = default)
    {
        var stages = db.Documents.Where(m =>
            m.Kind == DocumentKind.Invoice
            && m.State != DocumentState.Cancelled
            && m.Lines.Any(l => l.Role == LineRole.Stage || l.Role == LineRole.Deposit)
        );
        var begun = await (
            from source in db.Documents.AsNoTracking()
            where
                source.ClosedOn == null
                && (
                    source.State == DocumentState.Accepted
                    || (source.Kind == DocumentKind.Order && source.State == DocumentState.Issued)
                )
                && stages.Any(m => m.FromDocumentId == source.Id)
            select new
            {
                source.Id,
                source.Number,
                source.CustomerId,
                source.Customer!.Name,
                source.Currency,
                LastOn = stages.Where(m => m.FromDocumentId == source.Id).Max(m => m.Date),
                Drafted = stages.Any(m => m.FromDocumentId == source.Id && m.State == DocumentState.Draft),
            }
        )
            .OrderByDescending(r => r.LastOn)
            .ThenByDescending(r => r.Id)
            .Take(200)
            .ToListAsync(stop);
        var found = await OfAsync(begun.ConvertAll(b => b.Id), stop);
        return begun
            .Where(b => found.TryGetValue(b.Id, out var so) && !so.IsBilled)
            .Select(b => new StagedRow(
                b.Id,
                b.Number ?? "",
                b.CustomerId,
                b.Name,
                b.Currency,
                b.LastOn,
                b.Drafted,
                found[b.Id]
            ))
            .ToList();
    }

    private async Task<Dictionary<int, long>> ThroughOrdersAsync(List<int> quoteLines, CancellationToken stop)
    {
        if (quoteLines.Count == 0)
            return [];
        var lines = await (
            from line in db.Set<DocumentLine>().AsNoTracking()
            join order in db.Documents on line.DocumentId equals order.Id
            where
                line.FromLineId != null
                && quoteLines.Contains(line.FromLineId.Value)
                && order.Kind == DocumentKind.Order
                && order.State != DocumentState.Cancelled
            select line
        ).ToListAsync(stop);
        var found = await uses.OfAsync(lines.ConvertAll(l => l.Id), null, stop);
        return lines
            .GroupBy(l => l.FromLineId!.Value)
            .ToDictionary(g => g.Key, g => g.Sum(l => found[l.Id].Left.BilledAmount));
    }

    private static long Share(DocumentLine line, decimal quantity) =>
        new LineUse(line.Quantity, line.Base).PartOf(quantity);
}
