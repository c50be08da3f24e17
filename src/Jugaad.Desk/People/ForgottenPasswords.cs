using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Machine;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Post;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.People;

/// <summary>
/// Lets people back in who forgot their password, by a link to their own mail or by whoever sits at the machine.
/// </summary>
public sealed class ForgottenPasswords(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    UserManager<Person> people,
    Connections connections,
    IMailCarrier carrier,
    OutsideAddress outside,
    TimeProvider clock
)
{
    public static readonly TimeSpan GoodFor = TimeSpan.FromHours(1);

    /// <summary>Makes the word for whoever sits at the machine.</summary>
    /// <exception cref="RefusalException">When nobody signs in with this address.</exception>
    public async Task<string> MakeAsync(string email, CancellationToken stop = default)
    {
        var token = Invitation.NewToken();
        await writer.WriteAsync(
            Right.Keep,
            stop,
            async () =>
            {
                var person =
                    await people.FindByEmailAsync(email.Trim())
                    ?? throw new RefusalException(
                        "address",
                        $"Nobody signs in here with {email.Trim()}. The people are: {string.Join(", ", await db.Users.Select(p => p.Email).ToListAsync(stop))}."
                    );
                if (person.Closed)
                    throw new RefusalException(
                        "address",
                        $"{person.FullName} is shut out. An owner lets them in again under Setup, people."
                    );
                await AddAsync(person, token, stop);
                await writer.TrailAsync($"A link for a new password was made for {person.FullName}");
                return person.Id;
            }
        );
        return token;
    }

    /// <summary>
    /// Sends a link to somebody's own mail. It goes straight to the carrier: in the post tray it would let others read
    /// it. Whether the address is known makes no difference that a stranger could see.
    /// </summary>
    /// <returns>False where no mail leaves this installation.</returns>
    public async Task<bool> SendAsync(string email, CancellationToken stop = default)
    {
        if (await connections.HeldAsync(PostWay.Mail, stop) is not null)
            return false;
        if (await people.FindByEmailAsync(email.Trim()) is not { Closed: false } person)
            return true;
        var (business, settings) = (
            await head.BusinessAsync(stop),
            await db.MailSettings.AsNoTracking().FirstOrDefaultAsync(stop) ?? new MailSettings()
        );
        var token = Invitation.NewToken();
        await writer.WriteAsync(
            Right.Door,
            stop,
            async () =>
            {
                await AddAsync(person, token, stop);
                await writer.TrailAsync($"A link for a new password was sent to {person.Email}");
                return person.Id;
            }
        );
        var address = await outside.NowAsync(stop) + PathOf(token);
        await carrier.CarryAsync(
            new OutgoingMail(
                Guid.NewGuid().ToString("N"),
                await head.NowAsync(stop),
                settings.FromName.Length > 0 ? settings.FromName : business.Name,
                settings.FromAddress.Length > 0 ? settings.FromAddress : business.Email,
                person.Email!,
                $"A new password for the books of {business.Name}",
                $"{person.FullName},\n\nsomebody, probably you, asked for a new password. Choose one here, within the hour:\n\n{address}\n\nIf it was not you, do nothing: your password stays as it is.\n",
                []
            ),
            settings,
            stop
        );
        return true;
    }

    public static string PathOf(string token) => $"/new-password/{token}";

    /// <returns>Whose password a word may change; null where it is no good: mistyped, used, or too old.</returns>
    public async Task<Person?> FindAsync(string token, CancellationToken stop = default) =>
        await OpenAsync(token, stop) is { } reset
            ? await db.Users.SingleOrDefaultAsync(p => p.Id == reset.PersonId && !p.Closed, stop)
            : null;

    /// <summary>Takes the new password; every session of that person ends, and a lock-out with them.</summary>
    /// <exception cref="RefusalException">When the word is no good, or with what is wrong with the
    /// password.</exception>
    public Task<int> AcceptAsync(string token, string password, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Door,
            stop,
            async () =>
            {
                var reset = await OpenAsync(token, stop);
                var person = reset is null
                    ? null
                    : await people.FindByIdAsync(
                        reset.PersonId.ToString(System.Globalization.CultureInfo.InvariantCulture)
                    );
                if (reset is null || person is null or { Closed: true })
                    throw new RefusalException("", "This link is not good any more. Ask for a new one.");
                foreach (var rule in people.PasswordValidators)
                    PasswordRefusals.Throw(await rule.ValidateAsync(people, person, password), "password");
                person.PasswordHash = people.PasswordHasher.HashPassword(person, password);
                PasswordRefusals.Throw(await people.UpdateSecurityStampAsync(person), "password");
                reset.Used = true;
                await writer.TrailAsync($"{person.FullName} chose a new password by a link");
                return person.Id;
            }
        );

    private async Task<PasswordReset?> OpenAsync(string token, CancellationToken stop)
    {
        var (hash, now) = (Invitation.HashOf(token.Trim()), clock.GetUtcNow().UtcDateTime);
        return await db.PasswordResets.SingleOrDefaultAsync(r => r.TokenHash == hash && !r.Used && r.Until > now, stop);
    }

    /// <summary>Only the newest link of a person is good.</summary>
    private async Task AddAsync(Person person, string token, CancellationToken stop)
    {
        foreach (var before in await db.PasswordResets.Where(r => r.PersonId == person.Id && !r.Used).ToListAsync(stop))
            before.Used = true;
        db.PasswordResets.Add(
            new PasswordReset
            {
                PersonId = person.Id,
                TokenHash = Invitation.HashOf(token),
                Until = clock.GetUtcNow().UtcDateTime + GoodFor,
            }
        );
    }
}
