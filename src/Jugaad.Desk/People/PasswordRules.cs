using Jugaad.Desk.Kept;
using Microsoft.AspNetCore.Identity;

namespace Jugaad.Desk.People;

/// <summary>
/// What a password must be, by what is advised today (OWASP, NIST SP 800-63B): long, not common, and not one's own
/// name.
/// </summary>
public sealed class PasswordRules : IPasswordValidator<Person>
{
    public const int Least = 12;
    public const int Most = 200;

    private const int LeastOfItsOwn = 8;
    private const int LeastPart = 4;

    public Task<IdentityResult> ValidateAsync(UserManager<Person> manager, Person user, string? password) =>
        Task.FromResult(
            Problem(password ?? "", user) is { } problem
                ? IdentityResult.Failed(new IdentityError { Code = "PasswordRules", Description = problem })
                : IdentityResult.Success
        );

    private static string? Problem(string password, Person person)
    {
        if (password.Length < Least)
            return $"A password has at least {Least} characters. A short sentence is best.";
        if (password.Length > Most)
            return $"A password has at most {Most} characters.";
        if (CommonPasswords.Has(password))
            return "This is one of the passwords that guessers try first, or such a one with something around it. Take a short sentence of your own.";
        return IsOwnName(password, person)
            ? "This is little more than your name or your address, which others know. Take a short sentence."
            : null;
    }

    private static bool IsOwnName(string password, Person person)
    {
        var plain = new string([.. password.ToLowerInvariant().Where(char.IsLetterOrDigit)]);
        var parts = person
            .FullName.Split([' ', '-', '\''], StringSplitOptions.RemoveEmptyEntries)
            .Concat((person.Email ?? "").Split(['@', '.', '-', '_', '+'], StringSplitOptions.RemoveEmptyEntries))
            .Select(p => p.ToLowerInvariant())
            .Where(p => p.Length >= LeastPart)
            .Distinct()
            .OrderByDescending(p => p.Length)
            .ToList();
        var rest = parts.Aggregate(plain, (text, part) => text.Replace(part, "", StringComparison.Ordinal));
        return rest.Length < plain.Length && rest.Length < LeastOfItsOwn;
    }
}
