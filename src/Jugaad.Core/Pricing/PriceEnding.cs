namespace Jugaad.Core.Pricing;

/// <summary>On what computed prices end.</summary>
public enum PriceEnding
{
    /// <summary>To the cent.</summary>
    Cent,

    /// <summary>On .00: whole.</summary>
    Whole,

    /// <summary>On .00 or .50.</summary>
    Half,

    /// <summary>On .50 alone.</summary>
    Fifty,

    /// <summary>On .90 alone.</summary>
    Ninety,
}

/// <summary>Computes the prices of a list from those of another.</summary>
public static class ComputedPrice
{
    /// <summary>
    /// price × factor, to the nearest price that ends so, half away from zero. What is above zero never becomes
    /// nothing: it is the least price that ends so then; and nothing stays nothing.
    /// </summary>
    /// <param name="factor">Above zero.</param>
    public static decimal Of(decimal price, decimal factor, PriceEnding ending)
    {
        if (price == 0)
            return 0;
        var (step, end) = ending switch
        {
            PriceEnding.Whole => (1m, 0m),
            PriceEnding.Half => (0.5m, 0m),
            PriceEnding.Fifty => (1m, 0.5m),
            PriceEnding.Ninety => (1m, 0.9m),
            _ => (0.01m, 0m),
        };
        var computed = Math.Round((price * factor - end) / step, 0, MidpointRounding.AwayFromZero) * step + end;
        return Math.Max(computed, end == 0 ? step : end);
    }
}
