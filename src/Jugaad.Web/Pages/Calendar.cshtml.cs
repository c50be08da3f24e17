using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages;

/// <summary>Moves the demo's calendar forward, and comes back to where one was.</summary>
[Posts(Right.Money)]
public sealed class CalendarModel(Desk.Daily.Calendar calendar) : DeskPage
{
    public IActionResult OnGet() => Redirect("/");

    public async Task<IActionResult> OnPostAsync()
    {
        var day = await calendar.ForwardAsync(Form.Whole("days"), Form.Key);
        Say($"It is now {day.DayOfWeek}, {Day(day)}.");
        var from = Request.Headers.Referer.ToString();
        return Uri.TryCreate(from, UriKind.Absolute, out var place) && place.Authority == Request.Host.Value
            ? LocalRedirect(place.PathAndQuery)
            : Redirect("/");
    }
}
