namespace Jugaad.Desk.Making;

/// <summary>
/// From one document to the next: orders, deliveries, stages, deposits, invoices; and the answers to quotes.
/// </summary>
internal static class MakingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [typeof(Quotes), typeof(Deposits), typeof(MakingDesk), typeof(Stages), typeof(Deliveries), typeof(CustomerAnswers)];
}
