using Jugaad.Core;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>Makes and changes items, their price lists and their count on hand.</summary>
public sealed class ItemsDesk(BooksContext db, BookWriter writer, BooksHead head, Retiring retiring)
{
    /// <inheritdoc cref="CustomersDesk.SaveAsync"/>
    public Task<int> SaveAsync(int? id, int version, ItemDetails details, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                await CheckAsync(id, details, stop);
                if (id is null)
                {
                    var made = new Item(details);
                    db.Items.Add(made);
                    await writer.SaveAsync(stop);
                    await writer.TrailAsync($"Item {made.Code} added");
                    return made.Id;
                }

                var item = await FindAsync(id.Value, stop);
                if (item.Version != version)
                    throw new RefusalException(
                        "",
                        "Somebody else changed this item while you had it open. What you typed is still here; compare it with the list, then save again from a fresh form."
                    );
                item.Describe(details);
                await writer.TrailAsync($"Item {item.Code} changed");
                return item.Id;
            }
        );

    /// <summary>Has an item sold no more, or again.</summary>
    public Task<int> RetireAsync(int id, bool retired, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var item = await FindAsync(id, stop);
                item.Retire(retired);
                await writer.TrailAsync($"Item {item.Code} {(retired ? "is not sold any more" : "is sold again")}");
                return item.Id;
            }
        );

    /// <summary>Corrects the count on hand by hand.</summary>
    /// <param name="counted">What there really is.</param>
    public Task<int> CorrectCountAsync(int id, decimal counted, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var item = await FindAsync(id, stop);
                var move = new StockMove(item, await head.TodayAsync(stop), counted - item.OnHand, reason, writer.Who);
                db.StockMoves.Add(move);
                await writer.TrailAsync(
                    $"Count of {item.Code} corrected by {move.Quantity} to {item.OnHand}: {move.Reason}"
                );
                return id;
            }
        );

    public Task<int> AddPriceListAsync(PriceList list, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                if (await db.PriceLists.AnyAsync(l => l.Name == list.Name, stop))
                    throw new RefusalException(
                        "name",
                        $"There is a price list {list.Name} already. Choose another name."
                    );
                db.PriceLists.Add(list);
                await writer.TrailAsync(
                    $"Price list {list.Name} added, in {list.Currency}{(list.IncludesTax ? ", with tax" : "")}"
                );
                await writer.SaveAsync(stop);
                return list.Id;
            }
        );

    public Task<int> RetirePriceListAsync(int id, bool retired, Once once = default) =>
        retiring.RetireAsync<PriceList>(Right.Masters, id, retired, once, list => $"Price list {list.Name}");

    private async Task CheckAsync(int? id, ItemDetails details, CancellationToken stop)
    {
        var refusals = new Refusals();
        var code = details.Code.Trim();
        var other = await db
            .Items.Where(c => c.Code == code && c.Id != (id ?? 0))
            .Select(c => c.Name)
            .FirstOrDefaultAsync(stop);
        if (other is not null)
            refusals.Add("code", $"The code {code} belongs to {other} already. Choose another.");
        if (details.TaxCodeId != 0 && !await db.TaxCodes.AnyAsync(t => t.Id == details.TaxCodeId, stop))
            refusals.Add("taxCodeId", "Choose a tax code from the list.");
        if (
            details.LedgerAccountId != 0
            && !await db.LedgerAccounts.AnyAsync(
                t => t.Id == details.LedgerAccountId && t.Role == AccountRole.Sales,
                stop
            )
        )
            refusals.Add("ledgerAccountId", "Choose a sales account from the list.");
        foreach (var barcode in Barcodes.Split(details.Barcode))
        {
            var pattern = SearchText.Entry(barcode);
            var taken = await db
                .Items.Where(i => i.Id != (id ?? 0) && EF.Functions.Like(i.Barcode, pattern, "\\"))
                .Select(i => i.Name)
                .FirstOrDefaultAsync(stop);
            if (taken is not null)
                refusals.Add(
                    "barcode",
                    $"The barcode {barcode} is that of {taken} already. Each barcode belongs to one item."
                );
        }

        var lists = (await db.PriceLists.Select(l => l.Id).ToListAsync(stop)).ToHashSet();
        foreach (var list in details.Prices.Keys.Where(l => !lists.Contains(l)))
            refusals.Add($"price-{list}", "This price list is not there. Load the page again.");
        refusals.ThrowIfAny();
    }

    private async Task<Item> FindAsync(int id, CancellationToken stop) =>
        await db.Items.SingleOrDefaultAsync(i => i.Id == id, stop)
        ?? throw new RefusalException("", $"There is no item {id}.");
}
