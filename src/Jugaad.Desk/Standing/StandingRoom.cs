namespace Jugaad.Desk.Standing;

/// <summary>Standing invoices and the run that makes what is due of them.</summary>
internal static class StandingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(StandingDesk), typeof(StandingRun)];
}
