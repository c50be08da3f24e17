using System.Security.Cryptography;
using System.Text;

namespace Jugaad.Desk.Kept;

/// <summary>An open door for one person: a link that nobody can guess, good once and for some days.</summary>
public sealed class Invitation
{
    /// <summary>For how long a link is good.</summary>
    public const int Days = 7;

    public int Id { get; init; }

    public string Email { get; init; } = "";

    public PersonRole Role { get; init; }

    /// <summary>Of the word in the link, which itself is not kept.</summary>
    public string TokenHash { get; init; } = "";

    /// <summary>The instant, in UTC, after which the link is of no use.</summary>
    public DateTime Until { get; init; }

    public string InvitedBy { get; init; } = "";

    /// <summary>True once it was taken up or taken back.</summary>
    public bool Closed { get; set; }

    /// <summary>A word of 256 random bits.</summary>
    public static string NewToken() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));

    public static string HashOf(string token) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(token)));
}
