using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Collect;

/// <summary>Whom to ask for money today, the most worthwhile first.</summary>
[Needs(Right.See)]
public sealed class IndexModel(ChaseList list, ChaseScreens screens) : DeskPage
{
    public ChaseFilter Filter { get; private set; } = null!;

    public Stretch<ChaseRow> List { get; private set; } = null!;

    public int Count { get; private set; }

    /// <summary>What of the list is late and can be asked for, in home currency.</summary>
    public long LateHome { get; private set; }

    public IReadOnlyList<(int Id, string Name)> People { get; private set; } = [];

    /// <summary>The filters, which go along to a customer and back.</summary>
    public string Wishes => Asked.FiltersOf(Request.Query);

    protected override async Task<bool> ShowAsync()
    {
        Filter = await list.FilterAsync(Listing);
        var all = await list.AllAsync(Listing);
        (Count, LateHome) = (all.Count, all.Sum(r => r.LateHome));
        List = Stretch.Of(all, r => r.CustomerId, Listing.Place);
        People = await screens.PeopleAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
