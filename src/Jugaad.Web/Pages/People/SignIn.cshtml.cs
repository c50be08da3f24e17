using Jugaad.Core;
using Jugaad.Demo;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.People;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Jugaad.Web.Pages.People;

/// <summary>Mail address and password; whoever has a second step goes on to it.</summary>
[AllowAnonymous]
[EnableRateLimiting("sign-in")]
[Posts(Right.Door)]
public sealed class SignInModel(SignInManager<Person> signIn, SigningIn desk, Passkeys passkeys) : DeskPage
{
    public string ReturnUrl { get; private set; } = "/";

    public IReadOnlyList<(string Name, string Email)> DemoPeople { get; private set; } = [];

    public string DemoPassword { get; private set; } = "";

    protected override Task<bool> ShowAsync()
    {
        var asked = Request.HasFormContentType
            ? Request.Form["returnUrl"].ToString()
            : Request.Query["ReturnUrl"].ToString();
        ReturnUrl = Url.IsLocalUrl(asked) ? asked : "/";
        if (Business?.PinnedDay is not null)
            (DemoPeople, DemoPassword) = (DemoBooks.People, DemoBooks.Password);
        return Task.FromResult(true);
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await ShowAsync();
        var person = await desk.PersonAsync(Form.Text("email"), Form.Text("password"));
        // This keeps who it is for the next page where there is a second step, and signs in where there is none.
        var signed = await signIn.PasswordSignInAsync(
            person,
            Form.Text("password"),
            isPersistent: true,
            lockoutOnFailure: false
        );
        if (!signed.RequiresTwoFactor)
            await desk.CameInAsync(person, $"from {HttpContext.Connection.RemoteIpAddress}");
        return signed.RequiresTwoFactor
            ? Redirect($"/sign-in/second?ReturnUrl={Uri.EscapeDataString(ReturnUrl)}")
            : LocalRedirect(ReturnUrl);
    }

    /// <summary>What a device is asked to sign. Nobody is named: it offers whom it has a passkey for.</summary>
    public async Task<IActionResult> OnPostPasskeyOptionsAsync() =>
        Content(await signIn.MakePasskeyRequestOptionsAsync(null), "application/json");

    public async Task<IActionResult> OnPostPasskeyAsync()
    {
        await ShowAsync();
        var shown = await PasskeyForms.ReadAsync(() => signIn.PerformPasskeyAssertionAsync(Form.Text("credential")));
        if (shown is not { Succeeded: true })
            throw new RefusalException(
                "email",
                "This passkey opens nothing here. Sign in with your password; your passkeys are listed under your name."
            );
        await passkeys.UsedAsync(shown.User, shown.Passkey, $"{HttpContext.Connection.RemoteIpAddress}");
        await signIn.SignInAsync(shown.User, isPersistent: true);
        return LocalRedirect(ReturnUrl);
    }
}
