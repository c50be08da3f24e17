using Jugaad.Core.Amounts;
using Jugaad.Core.Pricing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Items;

/// <summary>Changes many items at once: say what, look at the outcome, apply; and undo.</summary>
[Needs(Right.Masters)]
[Posts(Right.Masters)]
public sealed class ChangeModel(BooksContext db, ItemsList list, ItemBatches batches) : DeskPage
{
    private const int MostItems = 100_000;

    private IReadOnlyDictionary<int, string> _codes = new Dictionary<int, string>();
    private IReadOnlyDictionary<int, string> _accounts = new Dictionary<int, string>();

    public IReadOnlyList<int> Ids { get; private set; } = [];

    /// <summary>Null before anybody has said what to change.</summary>
    public IReadOnlyList<ItemChangePreview>? Previews { get; private set; }

    public IEnumerable<(string, string)> TaxChoices { get; private set; } = [];

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    public IEnumerable<(string, string)> PriceListChoices { get; private set; } = [];

    public IEnumerable<(string, string)> ListChoices { get; private set; } = [];

    public string CodeOf(int id) => _codes.GetValueOrDefault(id, "");

    public string AccountOf(int id) => _accounts.GetValueOrDefault(id, "");

    /// <summary>The price that moves, or the item's own.</summary>
    public string PriceOf(ItemDetails details) =>
        Form.Id("priceListId") is { } list
            ? details.Prices.TryGetValue(list, out var price)
                ? Format.Typed(price)
                : ""
            : Format.TypedPrice(details.Price, Business!.HomeCurrency);

    public IHtmlContent Changed(string before, string after) =>
        before == after
            ? new HtmlContentBuilder().Append(after)
            : new HtmlContentBuilder()
                .AppendHtml("<span class=\"quiet\">")
                .Append(before.Length > 0 ? before : "none")
                .AppendHtml("</span> → <strong>")
                .Append(after.Length > 0 ? after : "none")
                .AppendHtml("</strong>");

    protected override async Task<bool> ShowAsync()
    {
        Ids = await PickedIdsAsync();
        var codes = await db.TaxCodes.AsNoTracking().OrderBy(c => c.Id).ToListAsync();
        var accounts = await db
            .LedgerAccounts.AsNoTracking()
            .Where(a => a.Role == Core.Journal.AccountRole.Sales)
            .OrderBy(a => a.Code)
            .ToListAsync();
        (_codes, _accounts) = (
            codes.ToDictionary(c => c.Id, c => c.Code),
            accounts.ToDictionary(a => a.Id, a => a.Code)
        );
        TaxChoices = codes
            .Where(c => !c.Retired)
            .Select(c => (c.Id.ToString(), $"{c.Code} {c.Name}"))
            .Prepend(("", "stays"));
        AccountChoices = accounts
            .Where(a => !a.Retired)
            .Select(a => (a.Id.ToString(), $"{a.Code} {a.Name}"))
            .Prepend(("", "stays"));
        PriceListChoices = (
            await db.PriceLists.AsNoTracking().Where(l => !l.Retired).OrderBy(l => l.Name).ToListAsync()
        )
            .ConvertAll(l => (l.Id.ToString(), $"{l.Name}, {l.Currency}"))
            .Prepend(("", "items' own prices"));
        ListChoices = Choices.Classifications(null).Skip(1).Prepend(("", "stays"));
        return true;
    }

    /// <summary>From the list, with what was picked there.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if ((await PickedIdsAsync()).Count > 0)
            return await ShownAsync();
        Say("Nothing is picked. Tick the items to change.");
        return Redirect("/items");
    }

    public async Task<IActionResult> OnPostPreviewAsync()
    {
        Previews = await batches.PreviewAsync((await PickedIdsAsync()).ToHashSet(), ChangeOf(Form));
        HttpContext.RequestServices.GetRequiredService<FieldState>().Remember([], Request.Form);
        return await ShownAsync();
    }

    public async Task<IActionResult> OnPostApplyAsync()
    {
        await batches.ApplyAsync((await PickedIdsAsync()).ToHashSet(), ChangeOf(Form), Form.Key);
        Say("Changed. If it was a mistake, undo it in one go below.");
        return Redirect("/items");
    }

    public async Task<IActionResult> OnPostUndoAsync()
    {
        await batches.UndoAsync(Form.Whole("batch"), Form.Key);
        Say("Undone. The trail says if any item had to be left as it is.");
        return Redirect("/items");
    }

    private static ItemChange ChangeOf(TypedForm form)
    {
        var percent =
            form.Text("percent").Trim().Length == 0 ? (decimal?)null : form.Figure("percent", Limits.PercentDecimals);
        var step = form.Text("step").Trim().Length == 0 ? 0.01m : form.Figure("step", Limits.FigureDecimals);
        form.ThrowIfAny();
        return new ItemChange
        {
            TaxCodeId = form.Id("taxCodeId"),
            LedgerAccountId = form.Id("ledgerAccountId"),
            Classification = form.Text("classify") == "set" ? form.Text("classification").Trim() : null,
            ClassificationList =
                form.Text("classify") == "set" && form.Text("classificationList") is { Length: > 0 } list ? list : null,
            Percent = percent,
            PriceListId = form.Id("priceListId"),
            Step = step,
        };
    }

    /// <summary>
    /// Those that the list sent along, or all that its filters let through, or those that the form had before it.
    /// </summary>
    private async Task<IReadOnlyList<int>> PickedIdsAsync()
    {
        if (Request.HasFormContentType)
            return [.. Form.Text("ids").Split(' ').Select(Picking.Read).Where(id => id > 0)];
        return Listing.Only
            ?? (
                Listing.Text("all").Length > 0
                    ? await list.IdsAsync(Listing, MostItems, HttpContext.RequestAborted)
                    : []
            );
    }
}
