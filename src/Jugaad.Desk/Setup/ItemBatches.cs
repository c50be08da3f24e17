using System.Text.Json;
using Jugaad.Core;
using Jugaad.Core.Pricing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>What a change would make of one item.</summary>
public sealed record ItemChangePreview(Item Item, ItemDetails Before, ItemDetails After);

/// <summary>Changes many items at once, shows beforehand what becomes of each, and takes the change back.</summary>
public sealed class ItemBatches(BooksContext db, BookWriter writer, BooksHead head)
{
    private const int Most = 5_000;

    /// <exception cref="RefusalException">When the change cannot be, or no item is chosen.</exception>
    public async Task<IReadOnlyList<ItemChangePreview>> PreviewAsync(
        IReadOnlyCollection<int> ids,
        ItemChange change,
        CancellationToken stop = default
    )
    {
        await CheckAsync(ids, change, stop);
        var items = await db.Items.AsNoTracking().Where(i => ids.Contains(i.Id)).OrderBy(i => i.Name).ToListAsync(stop);
        return items
            .Select(i => new ItemChangePreview(i, i.Details(), change.Apply(i.Details())))
            .Where(p => !Same(p.Before, p.After))
            .ToList();
    }

    /// <returns>The batch, by which the change can be undone.</returns>
    public Task<int> ApplyAsync(IReadOnlyCollection<int> ids, ItemChange change, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                await CheckAsync(ids, change, stop);
                var rows = new List<ItemBatchRow>();
                foreach (var item in await db.Items.Where(i => ids.Contains(i.Id)).OrderBy(i => i.Id).ToListAsync(stop))
                {
                    var before = item.Details();
                    var after = change.Apply(before);
                    if (Same(before, after))
                        continue;
                    item.Describe(after);
                    rows.Add(
                        new ItemBatchRow
                        {
                            ItemId = item.Id,
                            Before = JsonSerializer.Serialize(before),
                            VersionAfter = item.Version,
                        }
                    );
                }

                if (rows.Count == 0)
                    throw new RefusalException("", "None of the items chosen would change.");
                var batch = new ItemBatch
                {
                    Day = await head.TodayAsync(stop),
                    Who = writer.Who,
                    Words = $"{Count(rows.Count)} changed: {await WordsAsync(change, stop)}",
                    Rows = rows,
                };
                db.ItemBatches.Add(batch);
                await writer.TrailAsync(batch.Words);
                await writer.SaveAsync(stop);
                return batch.Id;
            }
        );

    /// <summary>
    /// Gives every item of the batch its details back. Items that were changed since are left as they are, and named.
    /// </summary>
    /// <exception cref="RefusalException">When it was undone already, or every item was changed since.</exception>
    public Task<int> UndoAsync(int batchId, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var batch =
                    await db.ItemBatches.Include(b => b.Rows).SingleOrDefaultAsync(b => b.Id == batchId, stop)
                    ?? throw new RefusalException("", $"There is no change {batchId}.");
                if (batch.Undone)
                    throw new RefusalException("", "This change was undone already.");
                var ids = batch.Rows.Select(r => r.ItemId).ToList();
                var items = await db.Items.Where(i => ids.Contains(i.Id)).ToDictionaryAsync(i => i.Id, stop);
                var left = new List<string>();
                foreach (var row in batch.Rows)
                {
                    var item = items[row.ItemId];
                    if (item.Version == row.VersionAfter)
                        item.Describe(JsonSerializer.Deserialize<ItemDetails>(row.Before)!);
                    else
                        left.Add(item.Code);
                }

                if (left.Count == batch.Rows.Count)
                    throw new RefusalException(
                        "",
                        "Each of these items was changed again since. Change them back by hand."
                    );
                batch.Undone = true;
                await writer.TrailAsync(
                    $"Undone: {batch.Words}{(left.Count == 0 ? "" : $"; left as they are, because they were changed since: {string.Join(", ", left.Take(20))}")}"
                );
                return batch.Id;
            }
        );

    public async Task<IReadOnlyList<ItemBatch>> LatestAsync(CancellationToken stop = default) =>
        await db.ItemBatches.AsNoTracking().OrderByDescending(b => b.Id).Take(5).ToListAsync(stop);

    private async Task CheckAsync(IReadOnlyCollection<int> ids, ItemChange change, CancellationToken stop)
    {
        var refusals = new Refusals();
        refusals.Try(change.Check);
        if (ids.Count == 0)
            refusals.Add("", "No item is chosen. Tick those to change in the list.");
        if (ids.Count > Most)
            refusals.Add("", $"At most {Most} items are changed at once.");
        if (change.TaxCodeId is { } code && !await db.TaxCodes.AnyAsync(c => c.Id == code && !c.Retired, stop))
            refusals.Add("taxCodeId", "Choose a tax code from the list.");
        if (
            change.LedgerAccountId is { } account
            && !await db.LedgerAccounts.AnyAsync(
                a => a.Id == account && a.Role == Core.Journal.AccountRole.Sales && !a.Retired,
                stop
            )
        )
            refusals.Add("ledgerAccountId", "Choose a sales account from the list.");
        if (change.PriceListId is { } list && !await db.PriceLists.AnyAsync(l => l.Id == list, stop))
            refusals.Add("priceListId", "Choose a price list from the list.");
        refusals.ThrowIfAny();
    }

    private static bool Same(ItemDetails a, ItemDetails b) =>
        a with { Prices = b.Prices } == b
        && a.Prices.Count == b.Prices.Count
        && a.Prices.All(p => b.Prices.TryGetValue(p.Key, out var price) && price == p.Value);

    private async Task<string> WordsAsync(ItemChange change, CancellationToken stop)
    {
        var said = new List<string>();
        var format = (await head.BusinessAsync(stop)).Format;
        if (change.TaxCodeId is { } code)
            said.Add($"tax {await db.TaxCodes.Where(c => c.Id == code).Select(c => c.Code).SingleAsync(stop)}");
        if (change.LedgerAccountId is { } account)
            said.Add(
                $"account {await db.LedgerAccounts.Where(a => a.Id == account).Select(a => a.Code).SingleAsync(stop)}"
            );
        if (change.Classification is { } classification)
            said.Add(classification.Length == 0 ? "no classification" : $"classification {classification}");
        if (change.Percent is { } percent)
            said.Add($"prices moved by {format.Percent(percent)}, to the nearest {format.Figure(change.Step)}");
        return string.Join(", ", said);
    }

    private static string Count(int items) => items == 1 ? "1 item" : $"{items} items";
}
