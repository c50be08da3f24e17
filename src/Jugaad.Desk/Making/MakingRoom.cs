namespace Jugaad.Desk.Making;

internal static class MakingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [typeof(Quotes), typeof(Deposits), typeof(MakingDesk), typeof(Stages), typeof(Deliveries), typeof(CustomerAnswers)];
}
