namespace Jugaad.Desk.Kept;

/// <summary>What can be moved in and out.</summary>
public enum MovingKind
{
    Customers,
    Items,
    Prices,
    OpenItems,
    Balances,
}
