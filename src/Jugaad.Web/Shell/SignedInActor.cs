using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.AspNetCore.DataProtection;

namespace Jugaad.Web.Shell;

/// <summary>Whoever is signed in, by name; Jugaad itself for what no person started.</summary>
internal sealed class SignedInActor(IHttpContextAccessor http) : IActor
{
    internal const string NameClaim = "full-name";

    public string Name => http.HttpContext?.User.FindFirst(NameClaim)?.Value ?? Acting.Now ?? "Jugaad";
}

/// <summary>Keeps secrets with the keys in the books' folder.</summary>
internal sealed class SecretKeeper(IDataProtectionProvider protection) : ISecretKeeper
{
    private readonly IDataProtector _protector = protection.CreateProtector("mail-password");

    public string Protect(string secret) => _protector.Protect(secret);

    public string Reveal(string kept) => kept.Length == 0 ? "" : _protector.Unprotect(kept);
}
