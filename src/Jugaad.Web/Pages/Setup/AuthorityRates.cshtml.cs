using Jugaad.Core;
using Jugaad.Core.Exchange;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>The rates at which an authority wants tax in other currencies.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class AuthorityRatesModel(AuthorityRatesDesk desk, BooksContext db) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public TaxAuthority Authority { get; private set; } = null!;

    public IReadOnlyList<AuthorityRate> Rates { get; private set; } = [];

    public IEnumerable<(string, string)> Ways
    {
        get
        {
            var home = Business!.HomeCurrency.Code;
            return [("", $"{home} for one of the currency"), ("1", $"the currency for one {home}")];
        }
    }

    protected override async Task<bool> ShowAsync()
    {
        if (await db.TaxAuthorities.AsNoTracking().SingleOrDefaultAsync(a => a.Id == Id) is not { } authority)
            return false;
        Authority = authority;
        Rates = await desk.OfAsync(Id);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var from = form.Date("from", "Give the day from which the rate holds.");
        var rate = form.Figure("rate", 20);
        form.ThrowIfAny();
        await desk.EnterAsync(
            Id,
            form.Text("currency"),
            from,
            new QuotedRate(rate, form.Text("perHome").Length > 0),
            form.Ticked("evenIfOff"),
            form.Key
        );
        return Kept("The rate is entered. What was told before stays as it was told.");
    }

    public async Task<IActionResult> OnPostRemoveAsync()
    {
        await desk.RemoveAsync(Form.Whole("id"), Form.Key);
        return Kept("The rate is taken out. What was told at it stays.");
    }

    public async Task<IActionResult> OnPostFileAsync(IFormFile? file)
    {
        if (file is null || file.Length == 0)
            throw new RefusalException("file", "Choose a file of exchange rates.");
        using var bytes = new MemoryStream();
        await file.CopyToAsync(bytes);
        var count = await desk.TakeAsync(Id, bytes.ToArray(), Path.GetFileName(file.FileName), Form.Key);
        return Kept($"{count} rates are taken in; what was typed stays.");
    }

    private RedirectResult Kept(string words)
    {
        Say(words);
        return Redirect($"/setup/authority-rates/{Id}");
    }
}
