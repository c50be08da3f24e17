namespace Jugaad.Desk.Reference;

internal static class ReferenceRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(CustomerFinder), typeof(Numbers)];
}
