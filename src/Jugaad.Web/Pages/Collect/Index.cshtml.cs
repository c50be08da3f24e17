using Jugaad.Desk.Books;
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
    public IReadOnlyList<LateGroup> Groups { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        var reminded = await screens.RemindedAsync();
        Groups = (await screens.LateAsync()).GroupBy(r => r.CustomerId)
            .OrderByDescending(g => g.Sum(r => r.HomeOpen)).Select(g => new LateGroup(g.ToList(), reminded.GetValueOrDefault(g.Key))).ToList();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
