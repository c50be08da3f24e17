using System.Security.Claims;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;

namespace Jugaad.Web.Shell;

/// <summary>
/// Whoever is signed in, by name and role; Jugaad itself, which may do everything, for what no person started. A
/// visitor who is not signed in may only begin (set up empty books, or take up an invitation) and answer a paper
/// through its link.
/// </summary>
internal sealed class SignedInActor(IHttpContextAccessor http) : IActor
{
    internal const string NameClaim = "full-name";
    internal const string RoleClaim = "books-role";

    /// <summary>What of a request says what visitor it is, where that is known.</summary>
    internal const string NameOfVisitor = "visitor";

    public string Name =>
        http.HttpContext?.User.FindFirst(NameClaim)?.Value
        ?? Acting.Now
        ?? (http.HttpContext is { } at ? at.Items[NameOfVisitor] as string ?? "Visitor" : "Jugaad");

    public string SignsAs => http.HttpContext?.User.FindFirst(NameClaim)?.Value ?? Acting.Now ?? "";

    public string Address => http.HttpContext?.Connection.RemoteIpAddress?.ToString() ?? "";

    public TimeSpan Patience => TimeSpan.FromSeconds(http.HttpContext is null ? 60 : 2);

    public bool May(Right right) =>
        http.HttpContext is null
        || (
            RoleOf(http.HttpContext.User) is { } role
                ? role.Has(right) || right is Right.Customer or Right.Door
                : right is Right.Begin or Right.Customer or Right.Door
        );

    /// <summary>Null for whoever is not signed in.</summary>
    internal static PersonRole? RoleOf(ClaimsPrincipal user) =>
        Enum.TryParse<PersonRole>(user.FindFirst(RoleClaim)?.Value, out var role) ? role : null;
}

/// <summary>Puts the full name among a person's claims, also when the session is looked over and made anew.</summary>
internal sealed class NamedPrincipals(
    UserManager<Person> people,
    RoleManager<IdentityRole<int>> roles,
    IOptions<IdentityOptions> options
) : UserClaimsPrincipalFactory<Person, IdentityRole<int>>(people, roles, options)
{
    protected override async Task<ClaimsIdentity> GenerateClaimsAsync(Person user)
    {
        var identity = await base.GenerateClaimsAsync(user);
        identity.AddClaim(new Claim(SignedInActor.NameClaim, user.FullName));
        identity.AddClaim(new Claim(SignedInActor.RoleClaim, user.Role.ToString()));
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
