using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Customers;

/// <summary>The numbers by which a customer knows our items.</summary>
[Needs(Right.See)]
[Posts(Right.Masters)]
public sealed class ItemNumbersModel(ItemNumbersDesk desk) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public NumberedItems View { get; private set; } = null!;

    public string Search => Request.Query["q"].ToString().Trim();

    public string Address => $"/customers/{Id}/items{(Search.Length > 0 ? $"?q={Uri.EscapeDataString(Search)}" : "")}";

    protected override async Task<bool> ShowAsync()
    {
        if (await desk.ViewAsync(Id, Search) is not { } view)
            return false;
        View = view;
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var changed = await desk.SaveAsync(
            Id,
            [
                .. form.Rows("items")
                    .Select(id => new NumberTyped(id, form.Text($"items[{id}].was"), form.Text($"items[{id}].number"))),
            ],
            form.Text("pasted"),
            form.Key
        );
        Say(
            changed == 0 ? "Nothing was changed."
            : changed == 1 ? "One number is kept."
            : $"{changed} numbers are kept."
        );
        return Redirect(Address);
    }
}
