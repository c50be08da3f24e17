namespace Jugaad.Desk.Books;

internal static class BooksRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(BooksHead), typeof(BookWriter)];
}
