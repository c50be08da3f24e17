using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Customers;

/// <summary>Makes one customer of two.</summary>
[Needs(Right.Masters)]
[Posts(Right.Masters)]
public sealed class MergeModel(AccountScreens screens, CustomersDesk desk) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public string Search { get; private set; } = "";

    public Customer Keep { get; private set; } = null!;

    public IReadOnlyList<MergeCandidate> Found { get; private set; } = [];

    /// <summary>The two sides as they are, once the other one is chosen.</summary>
    public (MergeCandidate Keep, MergeCandidate Away)? Sides { get; private set; }

    public static string Words(Address at) => $"{at.Street}, {at.PostalCode} {at.City}, {Countries.NameOf(at.Country)}";

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.FindAsync(Id) is not { } keep)
            return false;
        if (int.TryParse(Request.Query["away"], out var away))
            Sides = await screens.MergeSidesAsync(Id, away);
        Keep = keep;
        Search = Request.Query["q"].ToString().Trim();
        var alike = Search.Length > 0 ? [] : await desk.AlikeAsync(keep.Details(), Id);
        Found = await screens.MergeCandidatesAsync(Id, Search, alike.ToDictionary(a => a.Id, a => a.Why));
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await desk.MergeAsync(Id, Form.Whole("away"), Form.Key);
        Say("The two are one now. The trail below says what came over.");
        return Redirect($"/customers/{Id}");
    }
}
