namespace Jugaad.Desk.Reports;

internal static class ReportsRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(AgedReports), typeof(JournalReports)];
}
