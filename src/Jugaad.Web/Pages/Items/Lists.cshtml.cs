using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Items;

/// <summary>Price lists.</summary>
[Needs(Right.Masters)]
[Posts(Right.Masters)]
public sealed class ListsModel(BooksContext db, ItemsDesk desk) : DeskPage
{
    public IReadOnlyList<(PriceList List, int Items, int Customers)> Lists { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Lists = (
            await db
                .PriceLists.AsNoTracking()
                .OrderBy(l => l.Retired)
                .ThenBy(l => l.Name)
                .Select(l => new
                {
                    List = l,
                    Items = db.Set<ItemPrice>().Count(p => p.PriceListId == l.Id),
                    Customers = db.Customers.Count(c => c.PriceListId == l.Id),
                })
                .ToListAsync()
        ).ConvertAll(l => (l.List, l.Items, l.Customers));
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await desk.AddPriceListAsync(
            new PriceList(Form.Text("name"), Form.Text("currency"), Form.Ticked("includesTax")),
            Form.Key
        );
        return Done("The list is added. Open it to enter its prices.");
    }

    public async Task<IActionResult> OnPostRetireAsync()
    {
        await desk.RetirePriceListAsync(Form.Whole("id"), Form.Text("retired").Length > 0, Form.Key);
        return Done("Done.");
    }
}
