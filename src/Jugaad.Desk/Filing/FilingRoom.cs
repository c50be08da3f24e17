namespace Jugaad.Desk.Filing;

/// <summary>What is told to tax authorities: worked out, filed, and told of.</summary>
internal static class FilingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(TaxReturns),
        typeof(TaxReports),
        typeof(ReturnFiling),
        typeof(ReturnLooks),
        typeof(ReturnJournals),
        typeof(ReturnDoubting),
        typeof(ReturnPapers),
        typeof(ReturnBalances),
        typeof(ReturnCarrying),
        typeof(ReturnCharges),
        typeof(ReturnPaying),
    ];
}
