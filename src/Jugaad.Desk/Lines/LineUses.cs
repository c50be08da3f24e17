using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Lines;

/// <summary>A line that others are made from, with its document.</summary>
/// <param name="Left">What of it was made already, by documents other than the one that asks.</param>
public sealed record SourceLine(DocumentLine Line, Document Document, LineUse Left);

/// <summary>
/// Reads what was made from lines: ordered, delivered, billed, credited. Cancelled documents do not count.
/// </summary>
public sealed class LineUses(BooksContext db)
{
    private sealed record Use(
        int From,
        DocumentKind Kind,
        DocumentState State,
        LineRole Role,
        decimal Quantity,
        long Base,
        int LineId,
        bool Shares
    )
    {
        internal bool IsIssued => State is DocumentState.Issued or DocumentState.Settled;
    }

    /// <param name="ids">Lines that something may have been made from.</param>
    /// <param name="except">A document that is left out, as its own lines are about to be counted anew.</param>
    public async Task<IReadOnlyDictionary<int, SourceLine>> OfAsync(
        IReadOnlyCollection<int> ids,
        int? except = null,
        CancellationToken stop = default
    )
    {
        var found = new Dictionary<int, SourceLine>();
        // In pieces, as one question has room for only so many ids.
        foreach (var some in ids.Distinct().Chunk(500))
            await AddAsync(found, some, except, stop);
        await CapDeliveredAsync(found, except, stop);
        return found;
    }

    private async Task AddAsync(Dictionary<int, SourceLine> found, int[] ids, int? except, CancellationToken stop)
    {
        var lines = await (
            from line in db.Set<DocumentLine>().AsNoTracking()
            join document in db.Documents.AsNoTracking() on line.DocumentId equals document.Id
            where ids.Contains(line.Id)
            select new { line, document }
        ).ToListAsync(stop);
        var uses = (await UsesAsync(ids, except, stop)).ToLookup(u => u.From);
        var notes = uses.SelectMany(u => u).Where(u => u.Kind == DocumentKind.DeliveryNote).ToList();
        var through = (await UsesAsync([.. notes.Select(n => n.LineId)], except, stop))
            .Where(u => u.Kind == DocumentKind.Invoice)
            .ToLookup(u => u.From);
        var bills = uses.SelectMany(u => u)
            .Where(u => u.Kind == DocumentKind.Invoice)
            .Concat(through.SelectMany(t => t))
            .Select(u => u.LineId)
            .ToArray();
        var credits = (await UsesAsync(bills, except, stop))
            .Where(u => u.Kind == DocumentKind.CreditNote)
            .ToLookup(u => u.From);
        foreach (var source in lines)
        {
            var own = uses[source.line.Id].ToList();
            var billed = own.Where(u => u.Kind == DocumentKind.Invoice)
                .Concat(own.Where(u => u.Kind == DocumentKind.DeliveryNote).SelectMany(n => through[n.LineId]))
                .ToList();
            found[source.line.Id] = new SourceLine(
                source.line,
                source.document,
                UseOf(source.line, own, billed, credits)
            );
        }
    }

    private static LineUse UseOf(DocumentLine line, List<Use> own, List<Use> billed, ILookup<int, Use> credits)
    {
        // What was credited by quantity and issued can be billed again; what was only made cheaper cannot.
        IEnumerable<Use> Returned(Use bill) => credits[bill.LineId].Where(c => c.Shares && c.IsIssued);
        // A part at a price of its own takes the share that it would have had, so that the others do not make up for
        // it.
        long AmountOf(Use part) =>
            part.Shares || part.Role == LineRole.Stage ? part.Base : EntitledTo(line, part.Quantity);
        var ordered = own.Where(u => u.Kind == DocumentKind.Order).ToList();
        var byQuantity = billed.Where(u => u.Role == LineRole.Item).ToList();
        var staged = billed.Where(u => u.Role == LineRole.Stage).ToList();
        var credited = own.Where(u => u.Kind == DocumentKind.CreditNote).ToList();
        return new LineUse(line.Quantity, line.Base)
        {
            Ordered = ordered.Sum(u => u.Quantity),
            OrderedAmount = ordered.Sum(AmountOf),
            Delivered = own.Where(u => u.Kind == DocumentKind.DeliveryNote).Sum(u => u.Quantity),
            Billed = byQuantity.Sum(u => u.Quantity - Returned(u).Sum(c => c.Quantity)),
            BilledByQuantity = byQuantity.Sum(u => AmountOf(u) - Returned(u).Sum(c => c.Base)),
            Staged = staged.Sum(u => u.Base - Returned(u).Sum(c => c.Base)),
            Deducted = -own.Where(u => u is { Kind: DocumentKind.Invoice, Role: LineRole.Deduction }).Sum(u => u.Base),
            Credited = credited.Where(u => u.Shares).Sum(u => u.Quantity),
            CreditedByQuantity = credited.Where(u => u.Shares).Sum(u => u.Base),
            Cheaper = credited.Where(u => !u.Shares).Sum(u => u.Base),
        };
    }

    private static long EntitledTo(DocumentLine line, decimal quantity) =>
        new LineUse(line.Quantity, line.Base).PartOf(quantity);

    /// <summary>
    /// What was delivered of an order is not billed beyond the order, where some of that was billed without the note.
    /// </summary>
    private async Task CapDeliveredAsync(Dictionary<int, SourceLine> found, int? except, CancellationToken stop)
    {
        var delivered = found
            .Values.Where(s =>
                s.Document.Kind == DocumentKind.DeliveryNote && s.Line.FromLineId is not null && s.Line.Quantity > 0
            )
            .ToList();
        if (delivered.Count == 0)
            return;
        var orders = await OfAsync([.. delivered.Select(s => s.Line.FromLineId!.Value)], except, stop);
        foreach (var group in delivered.GroupBy(s => s.Line.FromLineId!.Value))
        {
            var room = orders.TryGetValue(group.Key, out var order) ? order.Left.LeftToBill : 0;
            foreach (var note in group.OrderBy(s => s.Document.Date).ThenBy(s => s.Document.Id))
            {
                var left = Math.Min(note.Left.LeftToBill, room);
                room -= left;
                found[note.Line.Id] = note with { Left = note.Left with { Billed = note.Line.Quantity - left } };
            }
        }
    }

    private async Task<List<Use>> UsesAsync(int[] ids, int? except, CancellationToken stop)
    {
        var uses = new List<Use>();
        foreach (var some in ids.Chunk(500))
            uses.AddRange(
                await (
                    from line in db.Set<DocumentLine>().AsNoTracking()
                    join document in db.Documents.AsNoTracking() on line.DocumentId equals document.Id
                    where
                        line.FromLineId != null
                        && some.Contains(line.FromLineId.Value)
                        && document.State != DocumentState.Cancelled
                        && document.Id != (except ?? 0)
                    select new Use(
                        line.FromLineId ?? 0,
                        document.Kind,
                        document.State,
                        line.Role,
                        line.Quantity,
                        line.Base,
                        line.Id,
                        line.Shares
                    )
                ).ToListAsync(stop)
            );
        return uses;
    }
}
