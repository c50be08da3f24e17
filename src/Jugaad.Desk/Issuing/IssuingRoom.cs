namespace Jugaad.Desk.Issuing;

/// <summary>What is checked before issuing, issuing one or many, and credits.</summary>
internal static class IssuingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(DraftWarnings),
        typeof(CreditStanding),
        typeof(IssuingDesk),
        typeof(Credits),
        typeof(AcceptedDeposits),
        typeof(IssueCheck),
        typeof(IssuingMany),
        typeof(Sending),
    ];
}
