namespace Jugaad.Desk.Paying;

/// <summary>Customers who pay online: what they are asked for, what the card service tells, what it pays out.</summary>
internal static class PayingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(PaySetup),
        typeof(PayOffer),
        typeof(CardRequests),
        typeof(CardMessages),
        typeof(SurchargeNotes),
        typeof(CardPayouts),
        typeof(CardPayingBack),
    ];
}
