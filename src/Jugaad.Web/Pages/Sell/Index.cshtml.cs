using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Sell;

/// <summary>All quotes and invoices.</summary>
public sealed class IndexModel(SellScreens screens, ProgressScreens progress) : DeskPage
{
    public DocumentFilter Filter { get; private set; } = new(null, "", "", "", 1);

    public string KindText { get; private set; } = "";

    public ListPage<DocumentRow> List { get; private set; } = null!;

    /// <summary>How many quotes were won and why others were lost; empty for other lists.</summary>
    public string Outcome { get; private set; } = "";

    /// <summary>How much of what is shown is delivered and billed.</summary>
    public IReadOnlyDictionary<int, Progress> Progress { get; private set; } = new Dictionary<int, Progress>();

    public IReadOnlyList<(Currency Currency, long Payable, long Open)> Sums { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        KindText = Request.Query["kind"].ToString();
        var kind = KindWords.Of(KindText);
        Filter = new DocumentFilter(
            kind,
            Request.Query["show"].ToString(),
            Request.Query["q"].ToString(),
            Request.Query["sort"].ToString(),
            int.TryParse(Request.Query["page"], out var page) ? page : 1
        );
        (List, Sums) = await screens.ListAsync(Filter);
        if (kind == DocumentKind.Quote)
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
