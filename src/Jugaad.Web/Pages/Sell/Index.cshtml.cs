using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Web.Pages.Papers;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Sell;

/// <summary>All quotes and invoices.</summary>
[Posts(Right.Self)]
public sealed class IndexModel(
    SoldList list,
    SellScreens screens,
    ProgressScreens progress,
    Sending sending,
    EInvoiceSending network
) : DeskPage
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

    public async Task<IActionResult> OnPostPickedAsync()
    {
        var act = Form.Text("act");
        if (act is "issue" or "print")
        {
            var most = act == "print" ? PaperEndpoints.MostOfPile : IssueModel.Most;
            var ids = string.Join(',', await Picking.ReadAsync(Request, Listing, list, most));
            return Redirect(act == "issue" ? $"/sell/issue?only={ids}" : $"/papers/pile.pdf?only={ids}");
        }

        return await PickedAsync(
            "/sell",
            list,
            asked =>
                asked switch
                {
                    "send" => new PickedAct("put in the post", (id, once) => sending.SendAsync(id, once)),
                    "network" => new PickedAct("on the way as e-invoices", (id, once) => network.SendAsync(id, once)),
                    _ => null,
                }
        );
    }
}
