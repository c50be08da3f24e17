using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Machine;
using Jugaad.Desk.People;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.People;

/// <summary>People, roles and invitations.</summary>
[Needs(Right.People)]
[Posts(Right.People)]
public sealed class PeopleModel(PeopleDesk desk, OutsideAddress outside) : DeskPage
{
    public IReadOnlyList<PersonRow> People { get; private set; } = [];

    public IReadOnlyList<Invitation> Invitations { get; private set; } = [];

    public IEnumerable<(string, string)> RoleChoices =>
        Enum.GetValues<PersonRole>().Select(r => (r.ToString(), r.ToString().ToLowerInvariant()));

    protected override async Task<bool> ShowAsync()
    {
        People = await desk.ListAsync();
        Invitations = await desk.OpenInvitationsAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostInviteAsync()
    {
        var address = await outside.NowAsync();
        var link = await desk.InviteAsync(
            Form.Text("email"),
            Form.Choice<PersonRole>("role"),
            token => $"{address}/invite/{token}",
            Form.Key
        );
        TempData["link"] = link;
        return Done($"{Form.Text("email").Trim()} is invited.");
    }

    public async Task<IActionResult> OnPostTakeBackAsync()
    {
        await desk.TakeBackAsync(Form.Whole("id"), Form.Key);
        return Done("The invitation is taken back; its link opens nothing any more.");
    }

    public async Task<IActionResult> OnPostRoleAsync()
    {
        await desk.ChangeRoleAsync(Form.Whole("id"), Form.Choice<PersonRole>("role"), Form.Key);
        return Done("The role is changed, from their next click on.");
    }

    /// <summary>Everybody, with what they are given of what they sell.</summary>
    public IEnumerable<(string, string)> SellerChoices =>
        People.Where(p => !p.Closed).Select(p => ($"{p.Id}", $"{p.Name}, {Format.Typed(p.Commission)} %"));

    public async Task<IActionResult> OnPostGiveAsync()
    {
        var form = Form;
        var percent = form.Figure("commission", 4);
        form.ThrowIfAny();
        await desk.GiveAsync(form.Whole("seller"), percent, form.Key);
        return Done("Income by seller tells their commission.");
    }

    public async Task<IActionResult> OnPostCloseAsync()
    {
        await desk.CloseAsync(Form.Whole("id"), Form.Key);
        return Done("Shut out, and signed out everywhere. What they did stays in the trail.");
    }

    public async Task<IActionResult> OnPostReopenAsync()
    {
        await desk.ReopenAsync(Form.Whole("id"), Form.Key);
        return Done("They can sign in again.");
    }

    public async Task<IActionResult> OnPostDropStepAsync()
    {
        await desk.DropSecondStepAsync(Form.Whole("id"), Form.Key);
        return Done(
            "The second step is off, passkeys are gone, and every session has ended. They sign in with the password, and set it up anew under their name."
        );
    }
}
