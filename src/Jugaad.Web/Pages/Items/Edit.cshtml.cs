using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Items;

/// <summary>Adds or changes an item.</summary>
[Needs(Right.Masters)]
[Posts(Right.Masters)]
public sealed class EditModel(
    BooksContext db,
    ItemScreens screens,
    ItemsDesk desk,
    Wordings wordings,
    WordingsDesk words
) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int? Id { get; set; }

    /// <summary>Null for a new one.</summary>
    public Item? Item { get; private set; }

    public string Heading => Item is null ? "New item" : Item.Name;

    public string PriceText => Item is null ? "" : Format.TypedPrice(Item.Price, Business!.HomeCurrency);

    public IReadOnlyList<PriceList> Lists { get; private set; } = [];

    public IReadOnlyList<StockRow> Moves { get; private set; } = [];

    /// <summary>What papers call it in each language; empty where they say its own text.</summary>
    public IList<(string Code, string Name, string Text)> Said { get; } = [];

    public string ListPrice(PriceList list) =>
        Item?.Prices.FirstOrDefault(p => p.PriceListId == list.Id) is { } price
            ? Format.TypedPrice(price.Price, list.Currency)
            : "";

    public IEnumerable<(string, string)> UnitChoices => Choices.Units;

    public IEnumerable<(string, string)> TaxChoices { get; private set; } = [];

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    public IEnumerable<(string, string)> OriginChoices { get; } = Choices.Countries.Prepend(("", "not known"));

    protected override async Task<bool> ShowAsync()
    {
        Item = Id is null ? null : await db.Items.AsNoTracking().SingleOrDefaultAsync(i => i.Id == Id);
        TaxChoices = (
            await db
                .TaxCodes.AsNoTracking()
                .Where(c => !c.Retired || (Item != null && c.Id == Item.TaxCodeId))
                .OrderBy(c => c.Id)
                .ToListAsync()
        ).ConvertAll(c => (c.Id.ToString(), $"{c.Code} {c.Name} {c.RateTextOn(Today).In(Format)}".Trim()));
        AccountChoices = (
            await db
                .LedgerAccounts.Where(a =>
                    a.Role == AccountRole.Sales && (!a.Retired || (Item != null && a.Id == Item.LedgerAccountId))
                )
                .OrderBy(a => a.Code)
                .Select(a => new { a.Id, Name = a.Code + " " + a.Name })
                .ToListAsync()
        ).ConvertAll(a => (a.Id.ToString(), a.Name));
        Lists = await db.PriceLists.AsNoTracking().Where(l => !l.Retired).OrderBy(l => l.Name).ToListAsync();
        if (Item is { Id: var item })
            foreach (var (code, name) in await wordings.LanguagesAsync())
                Said.Add((code, name, (await wordings.ItemsAsync([item], code)).GetValueOrDefault(item) ?? ""));
        if (Item is { KeepsCount: true })
            Moves = await screens.MovesAsync(Item.Id);
        return Id is null || Item is not null;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var price = form.Figure("price", Limits.FigureDecimals);
        var cost = form.Figure("cost", Limits.FigureDecimals);
        var prices = new Dictionary<int, decimal>();
        foreach (
            var field in form.Fields.Where(f =>
                f.StartsWith("price-", StringComparison.Ordinal) && form.Text(f).Trim().Length > 0
            )
        )
            if (int.TryParse(field.AsSpan(6), out var list))
                prices[list] = form.Figure(field, Limits.FigureDecimals);
        // Prices in lists that are not offered any more are not on the form and stay.
        if (Id is { } id)
        {
            foreach (
                var kept in await db.Set<ItemPrice>()
                    .Where(p =>
                        EF.Property<int>(p, "ItemId") == id
                        && db.PriceLists.Any(l => l.Id == p.PriceListId && l.Retired)
                    )
                    .ToListAsync()
            )
                prices[kept.PriceListId] = kept.Price;
        }

        form.ThrowIfAny();
        await desk.SaveAsync(
            Id,
            form.Whole("version"),
            new ItemDetails
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
                PriceIncludesTax = form.Ticked("priceIncludesTax"),
                Cost = cost,
                Classification = form.Text("classification"),
                ClassificationList = form.Text("classificationList"),
                OriginCountry = form.Text("originCountry"),
                KeepsCount = form.Ticked("keepsCount"),
                Prices = prices,
                Inactive = form.Ticked("inactive"),
            },
            form.Key
        );
        Say("Saved.");
        return Redirect("/items");
    }

    public async Task<IActionResult> OnPostTextsAsync()
    {
        var form = Form;
        await words.WriteItemAsync(
            Id ?? 0,
            (await wordings.LanguagesAsync()).ToDictionary(l => l.Code, l => form.Text($"text-{l.Code}")),
            form.Key
        );
        Say("The texts are saved. What is issued already stays as it is.");
        return Redirect($"/items/{Id}");
    }

    public async Task<IActionResult> OnPostCountAsync()
    {
        var form = Form;
        var counted = form.Figure("counted", Limits.FigureDecimals);
        if (form.Text("counted").Trim().Length == 0)
            throw new Core.RefusalException("counted", "Give what you counted.");
        form.ThrowIfAny();
        await desk.CorrectCountAsync(Id ?? 0, counted, form.Text("reason"), form.Key);
        Say("The count is corrected.");
        return Redirect($"/items/{Id}");
    }
}
