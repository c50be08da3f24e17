namespace Jugaad.Desk.Reference;

/// <summary>
/// What every room looks up: numbers (where each is given), posting accounts, customers by what was typed,
/// exchange rates, and what was open on a day.
/// </summary>
internal static class ReferenceRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(CustomerFinder),
        typeof(GapsInNumbers),
        typeof(Numbers),
        typeof(OpenItems),
        typeof(RateBook),
        typeof(AuthorityRates),
        typeof(SpokenOf),
    ];
}
