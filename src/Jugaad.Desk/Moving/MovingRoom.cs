namespace Jugaad.Desk.Moving;

/// <summary>Books and tables that move in and out: imports tried, done and taken back, exports, whole books.</summary>
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
