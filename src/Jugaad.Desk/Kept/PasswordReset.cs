namespace Jugaad.Desk.Kept;

/// <summary>
/// A way back in for somebody who forgot their password: a word that nobody can guess, good once and for a short time.
/// </summary>
public sealed class PasswordReset
{
    public int Id { get; init; }

    public int PersonId { get; init; }

    /// <summary>Of the word in the link, which itself is not kept.</summary>
    public string TokenHash { get; init; } = "";

    /// <summary>UTC; afterwards it is of no use.</summary>
    public DateTime Until { get; init; }

    public bool Used { get; set; }
}
