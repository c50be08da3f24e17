using System.Buffers.Text;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.AspNetCore.Identity;

namespace Jugaad.Desk.People;

/// <summary>One of a person's passkeys, as it is listed.</summary>
/// <param name="Key">Names it on the page; nothing secret.</param>
public sealed record KeptPasskey(string Key, string Name, DateTimeOffset Added);

/// <summary>
/// Passkeys (W3C Web Authentication): a way in without a password, by a device that knows its holder by finger, face or
/// its own code. The books keep the public half alone, so whoever reads them cannot come in by it.
/// </summary>
public sealed class Passkeys(BookWriter writer, UserManager<Person> people, SigningIn signing)
{
    private const int Most = 20;

    public async Task<IReadOnlyList<KeptPasskey>> ListAsync(Person person) =>
        [
            .. (await people.GetPasskeysAsync(person))
                .OrderBy(p => p.CreatedAt)
                .Select(p => new KeptPasskey(Base64Url.EncodeToString(p.CredentialId), p.Name ?? "", p.CreatedAt)),
        ];

    /// <summary>Keeps a passkey that a device has just made.</summary>
    /// <param name="password">The person's, so that whoever finds an open browser cannot add a way in for
    /// themselves.</param>
    /// <exception cref="RefusalException">When the password is wrong, or there are too many.</exception>
    public async Task AddAsync(int id, UserPasskeyInfo made, string name, string password, Once once = default)
    {
        await signing.MustKnowAsync(await FindAsync(id), password, "passwordForPasskey", once.Stop);
        await writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                Texts.Required(
                    refusals,
                    "passkeyName",
                    name,
                    60,
                    "Give the device a name, such as office laptop, to know it again."
                );
                refusals.ThrowIfAny();
                var person = await FindAsync(id);
                if ((await people.GetPasskeysAsync(person)).Count >= Most)
                    throw new RefusalException(
                        "passkeyName",
                        $"You have {Most} passkeys, which is the most. Take one away first."
                    );
                made.Name = name.Trim();
                PasswordRefusals.Throw(await people.AddOrUpdatePasskeyAsync(person, made), "passkeyName");
                await writer.TrailAsync($"{person.FullName} added a passkey, {made.Name}");
                return id;
            }
        );
    }

    /// <summary>Takes one of one's own passkeys away; it opens nothing any more.</summary>
    /// <exception cref="RefusalException">When it is not there, or somebody else's.</exception>
    public Task<int> RemoveAsync(int id, string key, Once once = default) =>
        writer.WriteAsync(
            Right.Self,
            once,
            async stop =>
            {
                var person = await FindAsync(id);
                var there =
                    (await people.GetPasskeysAsync(person)).FirstOrDefault(p =>
                        Base64Url.EncodeToString(p.CredentialId) == key
                    ) ?? throw new RefusalException("", "This passkey is gone already.");
                await people.RemovePasskeyAsync(person, there.CredentialId);
                await writer.TrailAsync($"{person.FullName} took away a passkey, {there.Name}");
                return id;
            }
        );

    /// <summary>
    /// Whether who showed a passkey may come in; keeps how often it was used, by which a copied one is told.
    /// </summary>
    /// <exception cref="RefusalException">For whoever was shut out.</exception>
    public async Task UsedAsync(Person person, UserPasskeyInfo passkey, string from, CancellationToken stop = default)
    {
        if (person.Closed)
            await signing.ShutOutAsync(person, stop);
        await people.AddOrUpdatePasskeyAsync(person, passkey);
        await signing.CameInAsync(person, $"with the passkey {passkey.Name}, from {from}", stop);
    }

    private async Task<Person> FindAsync(int id) =>
        await people.FindByIdAsync(id.ToString())
        ?? throw new RefusalException("", "You are not known here any more. Sign in again.");
}
