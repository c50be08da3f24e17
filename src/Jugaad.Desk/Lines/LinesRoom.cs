namespace Jugaad.Desk.Lines;

/// <summary>What was made from lines, what is left of them, and what that asks of changes.</summary>
internal static class LinesRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [typeof(LineUses), typeof(Wholes), typeof(LineLinks), typeof(StageWords), typeof(OrderChanges), typeof(Completion)];
}
