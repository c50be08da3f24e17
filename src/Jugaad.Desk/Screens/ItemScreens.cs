using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>An item in the list.</summary>
public sealed record ItemRow(int Id, string Code, string Name, string Unit, string TaxCode, string Account, decimal Price, bool Inactive);

/// <summary>Reads items.</summary>
public sealed class ItemScreens(BooksContext db)
{
    public Task<ListPage<ItemRow>> ListAsync(string search, string sort, int page, CancellationToken stop = default)
    {
        var items = db.Items.AsNoTracking();
        if (search.Trim().Length > 0)
        {
            var pattern = Paging.Anywhere(search);
            var typed = search.Trim();
            items = items.Where(i => EF.Functions.Like(i.Name, pattern, "\\") || EF.Functions.Like(i.Code, pattern, "\\") || EF.Functions.Like(i.Text, pattern, "\\") || i.Barcode == typed);
        }

        items = sort switch
        {
            "code" => items.OrderBy(i => i.Code),
            "-code" => items.OrderByDescending(i => i.Code),
            "-name" => items.OrderByDescending(i => i.Name),
            "price" => items.OrderBy(i => i.Price).ThenBy(i => i.Name),
            "-price" => items.OrderByDescending(i => i.Price).ThenBy(i => i.Name),
            _ => items.OrderBy(i => i.Name),
        };
        return (from item in items
                join code in db.TaxCodes on item.TaxCodeId equals code.Id
                join account in db.LedgerAccounts on item.LedgerAccountId equals account.Id
                select new ItemRow(item.Id, item.Code, item.Name, item.Unit, code.Code, account.Code + " " + account.Name, item.Price, item.Inactive)).PageAsync(page, stop);
    }
}
