namespace Jugaad.Desk.Papers;

internal static class PapersRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(CustomerLinks), typeof(Files), typeof(PaperRoom)];
}
