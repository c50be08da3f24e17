using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Selling;

/// <summary>Moves the count on hand of goods when a paper says that they came or went.</summary>
public sealed class StockKeeping(BooksContext db, BookWriter writer)
{
    /// <summary>
    /// A delivery note and a credit note move all their goods; an invoice moves those of its lines that were not made from a
    /// delivery note, which moved them already.
    /// </summary>
    public async Task MoveAsync(Document document, CancellationToken stop)
    {
        if (document.Policy.MovesStock == 0 || document.Particulars.GoodsStay) return;
        var fromLines = document.Lines.Select(l => l.FromLineId).OfType<int>().ToList();
        var delivered = fromLines.Count == 0 ? [] : (await (from line in db.Set<DocumentLine>()
                                                            join source in db.Documents on line.DocumentId equals source.Id
                                                            where fromLines.Contains(line.Id) && source.Kind == DocumentKind.DeliveryNote
                                                            select line.Id).ToListAsync(stop)).ToHashSet();
        var moving = document.Lines.Where(l => l.ItemId is not null && l.Counts && l.Quantity != 0 && !(l.FromLineId is { } from && delivered.Contains(from))).ToList();
        var ids = moving.Select(l => l.ItemId!.Value).Distinct().ToList();
        var items = await db.Items.Where(i => ids.Contains(i.Id) && i.KeepsCount).ToDictionaryAsync(i => i.Id, stop);
        foreach (var line in moving.OrderBy(l => l.Position))
        {
            if (!items.TryGetValue(line.ItemId!.Value, out var item)) continue;
            db.StockMoves.Add(new StockMove(item, document.Date, document.Policy.MovesStock * line.Quantity, $"{document.Policy.Title} {document.Number}", writer.Who, document.Id));
        }
    }

    /// <summary>Undoes what a paper moved, as it is corrected or cancelled.</summary>
    public async Task TakeBackAsync(Document document, CancellationToken stop)
    {
        var moved = await db.StockMoves.Where(m => m.DocumentId == document.Id).GroupBy(m => m.ItemId).Select(g => new { g.Key, Quantity = g.Sum(m => m.Quantity) }).ToListAsync(stop);
        foreach (var move in moved.Where(m => m.Quantity != 0))
        {
            var item = await db.Items.SingleAsync(i => i.Id == move.Key, stop);
            db.StockMoves.Add(new StockMove(item, document.Date, -move.Quantity, $"{document.Policy.Title} {document.Number} taken back", writer.Who, document.Id));
        }
    }
}
