namespace Jugaad.Desk.Stock;

/// <summary>What is on the shelf and what that cost.</summary>
internal static class StockRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(StockKeeping)];
}
