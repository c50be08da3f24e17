namespace Jugaad.Desk.Moving;

internal static class MovingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(OpeningDesk),
        typeof(Importing),
        typeof(ImportTaking),
        typeof(ImportUndo),
        typeof(ImportUses),
        typeof(Exporting),
        typeof(BooksFolder),
    ];
}
