namespace Jugaad.Desk.Filing;

/// <summary>What an authority's desk answers.</summary>
/// <param name="Receipt">The number under which it took the return; empty where it did not.</param>
/// <param name="Reasons">Why it did not; empty where it did.</param>
public sealed record AuthorityAnswer(string Receipt, IReadOnlyList<string> Reasons);

/// <summary>The desk of a tax authority, which takes returns or says what is wrong with them.</summary>
public interface IAuthorityDesk
{
    /// <summary>Hands a return in; the same one again gets the same receipt.</summary>
    Task<AuthorityAnswer> HandInAsync(ReturnThen filed, CancellationToken stop);
}
