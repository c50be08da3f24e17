namespace Jugaad.Desk.Counter;

internal static class CounterRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(CounterSales), typeof(CounterReturns), typeof(Tills)];
}
