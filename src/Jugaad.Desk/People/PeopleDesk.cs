using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.People;

/// <summary>Somebody in the list of people.</summary>
public sealed record PersonRow(
    int Id,
    string Name,
    string Email,
    PersonRole Role,
    bool TwoSteps,
    int Passkeys,
    bool Closed,
    decimal Commission
);

/// <summary>Who works with the books, and what each may do. There is always an owner who can sign in.</summary>
public sealed class PeopleDesk(BooksContext db, BookWriter writer, UserManager<Person> people, TimeProvider clock)
{
    public async Task<IReadOnlyList<PersonRow>> ListAsync(CancellationToken stop = default) =>
        await db
            .Users.AsNoTracking()
            .OrderBy(p => p.FullName)
            .Select(p => new PersonRow(
                p.Id,
                p.FullName,
                p.Email!,
                p.Role,
                p.TwoFactorEnabled,
                db.UserPasskeys.Count(k => k.UserId == p.Id),
                p.Closed,
                p.Commission
            ))
            .ToListAsync(stop);

    public async Task<IReadOnlyList<Invitation>> OpenInvitationsAsync(CancellationToken stop = default)
    {
        var now = clock.GetUtcNow().UtcDateTime;
        return await db
            .Invitations.AsNoTracking()
            .Where(i => !i.Closed && i.Until > now)
            .OrderBy(i => i.Until)
            .ToListAsync(stop);
    }

