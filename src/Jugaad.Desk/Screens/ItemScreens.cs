using System.Linq.Expressions;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>An item in the list.</summary>
/// <param name="OnHand">Null where no count is kept.</param>
public sealed record ItemRow(
    int Id,
    string Code,
    string Name,
    string Unit,
    string TaxCode,
    string Account,
    decimal Price,
    bool PriceIncludesTax,
    decimal? OnHand,
    bool Inactive
);

/// <summary>A move of an item's count, with the count after it.</summary>
public sealed record StockRow(DateOnly Date, string Reason, string Who, int? DocumentId, decimal Quantity);

/// <summary>Reads items.</summary>
public sealed class ItemScreens(BooksContext db)
{
    private static readonly ListOrders<Row> Orders = new ListOrders<Row>(r => r.Item.Id, "name")
        .By("name", r => r.Item.Name)
        .By("code", r => r.Item.Code)
        .By("price", r => r.Item.Price);

    private static readonly Expression<Func<Row, ItemRow>> Shown = r => new ItemRow(
        r.Item.Id,
        r.Item.Code,
        r.Item.Name,
        r.Item.Unit,
        r.TaxCode,
        r.Account,
        r.Item.Price,
        r.Item.PriceIncludesTax,
        r.Item.KeepsCount ? r.Item.OnHand : null,
        r.Item.Inactive
    );

    public async Task<Stretch<ItemRow>> ListAsync(
        string search,
        string sort,
        ListPlace place,
        CancellationToken stop = default
    ) => await Orders.ReadAsync(await NarrowAsync(search, stop), sort, Shown, place, stop);

    public async Task<ListTotals> TotalsAsync(string search, CancellationToken stop = default) =>
        ListTotals.Of(await (await FittingAsync(search, stop)).CountAsync(stop));

    /// <summary>All items that a search finds, for a file.</summary>
    /// <param name="only">The rows that were picked; null for all.</param>
    public async Task<Report> ReportAsync(
        string search,
        string sort,
        IReadOnlyCollection<int>? only = null,
        CancellationToken stop = default
    )
    {
        var rows = await Orders.Sorted(await NarrowAsync(search, stop), sort, only).Select(Shown).ToListAsync(stop);
        return new Report(
            "items",
            "Items",
            "",
            [
                new("code", "Code"),
                new("name", "Name"),
                new("unit", "Unit"),
                new("tax", "Tax"),
                new("account", "Account"),
                new("price", "Price", true),
                new("withTax", "Tax in the price"),
                new("onHand", "On hand", true),
                new("inactive", "Inactive"),
            ],
            rows.ConvertAll(r => new ReportRow([
                r.Code,
                r.Name,
                r.Unit,
                r.TaxCode,
                r.Account,
                r.Price,
                r.PriceIncludesTax ? "included" : "",
                r.OnHand,
                r.Inactive ? "inactive" : "",
            ]))
        );
    }

    private async Task<IQueryable<Row>> NarrowAsync(string search, CancellationToken stop) =>
        from item in await FittingAsync(search, stop)
        join code in db.TaxCodes on item.TaxCodeId equals code.Id
        join account in db.LedgerAccounts on item.LedgerAccountId equals account.Id
        select new Row
        {
            Item = item,
            TaxCode = code.Code,
            Account = account.Code + " " + account.Name,
        };

    private sealed class Row
    {
        public required Item Item { get; init; }

        public required string TaxCode { get; init; }

        public required string Account { get; init; }
    }

    /// <inheritdoc cref="ListOrders{TRow}.IdsAsync"/>
    public async Task<IReadOnlyList<int>> IdsAsync(
        string search,
        string sort,
        int most,
        CancellationToken stop = default
    ) => await Orders.IdsAsync(await NarrowAsync(search, stop), sort, most, stop);

    /// <summary>What items are called.</summary>
    public async Task<IReadOnlyDictionary<int, string>> NamesAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop = default
    ) => await db.Items.Where(i => ids.Contains(i.Id)).ToDictionaryAsync(i => i.Id, i => i.Name, stop);

    public async Task<IReadOnlyList<StockRow>> MovesAsync(int id, CancellationToken stop = default) =>
        await db
            .StockMoves.Where(m => m.ItemId == id)
            .OrderByDescending(m => m.Id)
            .Take(40)
            .Select(m => new StockRow(m.Date, m.Reason, m.Who, m.DocumentId, m.Quantity))
            .ToListAsync(stop);

    private async Task<IQueryable<Item>> FittingAsync(string search, CancellationToken stop)
    {
        var items = db.Items.AsNoTracking();
        return search.Trim().Length == 0
            ? items
            : items.Where((await WordSearch.ItemsAsync(db, search, stop)).Among<Item>(i => i.Id));
    }
}
