using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Customers;

/// <summary>Customers; what they owe is for who keeps the books.</summary>
public sealed class CustomersList(AccountScreens screens, IActor actor) : IPickable
{
    public Task<Stretch<CustomerRow>> ReadAsync(Asked asked) =>
        screens.CustomersAsync(asked.Search, asked.Sort, asked.Place);

    public async Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop)
    {
        var totals = await screens.CustomerTotalsAsync(asked.Search, stop);
        return actor.May(Right.See) ? totals : ListTotals.Of(totals.Count);
    }

    public async Task<Report> ReportAsync(Asked asked, CancellationToken stop)
    {
        var report = await screens.CustomersReportAsync(asked.Search, asked.Sort, asked.Only, stop);
        return actor.May(Right.See) ? report : report.Without("late", "owes");
    }

    public Task<IReadOnlyList<int>> IdsAsync(Asked asked, int most, CancellationToken stop) =>
        screens.CustomerIdsAsync(asked.Search, asked.Sort, most, stop);

    public Task<IReadOnlyDictionary<int, string>> NamesAsync(IReadOnlyCollection<int> ids, CancellationToken stop) =>
        screens.NamesAsync(ids, stop);
}
