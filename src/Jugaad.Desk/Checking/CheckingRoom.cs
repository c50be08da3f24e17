namespace Jugaad.Desk.Checking;

/// <summary>The proofs of `check`, one for each part of the books; a proof changes nothing.</summary>
internal static class CheckingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(BooksCheck)];
}
