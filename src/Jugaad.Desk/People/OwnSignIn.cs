using System.Text.Encodings.Web;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.People;

/// <summary>What an authenticator app is told.</summary>
/// <param name="Key">The secret in groups of four, for typing.</param>
/// <param name="Address">The same as an address, for a QR code, in the form that authenticator apps read (otpauth, TOTP
/// of RFC 6238).</param>
public sealed record SecondStep(string Key, string Address);

/// <summary>What people do about their own sign-in: name, password, second step, signing out everywhere.</summary>
public sealed class OwnSignIn(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    UserManager<Person> people,
    SigningIn signing
)
{
    private const int SpareCodes = 8;

    public async Task<Person> FindAsync(int id) =>
        await people.FindByIdAsync(id.ToString())
        ?? throw new RefusalException("", "You are not known here any more. Sign in again.");

    public Task<int> RenameAsync(int id, string name, Once once = default) =>
        writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                Texts.Required(refusals, "name", name, 100, "Give your name; it stands in the trail of what you do.");
                refusals.ThrowIfAny();
                var person = await FindAsync(id);
                await writer.TrailAsync($"{person.FullName} is called {name.Trim()} now");
                person.FullName = name.Trim();
                await people.UpdateAsync(person);
                return id;
            }
        );

    /// <summary>Takes a new password; every other session ends.</summary>
    public async Task ChangePasswordAsync(int id, string old, string password, Once once = default)
    {
        await signing.MustKnowAsync(await FindAsync(id), old, "oldPassword", once.Stop);
        await writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                var person = await FindAsync(id);
                PasswordRefusals.Throw(await people.ChangePasswordAsync(person, old, password), "oldPassword");
                await writer.TrailAsync($"{person.FullName} changed their password");
                return id;
            }
        );
    }

    /// <summary>Makes a new secret for the app; the second step is not on before a code of it was typed.</summary>
    public Task<int> PrepareSecondStepAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                await people.ResetAuthenticatorKeyAsync(await FindAsync(id));
                return id;
            }
        );

    /// <returns>Null where no secret has been made yet.</returns>
    public async Task<SecondStep?> SecondStepAsync(int id)
    {
        var person = await FindAsync(id);
        var key = await people.GetAuthenticatorKeyAsync(person);
        if (string.IsNullOrEmpty(key))
            return null;
        var issuer = UrlEncoder.Default.Encode($"Jugaad {(await head.BusinessAsync()).Name}");
        return new SecondStep(
            string.Join(' ', key.ToLowerInvariant().Chunk(4).Select(c => new string(c))),
            $"otpauth://totp/{issuer}:{UrlEncoder.Default.Encode(person.Email!)}?secret={key}&issuer={issuer}&digits=6&period=30"
        );
    }

    /// <summary>Switches the second step on, once a code shows that the app has the secret.</summary>
    /// <returns>Spare codes, each good once, for when the phone is lost. They are not shown again.</returns>
    /// <exception cref="RefusalException">When the code is wrong.</exception>
    public async Task<IReadOnlyList<string>> SwitchOnAsync(int id, string code, string password, Once once = default)
    {
        await signing.MustKnowAsync(await FindAsync(id), password, "passwordToSwitch", once.Stop);
        IReadOnlyList<string> spare = [];
        await writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                var person = await FindAsync(id);
                var typed = string.Concat(code.Where(char.IsAsciiDigit));
                if (person.TwoFactorEnabled)
                    throw new RefusalException(
                        "",
                        "The second step is on already. Switch it off first to set it up anew."
                    );
                if (!await people.VerifyTwoFactorTokenAsync(person, TokenOptions.DefaultAuthenticatorProvider, typed))
                    throw new RefusalException(
                        "code",
                        "This code is not the one of now. Wait for the next in the app, and see that the phone's clock is right."
                    );
                await people.SetTwoFactorEnabledAsync(person, true);
                spare = (await people.GenerateNewTwoFactorRecoveryCodesAsync(person, SpareCodes))?.ToList() ?? [];
                await writer.TrailAsync($"{person.FullName} signs in with a second step now");
                return id;
            }
        );
        return spare;
    }

    /// <summary>Makes new spare codes in place of those that are left.</summary>
    /// <returns>They are not shown again.</returns>
    public async Task<IReadOnlyList<string>> NewSpareCodesAsync(int id, string password, Once once = default)
    {
        await signing.MustKnowAsync(await FindAsync(id), password, "passwordToSwitch", once.Stop);
        IReadOnlyList<string> spare = [];
        await writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                var person = await FindAsync(id);
                spare = (await people.GenerateNewTwoFactorRecoveryCodesAsync(person, SpareCodes))?.ToList() ?? [];
                await writer.TrailAsync($"{person.FullName} made new spare codes");
                return id;
            }
        );
        return spare;
    }

    /// <summary>Switches the second step off and forgets the app's secret.</summary>
    public async Task SwitchOffAsync(int id, string password, Once once = default)
    {
        await signing.MustKnowAsync(await FindAsync(id), password, "passwordToSwitch", once.Stop);
        await writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                var person = await FindAsync(id);
                await people.SetTwoFactorEnabledAsync(person, false);
                await people.ResetAuthenticatorKeyAsync(person);
                await writer.TrailAsync($"{person.FullName} signs in without a second step now");
                return id;
            }
        );
    }

    /// <summary>Where one is signed in, the last seen first.</summary>
    public async Task<IReadOnlyList<OpenSession>> SessionsAsync(int id, CancellationToken stop = default) =>
        await db
            .OpenSessions.AsNoTracking()
            .Where(s => s.PersonId == id)
            .OrderByDescending(s => s.SeenAt)
            .ToListAsync(stop);

    /// <summary>Ends one of one's own sessions.</summary>
    /// <exception cref="RefusalException">When it is not there, or somebody else's.</exception>
    public Task<int> EndSessionAsync(int id, int session, Once once = default) =>
        writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                var open =
                    await db.OpenSessions.SingleOrDefaultAsync(s => s.Id == session && s.PersonId == id, stop)
                    ?? throw new RefusalException("", "This session has ended already.");
                db.OpenSessions.Remove(open);
                await writer.TrailAsync($"{(await FindAsync(id)).FullName} ended a session, {open.Device}");
                return session;
            }
        );

    /// <summary>Ends every session of this person, on every machine, at its next request.</summary>
    public Task<int> SignOutEverywhereAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                var person = await FindAsync(id);
                await people.UpdateSecurityStampAsync(person);
                db.OpenSessions.RemoveRange(await db.OpenSessions.Where(s => s.PersonId == id).ToListAsync(stop));
                await writer.TrailAsync($"{person.FullName} signed out everywhere");
                return id;
            }
        );
}
