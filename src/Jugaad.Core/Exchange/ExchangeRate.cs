using Jugaad.Core.Amounts;

namespace Jugaad.Core.Exchange;

/// <summary>Home currency for one unit of a foreign currency, from a day until the next rate.</summary>
public sealed class ExchangeRate
{
    private ExchangeRate() => Currency = null!;

    /// <exception cref="RefusalException">When the rate is not above zero, or has more than 10 decimals.</exception>
    public ExchangeRate(Currency currency, DateOnly from, decimal rate)
    {
        if (rate is <= 0 or > 1_000_000 || PlainDecimal.DecimalsOf(rate) > 10)
            throw new RefusalException("rate", "Give a rate above zero, at most 1000000, with at most 10 decimals.");
        (Currency, From, Rate) = (currency, from, rate);
    }

    public int Id { get; private set; }

    public Currency Currency { get; private set; }

    public DateOnly From { get; private set; }

    public decimal Rate { get; private set; }
}
