using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages;

/// <summary>The day sheet.</summary>
public sealed class IndexModel(DayScreens screens) : DeskPage
{
    public DayView View { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        View = await screens.DayAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
