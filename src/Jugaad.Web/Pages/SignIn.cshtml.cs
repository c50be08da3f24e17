using Jugaad.Core;
using Jugaad.Demo;
using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Jugaad.Web.Pages;

/// <summary>Mail address and password; whoever has a second step goes on to it.</summary>
[AllowAnonymous]
[EnableRateLimiting("sign-in")]
public sealed class SignInModel(SignInManager<Person> signIn, UserManager<Person> people) : DeskPage
{
    public string ReturnUrl { get; private set; } = "/";

    public IReadOnlyList<(string Name, string Email)> DemoPeople { get; private set; } = [];

    public string DemoPassword { get; private set; } = "";

    protected override Task<bool> ShowAsync()
    {
        var asked = Request.HasFormContentType ? Request.Form["returnUrl"].ToString() : Request.Query["ReturnUrl"].ToString();
        ReturnUrl = Url.IsLocalUrl(asked) ? asked : "/";
        if (Business?.PinnedDay is not null) (DemoPeople, DemoPassword) = (DemoBooks.People, DemoBooks.Password);
        return Task.FromResult(true);
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await ReadHeadAsync();
        await ShowAsync();
        var person = await people.FindByEmailAsync(Form.Text("email").Trim());
        var result = person is null ? Microsoft.AspNetCore.Identity.SignInResult.Failed : await signIn.CheckPasswordSignInAsync(person, Form.Text("password"), lockoutOnFailure: true);
        if (result.IsLockedOut) throw new RefusalException("email", "Too many tries with a wrong password. Wait ten minutes, then try again.");
        if (!result.Succeeded) throw new RefusalException("email", "This mail address and password do not go together. Check both and try again.");
        if (person!.Closed) throw new RefusalException("email", "You can no longer sign in here. Ask the owner.");
        // This keeps who it is for the next page where there is a second step, and signs in where there is none.
        var signed = await signIn.PasswordSignInAsync(person, Form.Text("password"), isPersistent: true, lockoutOnFailure: false);
        return signed.RequiresTwoFactor ? Redirect($"/sign-in/second?ReturnUrl={Uri.EscapeDataString(ReturnUrl)}") : LocalRedirect(ReturnUrl);
    }
}
