using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Jugaad.Web.Pages.People;

/// <summary>For whoever forgot their password. What it says is the same for every address.</summary>
[AllowAnonymous]
[EnableRateLimiting("sign-in")]
[Posts(Right.Door)]
public sealed class ForgottenModel(Connections connections, ForgottenLetters letters) : DeskPage
{
    /// <summary>Why no link can be sent; null where one can.</summary>
    public string? Held { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        Held = await connections.HeldAsync(PostWay.Mail);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public IActionResult OnPost()
    {
        letters.Ask(Form.Text("email"));
        Say("If somebody signs in with this address, a link is on its way to it. It is good for one hour.");
        return Redirect("/sign-in");
    }
}
