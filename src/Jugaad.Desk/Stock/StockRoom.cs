namespace Jugaad.Desk.Stock;

internal static class StockRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(StockKeeping)];
}
