namespace Jugaad.Desk.Kept;

/// <summary>What can be moved in and out.</summary>
public enum MovingKind
{
    Customers,
    Items,
    Prices,

    /// <summary>The numbers by which customers know items.</summary>
    ItemNumbers,
    OpenItems,
    Balances,
}
