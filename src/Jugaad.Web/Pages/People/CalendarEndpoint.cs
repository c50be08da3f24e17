using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.People;
using Jugaad.Desk.Screens;

namespace Jugaad.Web.Pages.People;

/// <summary>A person's calendar, at its private address.</summary>
internal static class CalendarEndpoint
{
    internal static void MapCalendar(this WebApplication app) =>
        app.MapGet(
                "/calendar/{token}.ics",
                async (
                    string token,
                    CalendarKeys keys,
                    CalendarScreens screens,
                    BooksHead head,
                    ICalendarFile file,
                    CancellationToken stop
                ) =>
                    await keys.FindAsync(token, stop) is { } person
                        ? Results.Bytes(
                            file.Write((await head.BusinessAsync(stop)).PaperName, await screens.OfAsync(person, stop)),
                            "text/calendar; charset=utf-8"
                        )
                        : Results.NotFound()
            )
            .AllowAnonymous()
            .RequireRateLimiting("customer");
}
