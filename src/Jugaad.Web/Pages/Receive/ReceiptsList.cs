using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Receive;

/// <summary>Receipts.</summary>
public sealed class ReceiptsList(ReceiveScreens screens) : IPickable
{
    public static ReceiptFilter FilterOf(Asked asked) =>
        new(asked.Text("show") == "unplaced", asked.Search, asked.Sort);

    public Task<Stretch<ReceiptRow>> ReadAsync(Asked asked) => screens.ListAsync(FilterOf(asked), asked.Place);

    public Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop) =>
        screens.TotalsAsync(FilterOf(asked), stop);

    public Task<Report> ReportAsync(Asked asked, CancellationToken stop) =>
        screens.ReportAsync(FilterOf(asked), asked.Only, stop);

    public Task<IReadOnlyList<int>> IdsAsync(Asked asked, int most, CancellationToken stop) =>
        screens.IdsAsync(FilterOf(asked), most, stop);

    public Task<IReadOnlyDictionary<int, string>> NamesAsync(IReadOnlyCollection<int> ids, CancellationToken stop) =>
        screens.NumbersAsync(ids, stop);
}
