namespace Jugaad.Desk.Issuing;

internal static class IssuingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [typeof(DraftWarnings), typeof(IssuingDesk), typeof(Credits), typeof(IssueCheck), typeof(IssuingMany)];
}
