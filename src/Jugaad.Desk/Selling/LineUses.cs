using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Selling;

/// <summary>A line that others are made from, with its document.</summary>
/// <param name="Left">What of it was made already, by documents other than the one that asks.</param>
public sealed record SourceLine(DocumentLine Line, Document Document, LineUse Left);

/// <summary>Reads what was made from lines: ordered, delivered, billed, credited. Cancelled documents do not count.</summary>
public sealed class LineUses(BooksContext db)
{
    private sealed record Use(int From, DocumentKind Kind, LineRole Role, decimal Quantity, long Amount, int LineId);

    /// <param name="ids">Lines that something may have been made from.</param>
    /// <param name="except">A document that is left out, as its own lines are about to be counted anew.</param>
    public async Task<IReadOnlyDictionary<int, SourceLine>> OfAsync(IReadOnlyCollection<int> ids, int? except = null, CancellationToken stop = default)
    {
        var found = new Dictionary<int, SourceLine>();
        // In pieces, as one question has room for only so many ids.
        foreach (var some in ids.Distinct().Chunk(500)) await AddAsync(found, some, except, stop);
        await CapDeliveredAsync(found, except, stop);
        return found;
    }

    private async Task AddAsync(Dictionary<int, SourceLine> found, int[] ids, int? except, CancellationToken stop)
    {
        var lines = await (from line in db.Set<DocumentLine>().AsNoTracking()
                           join document in db.Documents.AsNoTracking() on line.DocumentId equals document.Id
                           where ids.Contains(line.Id)
                           select new { line, document }).ToListAsync(stop);
        var uses = await UsesAsync(ids, except, stop);
        var notes = uses.Where(u => u.Kind == DocumentKind.DeliveryNote).ToList();
        var through = await UsesAsync([.. notes.Select(n => n.LineId)], except, stop);
        foreach (var source in lines)
        {
            var own = uses.Where(u => u.From == source.line.Id).ToList();
            var billedThrough = through.Where(t => t.Kind == DocumentKind.Invoice && notes.Exists(n => n.LineId == t.From && n.From == source.line.Id)).Sum(t => t.Quantity);
            decimal Of(DocumentKind kind) => own.Where(u => u.Kind == kind && u.Role == LineRole.Item).Sum(u => u.Quantity);
            found[source.line.Id] = new SourceLine(source.line, source.document, new LineUse(source.line.Quantity, source.line.Base)
            {
                Ordered = Of(DocumentKind.Order),
                Delivered = Of(DocumentKind.DeliveryNote),
                Billed = Of(DocumentKind.Invoice) + billedThrough,
                Staged = own.Where(u => u is { Kind: DocumentKind.Invoice, Role: LineRole.Stage }).Sum(u => u.Amount) - own.Where(u => u is { Kind: DocumentKind.Invoice, Role: LineRole.Deduction }).Sum(u => u.Amount),
                Credited = own.Where(u => u.Kind == DocumentKind.CreditNote).Sum(u => u.Quantity),
            });
        }
    }

    /// <summary>What was delivered of an order is not billed beyond the order, where some of that was billed without the note.</summary>
    private async Task CapDeliveredAsync(Dictionary<int, SourceLine> found, int? except, CancellationToken stop)
    {
        var delivered = found.Values.Where(s => s.Document.Kind == DocumentKind.DeliveryNote && s.Line.FromLineId is not null && s.Line.Quantity > 0).ToList();
        if (delivered.Count == 0) return;
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

    private async Task<List<Use>> UsesAsync(int[] ids, int? except, CancellationToken stop) => ids.Length == 0 ? [] :
        await (from line in db.Set<DocumentLine>().AsNoTracking()
               join document in db.Documents.AsNoTracking() on line.DocumentId equals document.Id
               where line.FromLineId != null && ids.Contains(line.FromLineId.Value) && document.State != DocumentState.Cancelled && document.Id != (except ?? 0)
               select new Use(line.FromLineId ?? 0, document.Kind, line.Role, line.Quantity, line.Amount, line.Id)).ToListAsync(stop);
}
