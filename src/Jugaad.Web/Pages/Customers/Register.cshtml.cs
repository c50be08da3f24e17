using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Customers;

/// <summary>Fills customers in from the business register, one or all that lack a number.</summary>
[Needs(Right.Masters)]
[Posts(Right.Masters)]
public sealed class RegisterModel(AccountScreens screens, RegisterDesk desk) : DeskPage
{
    /// <summary>Null where all that lack a number are looked at.</summary>
    public Customer? Customer { get; private set; }

    public string Search { get; private set; } = "";

    public IReadOnlyList<RegisterProposal> Proposals { get; private set; } = [];

    /// <summary>Why no register can be asked; null where one can.</summary>
    public string? NotConnected { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        Search = Request.Query["q"].ToString();
        if ((NotConnected = await desk.NotConnectedAsync()) is not null)
            return true;
        if (int.TryParse(Request.Query["customer"], out var id))
        {
            if (await screens.FindAsync(id) is not { } customer)
                return false;
            Customer = customer;
            Proposals = await desk.ProposeAsync(id, Search);
        }
        else
        {
            Proposals = await desk.ProposeForAllAsync();
        }

        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var one = form.Text("one");
        var choices = form.Rows("found")
            .Where(n => one.Length == 0 || one == n.ToString())
            .Select(n => new RegisterChoice(
                form.Whole($"found[{n}].customer"),
                form.Whole($"found[{n}].version"),
                form.Text($"found[{n}].number"),
                RegisterDesk.Fields.Select(f => f.Field).Where(f => form.Ticked($"found[{n}].{f}")).ToList()
            ))
            .ToList();
        var taken = await desk.AdoptManyAsync(choices, form.Key);
        Say(taken == 1 ? "Taken from the register." : $"Taken from the register for {taken} customers.");
        return Redirect(
            int.TryParse(Request.Query["customer"], out var id) ? $"/customers/{id}" : "/customers/register"
        );
    }
}
