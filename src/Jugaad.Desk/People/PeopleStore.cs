using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;

namespace Jugaad.Desk.People;

/// <summary>
/// Keeps people such that whoever reads the books' file learns neither the secret of a second step nor a spare code.
/// Spare codes have 47 bits of chance, which a plain hash would not hide for a day: they are hashed as passwords are,
/// each with a salt of its own.
/// </summary>
public sealed class PeopleStore(BooksContext db, IEnumerable<ISecretKeeper> keepers, IPasswordHasher<Person> hasher)
    : UserStore<Person, IdentityRole<int>, BooksContext, int>(db)
{
    private const string Mark = "kept ";

    /// <summary>Under these names the base keeps spare codes.</summary>
    private const string Provider = "[AspNetUserStore]",
        Codes = "RecoveryCodes";

    public override async Task<string?> GetAuthenticatorKeyAsync(Person user, CancellationToken cancellationToken)
    {
        var kept = await base.GetAuthenticatorKeyAsync(user, cancellationToken);
        return kept?.StartsWith(Mark, StringComparison.Ordinal) == true
            ? keepers.First().Reveal(kept[Mark.Length..])
            : kept;
    }

    public override Task SetAuthenticatorKeyAsync(Person user, string key, CancellationToken cancellationToken) =>
        base.SetAuthenticatorKeyAsync(user, Mark + keepers.First().Protect(key), cancellationToken);

    public override Task ReplaceCodesAsync(
        Person user,
        IEnumerable<string> recoveryCodes,
        CancellationToken cancellationToken
    ) =>
        base.ReplaceCodesAsync(
            user,
            [.. recoveryCodes.Select(code => hasher.HashPassword(user, Plain(code)))],
            cancellationToken
        );

    public override async Task<bool> RedeemCodeAsync(Person user, string code, CancellationToken cancellationToken)
    {
        var left = (await GetTokenAsync(user, Provider, Codes, cancellationToken) ?? "")
            .Split(';', StringSplitOptions.RemoveEmptyEntries)
            .ToList();
        if (
            left.FindIndex(kept =>
                hasher.VerifyHashedPassword(user, kept, Plain(code)) != PasswordVerificationResult.Failed
            )
                is var at
            && at < 0
        )
            return false;
        left.RemoveAt(at);
        // They are hashed already.
        await base.ReplaceCodesAsync(user, left, cancellationToken);
        return true;
    }

    private static string Plain(string code) => code.Trim().ToUpperInvariant();
}
