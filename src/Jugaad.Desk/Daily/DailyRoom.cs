namespace Jugaad.Desk.Daily;

/// <summary>What a day brings by itself, and the calendar of days to come.</summary>
internal static class DailyRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(DailyRun), typeof(Calendar)];
}
