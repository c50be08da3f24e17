using Jugaad.Core.Documents;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Sell;

/// <summary>Quotes, orders, invoices and notes.</summary>
public sealed class SoldList(SellScreens screens) : IPickable
{
    public static DocumentFilter FilterOf(Asked asked) =>
        new(KindWords.Of(asked.Text("kind")), asked.Text("show"), asked.Search, asked.Sort);

    public Task<Stretch<DocumentRow>> ReadAsync(Asked asked) => screens.ListAsync(FilterOf(asked), asked.Place);

    public Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop) =>
        screens.TotalsAsync(FilterOf(asked), stop);

    public Task<Report> ReportAsync(Asked asked, CancellationToken stop) =>
        screens.ReportAsync(FilterOf(asked), asked.Only, stop);

    public Task<IReadOnlyList<int>> IdsAsync(Asked asked, int most, CancellationToken stop) =>
        screens.IdsAsync(FilterOf(asked), most, stop);

    public Task<IReadOnlyDictionary<int, string>> NamesAsync(IReadOnlyCollection<int> ids, CancellationToken stop) =>
        screens.TitlesAsync(ids, stop);
}
