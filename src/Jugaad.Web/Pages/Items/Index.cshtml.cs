using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Items;

/// <summary>All items, to be picked and changed at once.</summary>
[Posts(Right.Self)]
public sealed class IndexModel(ItemsList list, ItemBatches batches, ItemsDesk desk) : DeskPage
{
    public string Search { get; private set; } = "";

    public Stretch<ItemRow> List { get; private set; } = null!;

    /// <summary>The last change of many, as long as it is of today or yesterday.</summary>
    public ItemBatch? Undoable { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        Search = Listing.Search;
        List = await list.ReadAsync(Listing);
        if (May(Right.Masters))
            Undoable =
                await batches.LatestAsync() is [{ Undone: false } latest, ..] && latest.Day >= Today.AddDays(-1)
                    ? latest
                    : null;
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostPickedAsync()
    {
        if (Form.Text("act") == "change")
        {
            if (Picking.MeansAll(Request))
                return Redirect($"/items/change?{Asked.FiltersOf(Request.Query)}&all=yes");
            var ids = await Picking.ReadAsync(Request, Listing, list, Picking.MostInAddress);
            return Redirect($"/items/change?only={string.Join(',', ids)}");
        }

        return await PickedAsync(
            "/items",
            list,
            asked =>
                asked switch
                {
                    "retire" => new PickedAct("not sold any more", (id, once) => desk.RetireAsync(id, true, once)),
                    "return" => new PickedAct("sold again", (id, once) => desk.RetireAsync(id, false, once)),
                    _ => null,
                }
        );
    }
}
