using Jugaad.Core;
using Microsoft.AspNetCore.Identity;

namespace Jugaad.Desk.People;

/// <summary>Turns what the password rules find into refusals.</summary>
internal static class PasswordRefusals
{
    /// <param name="otherField">The field for what is not about the password.</param>
    /// <exception cref="RefusalException">When the result is not a success.</exception>
    internal static void Throw(IdentityResult result, string otherField)
    {
        if (result.Succeeded)
            return;
        throw new RefusalException(
            result
                .Errors.Select(e =>
                    e.Code switch
                    {
                        "PasswordMismatch" => new Refusal("oldPassword", "This is not your password as it is now."),
                        _ when e.Code.StartsWith("Password", StringComparison.Ordinal) => new Refusal(
                            "password",
                            e.Description
                        ),
                        _ => new Refusal(otherField, e.Description),
                    }
                )
                .ToList()
        );
    }
}
