using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Collect;

/// <summary>Customers who are late.</summary>
public sealed class LateList(LateScreens screens, AccountScreens accounts) : IPickable
{
    private static LateFilter FilterOf(Asked asked) => new(asked.Search, asked.Sort);

    public Task<Stretch<LateCustomer>> ReadAsync(Asked asked) => screens.ListAsync(FilterOf(asked), asked.Place);

    public Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop) =>
        screens.TotalsAsync(FilterOf(asked), stop);

    public Task<Report> ReportAsync(Asked asked, CancellationToken stop) =>
        screens.ReportAsync(FilterOf(asked), asked.Only, stop);

    public async Task<IReadOnlyList<int>> IdsAsync(Asked asked, int most, CancellationToken stop) =>
        [.. (await screens.IdsAsync(FilterOf(asked), stop)).Take(most + 1)];

    public Task<IReadOnlyDictionary<int, string>> NamesAsync(IReadOnlyCollection<int> ids, CancellationToken stop) =>
        accounts.NamesAsync(ids, stop);
}
