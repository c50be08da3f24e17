using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Pricing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Items;

/// <summary>A price list: its prices typed for many items at once, or computed; and the days on which it holds.</summary>
[Needs(Right.Masters)]
[Posts(Right.Masters)]
public sealed class ListModel(BooksContext db, PriceSheets sheets) : DeskPage
{
    private const int MostShown = 500;

    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public PriceList List { get; private set; } = null!;

    public IReadOnlyList<(Item Item, decimal? Price)> Rows { get; private set; } = [];

    public int More { get; private set; }

    public string Search { get; private set; } = "";

    public IEnumerable<(string, string)> FromChoices { get; private set; } = [];

    public IEnumerable<(string, string)> AfterChoices { get; private set; } = [];

    /// <summary>What computing would do; null while nobody asked.</summary>
    public ComputedPrices? Computed { get; private set; }

    public static IEnumerable<(string, string)> EndingChoices =>
        [
            ("Cent", "to the cent"),
            ("Whole", "on .00, whole"),
            ("Half", "on .00 or .50"),
            ("Fifty", "on .50"),
            ("Ninety", "on .90"),
        ];

    /// <summary>What an item's price is, or would become, as it can be typed.</summary>
    public string Text(Item item, decimal? price)
    {
        var shown = Computed is { } c && c.Prices.TryGetValue(item.Id, out var computed) ? computed : price;
        return shown is { } figure ? Format.TypedPrice(figure, List.Currency) : "";
    }

    protected override async Task<bool> ShowAsync()
    {
        var lists = await db.PriceLists.AsNoTracking().OrderBy(l => l.Name).ToListAsync();
        if (lists.Find(l => l.Id == Id) is not { } list)
            return false;
        List = list;
        Search = Request.Query["q"].ToString().Trim();
        var items = db.Items.AsNoTracking().Where(i => !i.Inactive);
        if (Search.Length > 0)
        {
            var found = (await WordSearch.ItemsAsync(db, Search, HttpContext.RequestAborted)).Ids;
            items = items.Where(i => found.Contains(i.Id));
        }

        var shown = await items.OrderBy(i => i.Name).ThenBy(i => i.Id).Take(MostShown).ToListAsync();
        More = await items.CountAsync() - shown.Count;
        Rows = shown.ConvertAll(i => (i, i.Prices.FirstOrDefault(p => p.PriceListId == Id)?.Price));
        FromChoices = lists
            .Where(l => l.Id != Id)
            .Select(l => (Code(l.Id), $"{l.Name}, {l.Currency}"))
            .Prepend(("", $"items' own prices, {Business!.HomeCurrency}"));
        AfterChoices = lists
            .Where(l => l.Id != Id && l.Currency.Equals(list.Currency))
            .Select(l => (Code(l.Id), l.Name))
            .Prepend(("", "none"));
        return true;
    }

    private static string Code(int id) => id.ToString(CultureInfo.InvariantCulture);

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostPricesAsync()
    {
        var form = Form;
        var prices = new Dictionary<int, decimal?>();
        foreach (var field in form.Fields.Where(f => f.StartsWith("price[", StringComparison.Ordinal)))
            if (int.TryParse(field.AsSpan(6, field.Length - 7), out var id))
                prices[id] = form.Text(field).Trim().Length == 0 ? null : form.Figure(field, Limits.FigureDecimals);
        form.ThrowIfAny();
        await sheets.SetAsync(Id, prices, form.Key);
        return Back("The prices are kept. If it was a mistake, undo it in one go on the list of items.");
    }

    /// <summary>What computing would do, in the fields of the prices, where each can still be changed.</summary>
    public async Task<IActionResult> OnPostLookAsync()
    {
        var form = Form;
        Computed = await sheets.LookAsync(Id, HowOf(form));
        HttpContext.RequestServices.GetRequiredService<FieldState>().Remember([], Request.Form);
        return await ShownAsync();
    }

    public async Task<IActionResult> OnPostComputeAsync()
    {
        var form = Form;
        await sheets.ComputeAsync(Id, HowOf(form), form.Key);
        return Back("The prices are computed. If it was a mistake, undo it in one go on the list of items.");
    }

    public async Task<IActionResult> OnPostHoldAsync()
    {
        var form = Form;
        var (from, until) = (form.OptionalDate("holdsFrom"), form.OptionalDate("until"));
        form.ThrowIfAny();
        await sheets.HoldAsync(Id, from, until, form.Id("followedBy"), form.Key);
        return Back("Kept.");
    }

    private RedirectResult Back(string said)
    {
        Say(said);
        return Redirect($"/items/lists/{Id}{(Search.Length > 0 ? $"?q={Uri.EscapeDataString(Search)}" : "")}");
    }

    private static PricesToCompute HowOf(TypedForm form)
    {
        var factor = form.Figure("factor", Limits.FigureDecimals);
        form.ThrowIfAny();
        return new PricesToCompute(
            form.Id("from"),
            factor,
            form.Choice<PriceEnding>("ending"),
            form.Ticked("onlyMissing")
        );
    }
}
