using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages;

/// <summary>What is said when a page is not there or something broke.</summary>
[AllowAnonymous]
[IgnoreAntiforgeryToken]
[Posts(Right.Door)]
public sealed class OopsModel : DeskPage
{
    public string Heading { get; private set; } = "";

    public string What { get; private set; } = "";

    protected override Task<bool> ShowAsync()
    {
        (Heading, What) = Request.Query["code"].ToString() switch
        {
            "404" => (
                "Not there",
                "There is nothing at this address: the number may be mistyped, or belong to something of another kind. Use the jump box (/) to look for it by name, number or amount."
            ),
            "403" => (
                "Not yours to do",
                "Your role does not include this. The owner can change what you may do under Setup, people."
            ),
            "429" => ("Too many tries", "There were too many tries in a short time. Wait a minute, then try again."),
            "413" => (
                "Too large",
                "What was sent is too large. Send less at once; pictures may have 2 MB, notes 20000 characters."
            ),
            "400" => (
                "Not understood",
                "What the page sent could not be read. Go back, load the page again and repeat it."
            ),
            "" => (
                "Something went wrong",
                "It is our fault, not yours, and has been noted. What was saved before is safe. Go back and try again."
            ),
            var code => ($"It did not work ({code})", "Go back and try again."),
        };
        return Task.FromResult(true);
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public Task<IActionResult> OnPostAsync() => ShownAsync();
}
