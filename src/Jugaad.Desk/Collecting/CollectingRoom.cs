namespace Jugaad.Desk.Collecting;

/// <summary>What customers said about what they owe, and what follows from it: promises, plans, disputes.</summary>
internal static class CollectingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(CollectingRules),
        typeof(OwedBook),
        typeof(CustomerCredits),
        typeof(Agreements),
        typeof(PayingHabits),
        typeof(MoneyWaiting),
        typeof(Contacts),
        typeof(Disputes),
        typeof(Plans),
        typeof(PlanPapers),
        typeof(Reminders),
        typeof(LateCharges),
        typeof(LadderRun),
        typeof(StatementRun),
        typeof(Ladders),
    ];
}
