using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>All that was promised, agreed in parts, or not agreed to.</summary>
[Needs(Right.See)]
public sealed class PromisesModel(SaidScreens screens) : DeskPage
{
    public SaidByAll Said { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        Said = await screens.ReadAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
