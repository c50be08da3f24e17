using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>The trail, to be searched.</summary>
[Needs(Right.See)]
public sealed class TrailModel(TrailScreens screens) : DeskPage
{
    public TrailFilter Filter { get; private set; } = new("", "", null, null, 1);

    public ListPage<TrailRow> List { get; private set; } = null!;

    public IReadOnlyList<string> People { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Filter = new TrailFilter(
            Request.Query["q"].ToString(),
            Request.Query["who"].ToString(),
            AskedDay("from"),
            AskedDay("until"),
            int.TryParse(Request.Query["page"], out var page) ? page : 1
        );
        List = await screens.ListAsync(Filter);
        People = await screens.PeopleAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
