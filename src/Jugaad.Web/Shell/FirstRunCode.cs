using System.Security.Cryptography;

namespace Jugaad.Web.Shell;

/// <summary>
/// A code that the program prints where it was started: only who sees that begins empty books, so that no stranger
/// becomes their owner.
/// </summary>
public sealed class FirstRunCode
{
    /// <summary>Without letters and figures that look alike.</summary>
    private const string Letters = "ABCDEFGHJKMNPQRSTUVWXYZ23456789";

    public string Code { get; } =
        $"{RandomNumberGenerator.GetString(Letters, 4)}-{RandomNumberGenerator.GetString(Letters, 4)}";

    public bool Is(string typed) =>
        CryptographicOperations.FixedTimeEquals(
            System.Text.Encoding.UTF8.GetBytes(Plain(typed)),
            System.Text.Encoding.UTF8.GetBytes(Plain(Code))
        );

    private static string Plain(string code) => string.Concat(code.Where(char.IsLetterOrDigit)).ToUpperInvariant();
}
