namespace Jugaad.Desk.Lines;

internal static class LinesRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [typeof(LineUses), typeof(Wholes), typeof(LineLinks), typeof(StageWords), typeof(OrderChanges), typeof(Completion)];
}
