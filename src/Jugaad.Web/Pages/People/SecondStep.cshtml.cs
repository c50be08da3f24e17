using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.People;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Jugaad.Web.Pages.People;

/// <summary>The code of an authenticator app, or a spare one, after the password was right.</summary>
[AllowAnonymous]
[EnableRateLimiting("sign-in")]
[Posts(Right.Door)]
public sealed class SecondStepModel(SignInManager<Person> signIn, SigningIn desk) : DeskPage
{
    public string ReturnUrl { get; private set; } = "/";

    protected override Task<bool> ShowAsync()
    {
        var asked = Request.HasFormContentType
            ? Request.Form["returnUrl"].ToString()
            : Request.Query["ReturnUrl"].ToString();
        ReturnUrl = Url.IsLocalUrl(asked) ? asked : "/";
        return Task.FromResult(true);
    }

    public async Task<IActionResult> OnGetAsync() =>
        await signIn.GetTwoFactorAuthenticationUserAsync() is null ? Redirect("/sign-in") : await ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await ShowAsync();
        if (await signIn.GetTwoFactorAuthenticationUserAsync() is not { } person)
            return Redirect("/sign-in");
        desk.MustNotWait(person.Email!, "code");
        var typed = Form.Text("code").Trim();
        var digits = string.Concat(typed.Where(char.IsAsciiDigit));
        var result =
            digits.Length == 6 && typed.All(c => char.IsAsciiDigit(c) || c == ' ')
                ? await signIn.TwoFactorAuthenticatorSignInAsync(digits, isPersistent: true, rememberClient: false)
                : await signIn.TwoFactorRecoveryCodeSignInAsync(typed.ToUpperInvariant());
        if (!result.Succeeded)
            await desk.WrongCodeAsync(person);
        await desk.CameInAsync(person, $"with a second step, from {HttpContext.Connection.RemoteIpAddress}");
        return LocalRedirect(ReturnUrl);
    }
}
