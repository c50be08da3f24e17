namespace Jugaad.Desk.Daily;

internal static class DailyRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(DailyRun), typeof(Calendar)];
}
