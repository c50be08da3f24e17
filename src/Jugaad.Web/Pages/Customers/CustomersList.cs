using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Customers;

/// <summary>Customers; what they owe is for who keeps the books.</summary>
public sealed class CustomersList(AccountScreens screens, IActor actor) : IListed
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
        var report = await screens.CustomersReportAsync(asked.Search, asked.Sort, stop);
        return actor.May(Right.See) ? report : report.Without("late", "owes");
    }
}
