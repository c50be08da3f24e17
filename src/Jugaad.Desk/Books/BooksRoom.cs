namespace Jugaad.Desk.Books;

/// <summary>The books themselves: context, writer, head, file, lock, schema, rights, searching by words.</summary>
internal static class BooksRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(BooksHead),
        typeof(BookWriter),
        typeof(OneByOne),
        typeof(TaxTelling),
        typeof(TaxPlaces),
        typeof(EmptiedAccounts),
    ];
}
