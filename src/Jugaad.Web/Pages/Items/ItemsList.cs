using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Items;

/// <summary>Items.</summary>
public sealed class ItemsList(ItemScreens screens) : IPickable
{
    public Task<Stretch<ItemRow>> ReadAsync(Asked asked) => screens.ListAsync(asked.Search, asked.Sort, asked.Place);

    public Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop) => screens.TotalsAsync(asked.Search, stop);

    public Task<Report> ReportAsync(Asked asked, CancellationToken stop) =>
        screens.ReportAsync(asked.Search, asked.Sort, asked.Only, stop);

    public Task<IReadOnlyList<int>> IdsAsync(Asked asked, int most, CancellationToken stop) =>
        screens.IdsAsync(asked.Search, asked.Sort, most, stop);

    public Task<IReadOnlyDictionary<int, string>> NamesAsync(IReadOnlyCollection<int> ids, CancellationToken stop) =>
        screens.NamesAsync(ids, stop);
}
