using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Customers;

/// <summary>All customers with what they owe.</summary>
[Posts(Right.Self)]
public sealed class IndexModel(CustomersList list, CustomersDesk desk, Labels labels) : DeskPage
{
    public string Search { get; private set; } = "";

    public Stretch<CustomerRow> List { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        Search = Listing.Search;
        List = await list.ReadAsync(Listing);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostPickedAsync()
    {
        var tag = Form.Text("tag").Trim();
        var act = Form.Text("act");
        if (act == "labels")
            return File(
                await labels.PdfAsync(
                    await Picking.ReadAsync(Request, Listing, list),
                    Form.Text("sheet"),
                    Form.Whole("skip")
                ),
                "application/pdf",
                "labels.pdf"
            );
        if (act is "tag" or "untag" && Customer.TagsOf(tag).Count(c => c == ',') != 2)
            throw new RefusalException("tag", "Give one tag, without a comma.");
        return await PickedAsync(
            "/customers",
            list,
            asked =>
                asked switch
                {
                    "tag" => new PickedAct($"tagged “{tag}”", (id, once) => desk.TagAsync(id, tag, once)),
                    "untag" => new PickedAct($"tagged “{tag}” no more", (id, once) => desk.UntagAsync(id, tag, once)),
                    "retire" => new PickedAct("inactive now", (id, once) => desk.RetireAsync(id, true, once)),
                    "return" => new PickedAct("active again", (id, once) => desk.RetireAsync(id, false, once)),
                    _ => null,
                }
        );
    }
}
