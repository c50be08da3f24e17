using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>What one customer is late with.</summary>
public sealed record LateGroup(IReadOnlyList<LateRow> Rows, LastReminded? Reminded);

/// <summary>The overdue list.</summary>
[Needs(Right.See)]
public sealed class IndexModel(AccountScreens screens) : DeskPage
{
    public ListPage<IReadOnlyList<LateRow>> List { get; private set; } = null!;

    public IReadOnlyList<LateGroup> Groups { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        var reminded = await screens.RemindedAsync();
        List = await screens.LateAsync(int.TryParse(Request.Query["page"], out var page) ? page : 1);
        Groups = List.Rows.Select(r => new LateGroup(r, reminded.GetValueOrDefault(r[0].CustomerId))).ToList();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
