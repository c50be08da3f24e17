using System.Globalization;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Customers;

/// <summary>A statement of account as its paper, with what can be done with it in the margin.</summary>
[Needs(Right.See)]
[Posts(Right.Mail)]
public sealed class StatementModel(AccountScreens screens, Statements statements, StatementRun run) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public string Name { get; private set; } = "";

    public StatementWish Wish { get; private set; } = null!;

    public IReadOnlyList<string> Pages { get; private set; } = [];

    /// <summary>The key of the only side of the account that is shown; null for each currency.</summary>
    public string? Only { get; private set; }

    /// <summary>What can be shown, each with its key; empty where they are billed in one currency.</summary>
    public IReadOnlyList<(string Value, string Text)> SideChoices { get; private set; } = [];

    public string WishOfAddress => $"on={Iso(Wish.Day)}{(Wish.From is { } from ? $"&from={Iso(from)}" : "")}";

    private static string Iso(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.FindAsync(Id) is not { } customer)
            return false;
        Name = customer.Name;
        var on = AskedDay("on") ?? Today;
        Wish = new StatementWish(AskedDay("from") is { } from && from <= on ? from : null, on);
        if (customer.Currencies.Count > 1)
        {
            SideChoices =
            [
                ("", "each currency, as they get it"),
                .. customer.Currencies.Select(c => (c.Code, $"{c} only")),
                ("all", $"all in {Business!.HomeCurrency}, for ourselves"),
            ];
            Only = Request.Query["in"].ToString() is { Length: > 0 } key ? key : null;
        }

        Pages = await statements.SvgAsync(Id, Wish, Only);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnGetPdfAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var (name, content) = await statements.PdfAsync(Id, Wish, Only);
        Response.Headers.ContentDisposition = $"inline; filename=\"{name}\"";
        return File(content, "application/pdf");
    }

    public async Task<IActionResult> OnPostAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        await run.SendAsync(Id, Wish, Form.Key);
        Say($"The statement to {Name} is in the post");
        return Redirect($"/customers/{Id}/statement?{WishOfAddress}");
    }
}
