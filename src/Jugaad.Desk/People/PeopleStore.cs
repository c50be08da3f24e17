using System.Security.Cryptography;
using System.Text;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;

namespace Jugaad.Desk.People;

/// <summary>Keeps people such that whoever reads the books' file learns neither the secret of a second step nor a spare code.</summary>
public sealed class PeopleStore(BooksContext db, IEnumerable<ISecretKeeper> keepers) : UserStore<Person, IdentityRole<int>, BooksContext, int>(db)
{
    private const string Mark = "kept ";

    /// <summary>Under these names the base keeps spare codes.</summary>
    private const string Provider = "[AspNetUserStore]", Codes = "RecoveryCodes";

    public override async Task<string?> GetAuthenticatorKeyAsync(Person user, CancellationToken cancellationToken)
    {
        var kept = await base.GetAuthenticatorKeyAsync(user, cancellationToken);
        return kept?.StartsWith(Mark, StringComparison.Ordinal) == true ? keepers.First().Reveal(kept[Mark.Length..]) : kept;
    }

    public override Task SetAuthenticatorKeyAsync(Person user, string key, CancellationToken cancellationToken) => base.SetAuthenticatorKeyAsync(user, Mark + keepers.First().Protect(key), cancellationToken);

    public override Task ReplaceCodesAsync(Person user, IEnumerable<string> recoveryCodes, CancellationToken cancellationToken) => base.ReplaceCodesAsync(user, recoveryCodes.Select(HashOf), cancellationToken);

    public override async Task<bool> RedeemCodeAsync(Person user, string code, CancellationToken cancellationToken)
    {
        var left = (await GetTokenAsync(user, Provider, Codes, cancellationToken) ?? "").Split(';').ToList();
        if (!left.Remove(HashOf(code))) return false;
        // They are hashed already.
        await base.ReplaceCodesAsync(user, left, cancellationToken);
        return true;
    }

    /// <summary>A spare code has enough chance in it that its plain hash cannot be turned round.</summary>
    private static string HashOf(string code) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(code.Trim().ToUpperInvariant())));
}
