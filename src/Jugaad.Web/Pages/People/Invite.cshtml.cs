using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.People;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Jugaad.Web.Pages.People;

/// <summary>Where the link of an invitation leads.</summary>
[AllowAnonymous]
[EnableRateLimiting("sign-in")]
[Posts(Right.Begin)]
public sealed class InviteModel(PeopleDesk desk) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public string Token { get; set; } = "";

    /// <summary>Null where the link is no good.</summary>
    public Invitation? Invitation { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        Invitation = await desk.FindAsync(Token);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await desk.AcceptAsync(Token, Form.Text("name"), Form.Text("password"));
        Say("You are in the books now. Sign in with your mail address and your password.");
        return Redirect("/sign-in");
    }
}
