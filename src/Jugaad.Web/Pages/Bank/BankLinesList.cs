using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Bank;

/// <summary>All bank lines that were taken in.</summary>
public sealed class BankLinesList(BankLineScreens screens) : IPickable
{
    public static BankLineFilter FilterOf(Asked asked) => new(asked.Text("show"), asked.Search, asked.Sort);

    public Task<Stretch<BankLineRow>> ReadAsync(Asked asked) => screens.ListAsync(FilterOf(asked), asked.Place);

    public Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop) =>
        screens.TotalsAsync(FilterOf(asked), stop);

    public Task<Report> ReportAsync(Asked asked, CancellationToken stop) =>
        screens.ReportAsync(FilterOf(asked), asked.Only, stop);

    public Task<IReadOnlyList<int>> IdsAsync(Asked asked, int most, CancellationToken stop) =>
        screens.IdsAsync(FilterOf(asked), most, stop);

    public Task<IReadOnlyDictionary<int, string>> NamesAsync(IReadOnlyCollection<int> ids, CancellationToken stop) =>
        screens.NamesAsync(ids, stop);
}
