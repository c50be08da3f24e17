using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>What is on hand of an item follows from its moves.</summary>
internal sealed class StockProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var moved = await db
            .StockMoves.GroupBy(m => m.ItemId)
            .Select(g => new { g.Key, Sum = g.Sum(m => m.Quantity) })
            .ToDictionaryAsync(g => g.Key, g => g.Sum, stop);
        foreach (
            var item in await db
                .Items.Select(i => new
                {
                    i.Id,
                    i.Code,
                    i.OnHand,
                })
                .ToListAsync(stop)
        )
            if (moved.GetValueOrDefault(item.Id) != item.OnHand)
                findings.Add(
                    $"{item.Code}: {PlainDecimal.Text(item.OnHand)} on hand is kept, its moves come to {PlainDecimal.Text(moved.GetValueOrDefault(item.Id))}"
                );
        await PapersAsync(findings, stop);
        findings.Count("stock moves", await db.StockMoves.LongCountAsync(stop));
    }

    /// <summary>What a paper moved is on its lines, of its day, and no more than these say.</summary>
    private async Task PapersAsync(Findings findings, CancellationToken stop)
    {
        var moves = (await db.StockMoves.Where(m => m.DocumentId != null).ToListAsync(stop))
            .GroupBy(m => m.DocumentId!.Value)
            .ToList();
        var ids = moves.ConvertAll(m => m.Key);
        var documents = new Dictionary<int, Document>();
        foreach (var some in ids.Chunk(500))
        {
            foreach (
                var document in await db
                    .Documents.Include(d => d.Lines)
                    .Where(d => some.Contains(d.Id))
                    .ToListAsync(stop)
            )
                documents[document.Id] = document;
        }
        var from = documents
            .Values.SelectMany(d => d.Lines)
            .Select(l => l.FromLineId)
            .OfType<int>()
            .Distinct()
            .ToList();
        var sources = new Dictionary<int, DocumentLine>();
        foreach (var some in from.Chunk(500))
        {
            foreach (var line in await db.Set<DocumentLine>().Where(l => some.Contains(l.Id)).ToListAsync(stop))
                sources[line.Id] = line;
        }
        foreach (var same in moves)
        {
            if (!documents.TryGetValue(same.Key, out var document))
            {
                findings.Add($"Stock moves of a paper that is not there: {same.Key}");
                continue;
            }

            findings.Unless(
                document.Policy.MovesStock != 0 && !document.Particulars.GoodsStay,
                $"{document.Number}: moved stock and moves none"
            );
            foreach (var item in same.GroupBy(m => m.ItemId))
            {
                // A stage has the item of the line that it bills; what it bills last moves all of that.
                var lines = document
                    .Lines.Where(l =>
                        l.Counts
                        && (
                            l.ItemId == item.Key
                            || (l.FromLineId is { } of && sources.GetValueOrDefault(of)?.ItemId == item.Key)
                        )
                    )
                    .ToList();
                var most = lines.Sum(l =>
                    Math.Max(
                        Math.Abs(l.Quantity),
                        l.Role == LineRole.Stage && l.FromLineId is { } of
                            ? Math.Abs(sources.GetValueOrDefault(of)?.Quantity ?? 0)
                            : 0
                    )
                );
                findings.Unless(
                    lines.Count > 0 && Math.Abs(item.Sum(m => m.Quantity)) <= most,
                    $"{document.Number}: moved more of an item than is on it"
                );
                findings.Unless(
                    item.All(m => m.Date >= document.Date) && item.Any(m => m.Date == document.Date),
                    $"{document.Number}: moved stock on another day than its own"
                );
            }
        }
    }
}
