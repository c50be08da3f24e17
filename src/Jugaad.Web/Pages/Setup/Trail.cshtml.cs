using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>The trail, to be searched.</summary>
[Needs(Right.See)]
public sealed class TrailModel(TrailList list, TrailScreens screens) : DeskPage
{
    public TrailFilter Filter { get; private set; } = new("", "", null, null);

    public Stretch<TrailRow> List { get; private set; } = null!;

    public IReadOnlyList<string> People { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Filter = TrailList.FilterOf(Listing);
        List = await list.ReadAsync(Listing);
        People = await screens.PeopleAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
