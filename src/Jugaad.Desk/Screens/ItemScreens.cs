using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
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
    public Task<ListPage<ItemRow>> ListAsync(string search, string sort, int page, CancellationToken stop = default)
    {
        var items = Fitting(search);
        items = sort switch
        {
            "code" => items.OrderBy(i => i.Code),
            "-code" => items.OrderByDescending(i => i.Code),
            "-name" => items.OrderByDescending(i => i.Name),
            "price" => items.OrderBy(i => i.Price).ThenBy(i => i.Name),
            "-price" => items.OrderByDescending(i => i.Price).ThenBy(i => i.Name),
            _ => items.OrderBy(i => i.Name),
        };
        return (
            from item in items
            join code in db.TaxCodes on item.TaxCodeId equals code.Id
            join account in db.LedgerAccounts on item.LedgerAccountId equals account.Id
            select new ItemRow(
                item.Id,
                item.Code,
                item.Name,
                item.Unit,
                code.Code,
                account.Code + " " + account.Name,
                item.Price,
                item.PriceIncludesTax,
                item.KeepsCount ? item.OnHand : null,
                item.Inactive
            )
        ).PageAsync(page, stop);
    }

    /// <summary>All items that a search finds, for changing them at once.</summary>
    public async Task<IReadOnlyList<int>> IdsAsync(string search, CancellationToken stop = default) =>
        await Fitting(search).Select(i => i.Id).ToListAsync(stop);

    public async Task<IReadOnlyList<StockRow>> MovesAsync(int id, CancellationToken stop = default) =>
        await db
            .StockMoves.Where(m => m.ItemId == id)
            .OrderByDescending(m => m.Id)
            .Take(40)
            .Select(m => new StockRow(m.Date, m.Reason, m.Who, m.DocumentId, m.Quantity))
            .ToListAsync(stop);

    private IQueryable<Item> Fitting(string search)
    {
        var items = db.Items.AsNoTracking();
        if (search.Trim().Length == 0)
            return items;
        var pattern = SearchText.Anywhere(search);
        var barcode = SearchText.Entry(search);
        return items.Where(i =>
            EF.Functions.Like(i.Name, pattern, "\\")
            || EF.Functions.Like(i.Code, pattern, "\\")
            || EF.Functions.Like(i.Text, pattern, "\\")
            || EF.Functions.Like(i.Classification, pattern, "\\")
            || EF.Functions.Like(i.Barcode, barcode, "\\")
        );
    }
}
