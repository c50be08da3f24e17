namespace Jugaad.Desk.Banking;

/// <summary>Statements read, their lines matched and placed, payers learnt.</summary>
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
        typeof(Conversions),
        typeof(OutgoingLines),
    ];
}
