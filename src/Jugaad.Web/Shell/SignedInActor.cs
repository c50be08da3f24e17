using System.Security.Claims;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;

namespace Jugaad.Web.Shell;

/// <summary>Whoever is signed in, by name; Jugaad itself for what no person started.</summary>
internal sealed class SignedInActor(IHttpContextAccessor http) : IActor
{
    internal const string NameClaim = "full-name";

    public string Name => http.HttpContext?.User.FindFirst(NameClaim)?.Value ?? Acting.Now ?? "Jugaad";
}

/// <summary>Puts the full name among a person's claims, also when the session is looked over and made anew.</summary>
internal sealed class NamedPrincipals(UserManager<Person> people, RoleManager<IdentityRole<int>> roles, IOptions<IdentityOptions> options)
    : UserClaimsPrincipalFactory<Person, IdentityRole<int>>(people, roles, options)
{
    protected override async Task<ClaimsIdentity> GenerateClaimsAsync(Person user)
    {
        var identity = await base.GenerateClaimsAsync(user);
        identity.AddClaim(new Claim(SignedInActor.NameClaim, user.FullName));
        return identity;
    }
}

/// <summary>Keeps secrets with the keys in the books' folder.</summary>
internal sealed class SecretKeeper(IDataProtectionProvider protection) : ISecretKeeper
{
    private readonly IDataProtector _protector = protection.CreateProtector("mail-password");

    public string Protect(string secret) => _protector.Protect(secret);

    public string Reveal(string kept) => kept.Length == 0 ? "" : _protector.Unprotect(kept);
}
