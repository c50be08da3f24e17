using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>Saved beginnings, to be used at any time.</summary>
[Needs(Right.Draft)]
[Posts(Right.Draft)]
public sealed class StartersModel(BooksContext db, StartersDesk desk) : DeskPage
{
    public IReadOnlyList<Starter> Starters { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Starters = await db.Starters.AsNoTracking().OrderBy(s => s.Retired).ThenBy(s => s.Name).ToListAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await desk.DescribeAsync(Form.Whole("id"), Form.Text("name"), Form.Text("about"), Form.Key);
        return Done("Saved.");
    }

    public async Task<IActionResult> OnPostRetireAsync()
    {
        var retired = Form.Text("retired") == "yes";
        await desk.RetireAsync(Form.Whole("id"), retired, Form.Key);
        return Done(retired ? "It is offered no more." : "It is offered again.");
    }
}
