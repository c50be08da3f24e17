namespace Jugaad.Desk.Counter;

/// <summary>Sales at the counter, what comes back there, and the till.</summary>
internal static class CounterRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [typeof(CounterSales), typeof(CounterReturns), typeof(SalesByName), typeof(Tills)];
}
