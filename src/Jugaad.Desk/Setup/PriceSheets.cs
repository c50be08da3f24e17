using System.Text.Json;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Pricing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>How the prices of a list are computed.</summary>
/// <param name="FromListId">The list that they are computed from; null for the items' own prices.</param>
/// <param name="Factor">What each is multiplied by; above zero, at most 6 decimals.</param>
/// <param name="OnlyMissing">Whether items that have a price in the list keep it.</param>
public sealed record PricesToCompute(int? FromListId, decimal Factor, PriceEnding Ending, bool OnlyMissing);

/// <summary>What a computation would do, or did.</summary>
/// <param name="Prices">The new price of each item that gets another than it has, by the item's id.</param>
/// <param name="Left">Codes of items whose price has the tax in it where the list's has not, or the other way round.
/// </param>
public sealed record ComputedPrices(IReadOnlyDictionary<int, decimal?> Prices, IReadOnlyList<string> Left);

/// <summary>
/// Types the prices of a list for many items at once, or computes them from another list. Each is a change of items
/// that can be taken back (<see cref="ItemBatches.UndoAsync"/>).
/// </summary>
public sealed class PriceSheets(BooksContext db, BookWriter writer, BooksHead head)
{
    /// <summary>Sets prices of a list, all or none.</summary>
    /// <param name="prices">By the item's id; null takes the item out of the list.</param>
    /// <returns>The change, by which it can be undone.</returns>
    /// <exception cref="RefusalException">With each price that cannot be, in <c>price[itemId]</c>; or when nothing
    /// changes.</exception>
    public Task<int> SetAsync(int listId, IReadOnlyDictionary<int, decimal?> prices, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var list = await FindAsync(listId, stop);
                return await SetAsync(list, prices, $"prices of {list.Name} typed", stop);
            }
        );

    /// <summary>What computing would change.</summary>
    /// <exception cref="RefusalException">When it cannot be computed so.</exception>
    public async Task<ComputedPrices> LookAsync(int listId, PricesToCompute how, CancellationToken stop = default)
    {
        var list = await FindAsync(listId, stop);
        var from = how.FromListId is { } id ? await FindAsync(id, stop) : null;
        var refusals = new Refusals();
        if (how.Factor is <= 0 or > 1_000_000 || PlainDecimal.DecimalsOf(how.Factor) > Limits.FigureDecimals)
            refusals.Add("factor", "Multiply by a figure above zero with at most 6 decimals, such as 11.3 or 0.85.");
        if (from?.Id == list.Id)
            refusals.Add("from", $"Prices of {list.Name} are not computed from themselves. Choose another list.");
        if (from is not null && from.IncludesTax != list.IncludesTax)
            refusals.Add(
                "from",
                $"The prices of {from.Name} are {(from.IncludesTax ? "with" : "without")} tax, and those of {list.Name} are not. Choose another list."
            );
        refusals.ThrowIfAny();
        var prices = new Dictionary<int, decimal?>();
        var left = new List<string>();
        foreach (
            var item in await db.Items.AsNoTracking().Where(i => !i.Inactive).OrderBy(i => i.Code).ToListAsync(stop)
        )
        {
            var there = PriceIn(item, list.Id);
            if (how.OnlyMissing && there is not null)
                continue;
            if (from is null && item.PriceIncludesTax != list.IncludesTax)
            {
                left.Add(item.Code);
                continue;
            }

            if ((from is null ? item.Price : PriceIn(item, from.Id)) is not { } price)
                continue;
            var computed = ComputedPrice.Of(price, how.Factor, how.Ending);
            if (computed != there)
                prices[item.Id] = computed;
        }

        return new ComputedPrices(prices, left);
    }

    /// <summary>Computes the prices of a list.</summary>
    /// <inheritdoc cref="SetAsync(int, IReadOnlyDictionary{int, decimal?}, Once)"/>
    public Task<int> ComputeAsync(int listId, PricesToCompute how, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var list = await FindAsync(listId, stop);
                var from = how.FromListId is { } id ? (await FindAsync(id, stop)).Name : "the items' own prices";
                var format = (await head.BusinessAsync(stop)).Format;
                return await SetAsync(
                    list,
                    (await LookAsync(listId, how, stop)).Prices,
                    $"prices of {list.Name} computed from {from} × {format.Figure(how.Factor)}",
                    stop
                );
            }
        );

    /// <summary>Says on which days a list holds, and which one comes after it.</summary>
    /// <exception cref="RefusalException">When the days cannot be, or the lists follow each other in a circle.</exception>
    public Task<int> HoldAsync(int listId, DateOnly? from, DateOnly? until, int? followedBy, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var list = await FindAsync(listId, stop);
                var next = followedBy is { } id ? await FindAsync(id, stop) : null;
                if (next is not null && !next.Currency.Equals(list.Currency))
                    throw new RefusalException(
                        "followedBy",
                        $"{next.Name} is in {next.Currency} and {list.Name} in {list.Currency}. Choose one in the same currency."
                    );
                list.Hold(from, until, followedBy);
                var lists = await db.PriceLists.ToDictionaryAsync(l => l.Id, stop);
                var seen = new HashSet<int>();
                for (int? at = listId; at is { } one; at = lists[one].FollowedById)
                    if (!seen.Add(one))
                        throw new RefusalException("followedBy", "These lists would follow each other in a circle.");
                await writer.TrailAsync(
                    $"Price list {list.Name} holds {(from is { } f ? (Phrase)$"from {f} " : "")}{(until is { } u ? (Phrase)$"until {u}" : from is null ? "always" : "on")}{(next is null ? "" : $", and then {next.Name}")}"
                );
                return listId;
            }
        );

    private async Task<int> SetAsync(
        PriceList list,
        IReadOnlyDictionary<int, decimal?> prices,
        string words,
        CancellationToken stop
    )
    {
        var refusals = new Refusals();
        var rows = new List<ItemBatchRow>();
        foreach (var item in await db.Items.Where(i => prices.Keys.Contains(i.Id)).OrderBy(i => i.Id).ToListAsync(stop))
        {
            var (before, price) = (item.Details(), prices[item.Id]);
            if (PriceIn(item, list.Id) == price)
                continue;
            var after = new Dictionary<int, decimal>(before.Prices);
            if (price is { } set)
                after[list.Id] = set;
            else
                after.Remove(list.Id);
            try
            {
                item.Describe(before with { Prices = after });
            }
            catch (RefusalException refused)
            {
                refusals.Add($"price[{item.Id}]", refused.Refusals[0].Phrase);
                continue;
            }

            rows.Add(
                new ItemBatchRow
                {
                    ItemId = item.Id,
                    Before = JsonSerializer.Serialize(before),
                    VersionAfter = item.Version,
                }
            );
        }

        refusals.ThrowIfAny();
        if (rows.Count == 0)
            throw new RefusalException("", "No price would be another than it is.");
        var batch = new ItemBatch
        {
            Day = await head.TodayAsync(stop),
            Who = writer.Who,
            Words = $"{(rows.Count == 1 ? "1 item" : $"{rows.Count} items")} changed: {words}",
            Rows = rows,
        };
        db.ItemBatches.Add(batch);
        await writer.TrailAsync(batch.Words);
        await writer.SaveAsync(stop);
        return batch.Id;
    }

    private static decimal? PriceIn(Item item, int listId) =>
        item.Prices.FirstOrDefault(p => p.PriceListId == listId)?.Price;

    private async Task<PriceList> FindAsync(int id, CancellationToken stop) =>
        await db.PriceLists.SingleOrDefaultAsync(l => l.Id == id, stop)
        ?? throw new RefusalException("from", "Choose a price list from the list.");
}
