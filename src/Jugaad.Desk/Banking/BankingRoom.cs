namespace Jugaad.Desk.Banking;

internal static class BankingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(Statements),
        typeof(BankDays),
        typeof(MatchingBench),
        typeof(BankConversion),
        typeof(PayerLearning),
        typeof(OwnTransfers),
        typeof(OutgoingLines),
    ];
}
