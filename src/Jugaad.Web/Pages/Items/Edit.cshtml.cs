using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Items;

/// <summary>Adds or changes an item.</summary>
[Needs(Right.Masters)]
public sealed class EditModel(BooksContext db, ItemsDesk desk) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int? Id { get; set; }

    /// <summary>Null for a new one.</summary>
    public Item? Item { get; private set; }

    public string Heading => Item is null ? "New item" : Item.Name;

    public string PriceText => Item is null ? "" : Format.TypedPrice(Item.Price, Business!.HomeCurrency);

    public IEnumerable<(string, string)> UnitChoices => Choices.Units;

    public IEnumerable<(string, string)> TaxChoices { get; private set; } = [];

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Item = Id is null ? null : await db.Items.AsNoTracking().SingleOrDefaultAsync(i => i.Id == Id);
        TaxChoices = (await db.TaxCodes.AsNoTracking().OrderBy(c => c.Id).ToListAsync()).ConvertAll(c => (c.Id.ToString(), $"{c.Code} {c.Name} {c.RateTextOn(Today)}".Trim()));
        AccountChoices = (await db.LedgerAccounts.Where(a => a.Role == AccountRole.Sales).OrderBy(a => a.Code).Select(a => new { a.Id, Name = a.Code + " " + a.Name }).ToListAsync()).ConvertAll(a => (a.Id.ToString(), a.Name));
        return Id is null || Item is not null;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await ReadHeadAsync();
        var form = Form;
        var price = form.Figure("price", Limits.FigureDecimals);
        form.ThrowIfAny();
        await desk.SaveAsync(Id, form.Whole("version"), new ItemDetails
        {
            Code = form.Text("code"),
            Name = form.Text("name"),
            Text = form.Text("text"),
            IsGoods = form.Ticked("goods"),
            Unit = form.Text("unit"),
            Price = price,
            TaxCodeId = form.Whole("taxCodeId"),
            LedgerAccountId = form.Whole("ledgerAccountId"),
            Barcode = form.Text("barcode"),
            Inactive = form.Ticked("inactive"),
        }, form.Key);
        Say("Saved.");
        return Redirect("/items");
    }
}
