using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Sell;

/// <summary>Standing invoices.</summary>
public sealed class StandingList(StandingScreens screens) : IPickable
{
    public static StandingFilter FilterOf(Asked asked) => new(asked.Text("show"), asked.Search, asked.Sort);

    public async Task<Stretch<StandingRow>> ReadAsync(Asked asked) =>
        Stretch.Of(await screens.ListAsync(FilterOf(asked)), row => row.Standing.Id, asked.Place);

    public async Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop) =>
        ListTotals.Of((await screens.ListAsync(FilterOf(asked), stop)).Count);

    public Task<Report> ReportAsync(Asked asked, CancellationToken stop) =>
        screens.ReportAsync(FilterOf(asked), asked.Only, stop);

    public async Task<IReadOnlyList<int>> IdsAsync(Asked asked, int most, CancellationToken stop) =>
        [.. (await screens.ListAsync(FilterOf(asked), stop)).Select(row => row.Standing.Id).Take(most + 1)];

    public async Task<IReadOnlyDictionary<int, string>> NamesAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop
    ) =>
        (await screens.ListAsync(new StandingFilter("", "", ""), stop))
            .Where(row => ids.Contains(row.Standing.Id))
            .ToDictionary(row => row.Standing.Id, row => row.Standing.Name);
}
