using System.Security.Cryptography;
using System.Text;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Machine;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.People;

/// <summary>The private addresses of people's calendars: made anew, closed, looked up.</summary>
public sealed class CalendarKeys(BooksContext db, BookWriter writer, OutsideAddress outside)
{
    private static string HashOf(string token) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(token)));

    public Task<bool> HasAsync(int personId, CancellationToken stop = default) =>
        db.CalendarKeys.AnyAsync(k => k.PersonId == personId, stop);

    /// <summary>Makes an address; the one before opens nothing any more.</summary>
    /// <returns>The whole address, which is not told again.</returns>
    public async Task<string> MakeAsync(int personId, Once once = default)
    {
        var token = CustomerLinks.NewToken();
        await writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                await db.CalendarKeys.Where(k => k.PersonId == personId).ExecuteDeleteAsync(stop);
                db.CalendarKeys.Add(new CalendarKey(personId, HashOf(token)));
                await writer.TrailAsync($"An address for the calendar was made");
                await writer.SaveAsync(stop);
                return personId;
            }
        );
        return $"{await outside.NowAsync(once.Stop)}/calendar/{token}.ics";
    }

    /// <summary>The address opens nothing any more.</summary>
    public Task<int> CloseAsync(int personId, Once once = default) =>
        writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                await db.CalendarKeys.Where(k => k.PersonId == personId).ExecuteDeleteAsync(stop);
                await writer.TrailAsync($"The address for the calendar was closed");
                return personId;
            }
        );

    /// <summary>Whose calendar a token opens; null where it opens none, or whose it was may come in no more.</summary>
    public async Task<Person?> FindAsync(string token, CancellationToken stop = default)
    {
        if (token.Length is < 20 or > 64)
            return null;
        var hash = HashOf(token);
        return await (
            from key in db.CalendarKeys
            join person in db.Users on key.PersonId equals person.Id
            where key.TokenHash == hash && !person.Closed
            select person
        )
            .AsNoTracking()
            .SingleOrDefaultAsync(stop);
    }
}
