using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Who did what.</summary>
public sealed class TrailList(TrailScreens screens) : IListed
{
    public static TrailFilter FilterOf(Asked asked) =>
        new(asked.Search, asked.Text("who"), asked.Day("from"), asked.Day("until"));

    public Task<Stretch<TrailRow>> ReadAsync(Asked asked) => screens.ListAsync(FilterOf(asked), asked.Place);

    public Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop) =>
        screens.TotalsAsync(FilterOf(asked), stop);

    public Task<Report> ReportAsync(Asked asked, CancellationToken stop) => screens.ReportAsync(FilterOf(asked), stop);
}
