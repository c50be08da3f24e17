using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Stock;

/// <summary>Moves the count on hand of goods when a paper says that they came or went.</summary>
public sealed class StockKeeping(BooksContext db, BookWriter writer)
{
    public async Task MoveAsync(Document document, CancellationToken stop)
    {
        var moves = await MovesOfAsync(document, stop);
        var ids = moves.Select(m => m.ItemId).Distinct().ToList();
        var items = await db.Items.Where(i => ids.Contains(i.Id) && i.KeepsCount).ToDictionaryAsync(i => i.Id, stop);
        foreach (var (itemId, quantity) in moves)
            if (items.TryGetValue(itemId, out var item))
                db.StockMoves.Add(
                    new StockMove(
                        item,
                        document.Date,
                        quantity,
                        $"{document.Policy.Title} {document.Number}",
                        writer.Who,
                        document.Id
                    )
                );
    }

    /// <summary>
    /// What goods a document moves, below zero where they go. Goods go once: when they are delivered or when they are
    /// billed, whichever comes first; those billed in stages with the last one. What is only made cheaper stays where
    /// it is.
    /// </summary>
    public async Task<IReadOnlyList<(int ItemId, decimal Quantity)>> MovesOfAsync(
        Document document,
        CancellationToken stop
    )
    {
        var sign = document.Policy.MovesStock;
        if (sign == 0 || document.Particulars.GoodsStay)
            return [];
        var lines = document
            .Lines.Where(l => l.Counts && l.Quantity != 0 && l.Role is LineRole.Item or LineRole.Stage)
            .OrderBy(l => l.Position)
            .ToList();
        if (document.Kind == DocumentKind.CreditNote)
            return
            [
                .. lines
                    .Where(l => l.ItemId is not null && (l.FromLineId is null || l.Shares))
                    .Select(l => (l.ItemId!.Value, sign * l.Quantity)),
            ];
        var roots = await RootsAsync(lines, stop);
        var gone = await GoneAsync([.. roots.Values.Select(r => r.Id).Distinct()], document.Id, stop);
        var moves = new List<(int, decimal)>();
        foreach (var line in lines)
        {
            if (line.FromLineId is not { } from || !roots.TryGetValue(from, out var root))
            {
                if (line.ItemId is { } item)
                    moves.Add((item, sign * line.Quantity));
                continue;
            }

            var before = gone[root.Id];
            var after =
                document.Kind == DocumentKind.DeliveryNote
                    ? before with
                    {
                        Delivered = before.Delivered + line.Quantity,
                    }
                : line.Role == LineRole.Stage ? before with { Staged = before.Staged + line.Base }
                : before with { Billed = before.Billed + line.Quantity };
            gone[root.Id] = after;
            if (root.ItemId is { } own && after.Quantity - before.Quantity is not 0 and var quantity)
                moves.Add((own, sign * quantity));
        }

        return moves;
    }

    /// <summary>What is gone of a line: delivered, billed by quantity, or billed in stages to the end.</summary>
    private sealed record Gone(decimal Whole, long Base, decimal Delivered = 0, decimal Billed = 0, long Staged = 0)
    {
        internal decimal Quantity
        {
            get
            {
                var billed = Staged != 0 && Staged == Base ? Whole : Billed;
                return Whole < 0 ? Math.Min(Delivered, billed) : Math.Max(Delivered, billed);
            }
        }
    }

    /// <summary>
    /// The lines whose goods are counted, by the line that something was made from: an order's, where a delivery note
    /// stands between.
    /// </summary>
    private async Task<Dictionary<int, DocumentLine>> RootsAsync(List<DocumentLine> lines, CancellationToken stop)
    {
        var ids = lines.Select(l => l.FromLineId).OfType<int>().Distinct().ToList();
        if (ids.Count == 0)
            return [];
        var found = await db.Set<DocumentLine>().AsNoTracking().Where(l => ids.Contains(l.Id)).ToListAsync(stop);
        var notes = await DeliveredAsync(ids, stop);
        var orderIds = found.Where(l => notes.Contains(l.Id)).Select(l => l.FromLineId).OfType<int>().ToList();
        var orders = await db.Set<DocumentLine>()
            .AsNoTracking()
            .Where(l => orderIds.Contains(l.Id))
            .ToDictionaryAsync(l => l.Id, stop);
        return found.ToDictionary(
            l => l.Id,
            l => notes.Contains(l.Id) && l.FromLineId is { } order && orders.TryGetValue(order, out var root) ? root : l
        );
    }

