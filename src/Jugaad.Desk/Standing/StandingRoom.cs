namespace Jugaad.Desk.Standing;

internal static class StandingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(StandingDesk), typeof(StandingRun)];
}
