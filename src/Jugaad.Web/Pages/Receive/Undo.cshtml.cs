using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Receive;

/// <summary>Undoes something that was done with money, from wherever it is shown.</summary>
[Needs(Right.Money)]
[Posts(Right.Money)]
public sealed class UndoModel(Undoing undoing) : DeskPage
{
    /// <summary>Where it was asked from.</summary>
    public string Back =>
        Request.HasFormContentType && Request.Form["back"].ToString() is { Length: > 0 } back && Url.IsLocalUrl(back)
            ? back
            : "/receive";

    public IActionResult OnGet() => Redirect("/receive");

    public async Task<IActionResult> OnPostAsync()
    {
        await undoing.UndoAsync(Form.Whole("booking"), Form.Key);
        Say("Undone. Everything is as it was before.");
        return Redirect(Back);
    }
}
