using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Bank;

/// <summary>All bank lines, whatever statement they came with.</summary>
[Needs(Right.See)]
[Posts(Right.See)]
public sealed class LinesModel(BankLinesList list, MatchingBench bench) : DeskPage
{
    public BankLineFilter Filter { get; private set; } = new("", "", "");

    public Stretch<BankLineRow> List { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        Filter = BankLinesList.FilterOf(Listing);
        List = await list.ReadAsync(Listing);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public Task<IActionResult> OnPostPickedAsync() =>
        PickedAsync(
            "/bank/lines",
            list,
            asked =>
                asked == "put-back"
                    ? new PickedAct(
                        "put back, and what was booked for them is undone",
                        (id, once) => bench.PutBackAsync(id, once)
                    )
                    : null
        );
}