    private async Task<HashSet<int>> DeliveredAsync(IReadOnlyCollection<int> ids, CancellationToken stop) =>
        (
            await (
                from line in db.Set<DocumentLine>()
                join source in db.Documents on line.DocumentId equals source.Id
                where ids.Contains(line.Id) && source.Kind == DocumentKind.DeliveryNote
                select line.Id
            ).ToListAsync(stop)
        ).ToHashSet();

    /// <summary>By issued papers other than the one that asks; what came back is not gone.</summary>
    private async Task<Dictionary<int, Gone>> GoneAsync(List<int> roots, int except, CancellationToken stop)
    {
        var lines = await db.Set<DocumentLine>().AsNoTracking().Where(l => roots.Contains(l.Id)).ToListAsync(stop);
        var own = await DeliveredAsync(roots, stop);
        var direct = await MadeAsync(roots, except, stop);
        var noteIds = direct.Where(m => m.Kind == DocumentKind.DeliveryNote).Select(m => m.Line.Id).ToList();
        var through = await MadeAsync(noteIds, except, stop);
        var back = await MadeAsync(
            [.. direct.Concat(through).Where(m => m.Kind == DocumentKind.Invoice).Select(m => m.Line.Id)],
            except,
            stop
        );
        var gone = new Dictionary<int, Gone>();
        foreach (var line in lines)
        {
            var made = direct.Where(m => m.Line.FromLineId == line.Id).ToList();
            var notes = made.Where(m => m.Kind == DocumentKind.DeliveryNote).Select(m => m.Line).ToList();
            var bills = made.Concat(through.Where(t => notes.Exists(n => n.Id == t.Line.FromLineId)))
                .Where(m => m.Kind == DocumentKind.Invoice)
                .Select(m => m.Line)
                .ToList();
            var returned = back.Where(c =>
                    c.Kind == DocumentKind.CreditNote
                    && c.Line.Shares
                    && !c.GoodsStay
                    && bills.Exists(b => b.Id == c.Line.FromLineId)
                )
                .Sum(c => c.Line.Quantity);
            // A delivery note without an order has delivered its own goods.
            gone[line.Id] = new Gone(
                line.Quantity,
                line.Base,
                (own.Contains(line.Id) ? line.Quantity : notes.Sum(n => n.Quantity)) - returned,
                bills.Where(b => b.Role == LineRole.Item).Sum(b => b.Quantity) - returned,
                bills.Where(b => b.Role == LineRole.Stage).Sum(b => b.Base)
            );
        }

        return gone;
    }

    private sealed record Made(DocumentLine Line, DocumentKind Kind, bool GoodsStay);

    private async Task<List<Made>> MadeAsync(List<int> ids, int except, CancellationToken stop) =>
        ids.Count == 0
            ? []
            : await (
                from line in db.Set<DocumentLine>().AsNoTracking()
                join document in db.Documents.AsNoTracking() on line.DocumentId equals document.Id
                where
                    line.FromLineId != null
                    && ids.Contains(line.FromLineId.Value)
                    && document.Id != except
                    && (document.State == DocumentState.Issued || document.State == DocumentState.Settled)
                select new Made(line, document.Kind, document.Particulars.GoodsStay)
            ).ToListAsync(stop);

    /// <summary>Undoes what a paper moved, as it is corrected or cancelled.</summary>
    public async Task TakeBackAsync(Document document, CancellationToken stop)
    {
        var moved = await db
            .StockMoves.Where(m => m.DocumentId == document.Id)
            .GroupBy(m => m.ItemId)
            .Select(g => new { g.Key, Quantity = g.Sum(m => m.Quantity) })
            .ToListAsync(stop);
        foreach (var move in moved.Where(m => m.Quantity != 0))
        {
            var item = await db.Items.SingleAsync(i => i.Id == move.Key, stop);
            db.StockMoves.Add(
                new StockMove(
                    item,
                    document.Date,
                    -move.Quantity,
                    $"{document.Policy.Title} {document.Number} taken back",
                    writer.Who,
                    document.Id
                )
            );
        }
    }
}