    /// <summary>
    /// Makes the link for one person. It is shown once, to whoever invites, and handed over by them: kept in the books
    /// or in the post tray, it would let whoever may read those in as somebody else.
    /// </summary>
    /// <param name="linkTo">Makes the whole address from the link's word.</param>
    /// <returns>The link; empty where the same form was sent before, since its word is not kept.</returns>
    /// <exception cref="RefusalException">When the address cannot be, or belongs to somebody already.</exception>
    public async Task<string> InviteAsync(
        string email,
        PersonRole role,
        Func<string, string> linkTo,
        Once once = default
    )
    {
        var token = Invitation.NewToken();
        var address = email.Trim();
        var id = await writer.WriteAsync(
            Right.People,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                Texts.Required(refusals, "email", address, 254, "Give the mail address of whom you invite.");
                Texts.Email(refusals, "email", address);
                refusals.ThrowIfAny();
                if (await people.FindByEmailAsync(address) is not null)
                    throw new RefusalException(
                        "email",
                        $"{address} can sign in already. Change their role in the list instead."
                    );
                foreach (
                    var before in await db.Invitations.Where(i => i.Email == address && !i.Closed).ToListAsync(stop)
                )
                    before.Closed = true;
                var made = new Invitation
                {
                    Email = address,
                    Role = role,
                    TokenHash = Invitation.HashOf(token),
                    Until = clock.GetUtcNow().UtcDateTime.AddDays(Invitation.Days),
                    InvitedBy = writer.Who,
                };
                db.Invitations.Add(made);
                await writer.TrailAsync($"{address} invited as {role.ToString().ToLowerInvariant()}");
                await writer.SaveAsync(stop);
                return made.Id;
            }
        );
        var hash = Invitation.HashOf(token);
        return await db.Invitations.AnyAsync(i => i.Id == id && i.TokenHash == hash, once.Stop) ? linkTo(token) : "";
    }

    public Task<int> TakeBackAsync(int invitation, Once once = default) =>
        writer.WriteAsync(
            Right.People,
            once,
            async stop =>
            {
                var found =
                    await db.Invitations.FindAsync([invitation], stop)
                    ?? throw new RefusalException("", "This invitation is not there.");
                found.Closed = true;
                await writer.TrailAsync($"Invitation of {found.Email} taken back");
                return invitation;
            }
        );

    /// <returns>Null where the link is no good: mistyped, taken up, taken back, or too old.</returns>
    public async Task<Invitation?> FindAsync(string token, CancellationToken stop = default)
    {
        var (hash, now) = (Invitation.HashOf(token), clock.GetUtcNow().UtcDateTime);
        return await db.Invitations.SingleOrDefaultAsync(i => i.TokenHash == hash && !i.Closed && i.Until > now, stop);
    }

    /// <summary>Takes up an invitation: the person can sign in from now on.</summary>
    /// <exception cref="RefusalException">When the link is no good, or with what is wrong with the name or the
    /// password.</exception>
    public Task<int> AcceptAsync(string token, string name, string password, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Begin,
            stop,
            async () =>
            {
                var invitation =
                    await FindAsync(token, stop)
                    ?? throw new RefusalException("", "This invitation is not good any more. Ask for a new one.");
                var refusals = new Refusals();
                Texts.Required(refusals, "name", name, 100, "Give your name; it stands in the trail of what you do.");
                refusals.ThrowIfAny();
                var person = new Person
                {
                    UserName = invitation.Email,
                    Email = invitation.Email,
                    EmailConfirmed = true,
                    FullName = name.Trim(),
                    Role = invitation.Role,
                    LockoutEnabled = true,
                };
                PasswordRefusals.Throw(await people.CreateAsync(person, password), "email");
                invitation.Closed = true;
                await writer.TrailAsync(
                    $"{person.FullName} took up the invitation as {person.Role.ToString().ToLowerInvariant()}"
                );
                await writer.SaveAsync(stop);
                return person.Id;
            }
        );

    /// <summary>Gives a person another role; it counts from their next click.</summary>
    public Task<int> ChangeRoleAsync(int id, PersonRole role, Once once = default) =>
        ChangeAsync(
            id,
            once,
            async person =>
            {
                if (role != PersonRole.Owner)
                    await MustNotBeLastOwnerAsync(person, once.Stop);
                person.Role = role;
                return $"{person.FullName} is {role.ToString().ToLowerInvariant()} now";
            }
        );

    /// <summary>Says how much of what a person sells they are given; it counts for all days.</summary>
    /// <param name="percent">0 to 100.</param>
    /// <exception cref="RefusalException">When it is less or more.</exception>
    public Task<int> GiveAsync(int id, decimal percent, Once once = default) =>
        ChangeAsync(
            id,
            once,
            person =>
            {
                if (percent is < 0 or > 100)
                    throw new RefusalException("commission", "Give from 0 to 100 percent.");
                person.Commission = percent;
                return Task.FromResult(
                    FormattableString.Invariant($"{person.FullName} is given {percent:0.####} % of what they sell")
                );
            }
        );

    /// <summary>Shuts a person out, and signs them out everywhere. What they did stays in the trail.</summary>
    public Task<int> CloseAsync(int id, Once once = default) =>
        ChangeAsync(
            id,
            once,
            async person =>
            {
                await MustNotBeLastOwnerAsync(person, once.Stop);
                person.Closed = true;
                // A new stamp ends every session of theirs at its next request.
                await people.UpdateSecurityStampAsync(person);
                db.OpenSessions.RemoveRange(await db.OpenSessions.Where(s => s.PersonId == id).ToListAsync(once.Stop));
                return $"{person.FullName} can no longer sign in";
            }
        );

    public Task<int> ReopenAsync(int id, Once once = default) =>
        ChangeAsync(
            id,
            once,
            person =>
            {
                person.Closed = false;
                return Task.FromResult($"{person.FullName} can sign in again");
            }
        );

    /// <summary>
    /// For whoever lost the phone: switches their second step off, takes their passkeys away and ends every session of
    /// theirs, as the phone may have one open.
    /// </summary>
    public Task<int> DropSecondStepAsync(int id, Once once = default) =>
        ChangeAsync(
            id,
            once,
            async person =>
            {
                person.TwoFactorEnabled = false;
                var passkeys = await people.GetPasskeysAsync(person);
                foreach (var passkey in passkeys)
                    await people.RemovePasskeyAsync(person, passkey.CredentialId);
                await people.UpdateSecurityStampAsync(person);
                db.OpenSessions.RemoveRange(await db.OpenSessions.Where(s => s.PersonId == id).ToListAsync(once.Stop));
                return $"The second step of {person.FullName} is switched off{(passkeys.Count > 0 ? $", and {(passkeys.Count == 1 ? "a passkey is" : $"{passkeys.Count} passkeys are")} taken away" : "")}";
            }
        );

    private Task<int> ChangeAsync(int id, Once once, Func<Person, Task<string>> change) =>
        writer.WriteAsync(
            Right.People,
            once,
            async stop =>
            {
                var person =
                    await people.FindByIdAsync(id.ToString())
                    ?? throw new RefusalException("", $"There is no person {id}.");
                var said = await change(person);
                await people.UpdateAsync(person);
                await writer.TrailAsync(said);
                return id;
            }
        );

    private async Task MustNotBeLastOwnerAsync(Person person, CancellationToken stop)
    {
        if (
            person.Role == PersonRole.Owner
            && !await db.Users.AnyAsync(p => p.Role == PersonRole.Owner && !p.Closed && p.Id != person.Id, stop)
        )
            throw new RefusalException(
                "",
                $"{person.FullName} is the only owner, and somebody must be. Make somebody else owner first."
            );
    }
}
