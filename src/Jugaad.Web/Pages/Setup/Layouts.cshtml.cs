using System.Text;
using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>The layouts of papers: those that ship, our own, and which papers get which.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class LayoutsModel(BooksContext db, LayoutRoom layouts, LayoutRules rules, Wordings wordings) : DeskPage
{
    public IReadOnlyList<ListedLayout> Own { get; private set; } = [];

    public IReadOnlyList<ListedRule> Rules { get; private set; } = [];

    public static IReadOnlyList<(string Key, Layout Layout)> Shipped { get; } =
    [.. ShippedLayouts.Keys.Select(k => (k, ShippedLayouts.Of(k)))];

    public static string SizeOf(Layout layout) =>
        layout.IsStrip
            ? $"strip of {Core.Amounts.PlainDecimal.Text((decimal)layout.Width)} mm"
            : $"{Core.Amounts.PlainDecimal.Text((decimal)layout.Width)} × {Core.Amounts.PlainDecimal.Text((decimal)layout.Height)} mm";

    public IEnumerable<(string, string)> LayoutChoices =>
        Own.Where(l => l.InUse).Select(l => ($"{l.Id}", l.Name)).Concat(Shipped.Select(s => (s.Key, s.Layout.Name)));

    public IEnumerable<(string, string)> KindChoices { get; } =
        PaperKinds.All.Select(k => (k, PaperKinds.Name(k))).Prepend(("", "all papers"));

    public IEnumerable<(string, string)> LanguageChoices { get; private set; } = [];

    public IEnumerable<(string, string)> SeriesChoices { get; private set; } = [];

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    protected override async Task<bool> ShowAsync()
    {
        Own = await layouts.AllAsync();
        Rules = await rules.AllAsync();
        LanguageChoices = (await wordings.LanguagesAsync()).Prepend(("", "in any language"));
        SeriesChoices = (await db.Series.OrderBy(s => s.Name).Select(s => new { s.Id, s.Name }).ToListAsync())
            .ConvertAll(s => ($"{s.Id}", s.Name))
            .Prepend(("", "any number series"));
        return true;
    }

    public async Task<IActionResult> OnPostCopyAsync()
    {
        var id = await layouts.CopyAsync(Form.Text("of"), Form.Text("layoutName"), Form.Key);
        return Redirect($"/setup/layouts/{id}");
    }

    public async Task<IActionResult> OnPostTakeInAsync()
    {
        var id = await layouts.TakeInAsync(await FileTextAsync(), Form.Key);
        Say("The layout is taken in.");
        return Redirect($"/setup/layouts/{id}");
    }

    public async Task<IActionResult> OnPostRemoveAsync()
    {
        await layouts.RemoveAsync(Form.Whole("id"), Form.Key);
        return Done("The layout is taken away. What was issued with it keeps its look.");
    }

    public async Task<IActionResult> OnPostRuleAsync()
    {
        var customer = Form.Text("customerCode");
        await rules.AddAsync(
            Form.Text("layout"),
            new PaperAsk(
                Form.Text("kind"),
                Form.Id("series"),
                Form.Text("language"),
                customer.Length == 0 ? 0 : await CustomerAsync(customer),
                Form.Text("currency").ToUpperInvariant()
            ),
            Form.Key
        );
        return Done("The rule is set. Papers that are issued from now on follow it.");
    }

    public async Task<IActionResult> OnPostEarlierAsync()
    {
        await rules.EarlierAsync(Form.Whole("id"), Form.Key);
        return Redirect("/setup/layouts");
    }

    public async Task<IActionResult> OnPostUnruleAsync()
    {
        await rules.RemoveAsync(Form.Whole("id"), Form.Key);
        return Done("The rule is taken away.");
    }

    private async Task<int> CustomerAsync(string code) =>
        await db.Customers.Where(c => c.Code == code || c.Name == code).Select(c => (int?)c.Id).FirstOrDefaultAsync()
        ?? throw new RefusalException("customerCode", $"No customer has the code or name “{code}”.");

    private async Task<string> FileTextAsync() =>
        await UploadAsync("file") is { } file
            ? Encoding.UTF8.GetString(file)
            : throw new RefusalException("file", "Choose the file of a layout.");
}
