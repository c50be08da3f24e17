using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>What went through all steps: to hand over to somebody who collects, or to write off.</summary>
[Needs(Right.See)]
[Posts(Right.Collect)]
public sealed class GivingUpModel(GivingUpScreens screens, Desk.Collecting.Ladders ladders) : DeskPage
{
    public IReadOnlyList<GivingUpRow> Rows { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Rows = await screens.ReadAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnGetFolderAsync(int customer) =>
        await screens.FolderAsync(customer) is { } folder
            ? File(folder.Content, "application/zip", folder.Name)
            : NotFound();

    public async Task<IActionResult> OnPostHandOverAsync()
    {
        var form = Form;
        var to = form.Text("to").Trim();
        await ladders.LeaveOutAsync(
            form.Whole("customer"),
            null,
            null,
            to.Length > 0 ? $"Handed over to {to}" : "Handed over to be collected",
            form.Key
        );
        Say("Noted. They are written to no more, until somebody takes them in again.");
        return Redirect("/collect/giving-up");
    }
}
