namespace Jugaad.Desk.Checking;

internal static class CheckingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(BooksCheck)];
}
