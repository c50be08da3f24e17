using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Kept;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Sell;

/// <summary>Half-written documents that wait while another customer is served.</summary>
[Needs(Right.Draft)]
[Posts(Right.Draft)]
public sealed class ShelfModel(Shelf shelf) : DeskPage
{
    public IReadOnlyList<ShelfEntry> Entries { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Entries = await shelf.ListAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostReopenAsync()
    {
        return Redirect($"/sell/edit?kept={await shelf.ReopenAsync(Form.Whole("entry"), Form.Key)}");
    }

    public async Task<IActionResult> OnPostDropAsync()
    {
        await shelf.ForgetAsync(Form.Whole("entry"));
        return Done("Thrown away.");
    }
}
