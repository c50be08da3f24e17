using Jugaad.Core.Amounts;

namespace Jugaad.Core.Exchange;

/// <summary>Which of a bank's rates: between, what it buys the currency at, what it sells it at.</summary>
public enum RateKind
{
    Middle,
    Buying,
    Selling,
}

/// <summary>What a rate is needed for.</summary>
public enum RateUse
{
    /// <summary>Quotes, orders, invoices, credit notes.</summary>
    Documents,

    /// <summary>Money that comes in or goes back, where the bank did not say at what rate.</summary>
    Money,

    /// <summary>Between own accounts, as a proposal.</summary>
    Conversions,
    Valuation,
}

/// <summary>The rates of a currency from a day until the next ones, all quoted the same way round.</summary>
public sealed class ExchangeRate
{
    private ExchangeRate() => Currency = null!;

    /// <param name="rate">The middle one.</param>
    /// <param name="buying">At which the bank buys the currency, quoted as the middle one is; null where it has
    /// none.</param>
    /// <param name="selling">At which it sells it.</param>
    /// <param name="source">Where they are from: the name of a file or a source; empty where they were typed.</param>
    /// <exception cref="RefusalException">With every one that cannot be.</exception>
    public ExchangeRate(
        Currency currency,
        DateOnly from,
        QuotedRate rate,
        decimal? buying = null,
        decimal? selling = null,
        string source = ""
    )
        : this()
    {
        (Currency, From) = (currency, from);
        Quote(rate, buying, selling, source);
    }

    public int Id { get; private set; }

    public Currency Currency { get; private set; }

    public DateOnly From { get; private set; }

    public QuotedRate Rate { get; private set; }

    public QuotedRate? Buying { get; private set; }

    public QuotedRate? Selling { get; private set; }

    public string Source { get; private set; } = "";

    /// <summary>Puts others in their place; what was posted at those before stays as it is.</summary>
    /// <inheritdoc cref="ExchangeRate(Currency, DateOnly, QuotedRate, decimal?, decimal?, string)"/>
    public void Quote(QuotedRate rate, decimal? buying, decimal? selling, string source)
    {
        var refusals = new Refusals();
        refusals.Try(() => rate.Check("rate"));
        var (low, high) = (
            buying is { } b ? new QuotedRate(b, rate.PerHome) : (QuotedRate?)null,
            selling is { } s ? new QuotedRate(s, rate.PerHome) : (QuotedRate?)null
        );
        refusals.Try(() => low?.Check("buying"));
        refusals.Try(() => high?.Check("selling"));
        refusals.ThrowIfAny();
        // A bank pays less for a currency than it asks for it.
        if ((low ?? rate).HomeForOne > rate.HomeForOne || rate.HomeForOne > (high ?? rate).HomeForOne)
            refusals.Add(
                low is null ? "selling" : "buying",
                $"A bank buys {Currency} for no more than the middle rate and sells it for no less. {(rate.PerHome ? "Quoted for one unit of home, buying is the highest figure and selling the lowest." : "Buying is the lowest figure and selling the highest.")}"
            );
        Texts.Short(refusals, "source", source, 100);
        refusals.ThrowIfAny();
        (Rate, Buying, Selling, Source) = (rate, low, high, source.Trim());
    }

    /// <summary>The one of a kind; the middle one where the bank has none of that kind.</summary>
    public QuotedRate Of(RateKind kind) =>
        kind switch
        {
            RateKind.Buying => Buying ?? Rate,
            RateKind.Selling => Selling ?? Rate,
            _ => Rate,
        };

    /// <summary>By what share it is off another one, of that: 0.1 for a tenth, in either direction.</summary>
    public static decimal Off(QuotedRate rate, QuotedRate from) => Math.Abs((rate.HomeForOne / from.HomeForOne) - 1);
}
