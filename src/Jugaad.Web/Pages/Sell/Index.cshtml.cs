using Jugaad.Core.Documents;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Sell;

/// <summary>All quotes and invoices.</summary>
public sealed class IndexModel(SoldList list, SellScreens screens, ProgressScreens progress) : DeskPage
{
    public DocumentFilter Filter { get; private set; } = new(null, "", "", "");

    public string KindText { get; private set; } = "";

    public Stretch<DocumentRow> List { get; private set; } = null!;

    /// <summary>How many quotes were won and why others were lost; empty for other lists.</summary>
    public string Outcome { get; private set; } = "";

    /// <summary>How much of what is shown is delivered and billed.</summary>
    public IReadOnlyDictionary<int, Progress> Progress { get; private set; } = new Dictionary<int, Progress>();

    protected override async Task<bool> ShowAsync()
    {
        KindText = Listing.Text("kind");
        Filter = SoldList.FilterOf(Listing);
        List = await list.ReadAsync(Listing);
        if (Filter.Kind == DocumentKind.Quote)
            Outcome = (await screens.OutcomeAsync()).Words;
        Progress = await progress.OfAsync([
            .. List
                .Rows.Where(r => r.Kind is DocumentKind.Order or DocumentKind.DeliveryNote or DocumentKind.Quote)
                .Select(r => r.Id),
        ]);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
