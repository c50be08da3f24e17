using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.People;

/// <summary>Ends the session, here and in the browser.</summary>
[Posts(Right.Door)]
public sealed class SignOutModel(SignInManager<Person> signIn, BookWriter writer, IActor actor) : DeskPage
{
    public IActionResult OnGet() => Redirect("/");

    public async Task<IActionResult> OnPostAsync()
    {
        if (User.Identity?.IsAuthenticated == true)
            await writer.NoteAsync(Right.Self, $"{actor.Name} signed out");
        await signIn.SignOutAsync();
        return Redirect("/sign-in");
    }
}
