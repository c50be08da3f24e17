namespace Jugaad.Core.Pricing;

/// <summary>Moves prices by a percentage.</summary>
public static class PriceMove
{
    /// <summary>
    /// price × (1 + percent ÷ 100), rounded half away from zero to the nearest step; never below zero.
    /// </summary>
    /// <param name="step">Such as 0.05; above zero.</param>
    public static decimal Apply(decimal price, decimal percent, decimal step) =>
        Math.Max(0, Math.Round(price * (100 + percent) / 100 / step, 0, MidpointRounding.AwayFromZero) * step);
}
