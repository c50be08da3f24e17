using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.People;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Jugaad.Web.Pages.People;

/// <summary>Where the link of somebody who forgot their password leads.</summary>
[AllowAnonymous]
[EnableRateLimiting("sign-in")]
[Posts(Right.Door)]
public sealed class NewPasswordModel(ForgottenPasswords desk) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public string Token { get; set; } = "";

    /// <summary>Null where the link is no good.</summary>
    public Person? Person { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        Person = await desk.FindAsync(Token);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await desk.AcceptAsync(Token, Form.Text("password"));
        Say("The new password is set, and every session of before has ended. Sign in with it.");
        return Redirect("/sign-in");
    }
}
