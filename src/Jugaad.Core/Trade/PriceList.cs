using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Trade;

/// <summary>A list of prices in one currency, with tax in them or without. An item's own price is in the home currency.</summary>
public sealed class PriceList
{
    private PriceList() => (Name, Currency) = ("", null!);

    /// <exception cref="RefusalException">When it has no name, or its currency is not known.</exception>
    public PriceList(string name, string currency, bool includesTax)
        : this()
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "name", name, 60, "Give the price list a name.");
        if (!Currency.TryOf(currency, out var unit))
            refusals.Add("currency", "Choose the currency of the price list.");
        refusals.ThrowIfAny();
        (Name, Currency, IncludesTax) = (name.Trim(), unit!, includesTax);
    }

    public int Id { get; private set; }

    public string Name { get; private set; }

    public Currency Currency { get; private set; }

    /// <summary>Whether its prices have the tax in them.</summary>
    public bool IncludesTax { get; private set; }

    public bool Retired { get; private set; }

    public void Retire(bool retired) => Retired = retired;
}

/// <summary>An item's price in a list.</summary>
public sealed class ItemPrice
{
    private ItemPrice() { }

    internal ItemPrice(int priceListId, decimal price) => (PriceListId, Price) = (priceListId, price);

    public int Id { get; private set; }

    public int PriceListId { get; private set; }

    public decimal Price { get; private set; }

    internal void Set(decimal price) => Price = price;
}

/// <summary>Which price a customer is offered, and where it comes from.</summary>
/// <param name="From">Such as <c>price list Trade</c>; empty for the item's own price.</param>
public sealed record OfferedPrice(decimal Price, string From)
{
    private const int TaxDecimals = 6;

    /// <summary>
    /// The price in the customer's list; else in another list of their currency; else the item's own, divided by the exchange rate
    /// and rounded half away from zero to the currency's decimals (at least 2). Where the document wants tax in its prices and the
    /// price has none, or the other way round, it is converted by the treatment and rounded to 6 decimals.
    /// </summary>
    /// <param name="rate">Home currency for one unit; 0 where there is none, which gives a price of 0.</param>
    /// <param name="treatment">How the item is taxed; null where it is not known.</param>
    public static OfferedPrice Of(
        Item item,
        int? listId,
        IReadOnlyCollection<PriceList> lists,
        Currency currency,
        decimal rate,
        bool withTax,
        Treatment? treatment
    )
    {
        var offers = item
            .Prices.Join(
                lists.Where(l => !l.Retired && l.Currency.Equals(currency)),
                p => p.PriceListId,
                l => l.Id,
                (p, l) => (p.Price, List: l)
            )
            .OrderByDescending(o => o.List.Id == listId)
            .ThenBy(o => o.List.Id)
            .ToList();
        // A list that the customer does not have is better than a price converted from another currency, but not than the item's own.
        if (offers.Count > 0 && (offers[0].List.Id == listId || rate != 1))
            return new OfferedPrice(
                Convert(offers[0].Price, offers[0].List.IncludesTax, withTax, treatment),
                $"price list {offers[0].List.Name}"
            );
        var own =
            rate == 1 ? item.Price
            : rate == 0 ? 0
            : Math.Round(item.Price / rate, Math.Max(2, currency.Decimals), MidpointRounding.AwayFromZero);
        return new OfferedPrice(Convert(own, item.PriceIncludesTax, withTax, treatment), "");
    }

    private static decimal Convert(decimal price, bool hasTax, bool withTax, Treatment? treatment)
    {
        if (hasTax == withTax || treatment is null)
            return price;
        var factor = treatment.Factor;
        return Math.Round(withTax ? price * factor : price / factor, TaxDecimals, MidpointRounding.AwayFromZero);
    }
}

/// <summary>Moves prices by a percentage.</summary>
public static class PriceMove
{
    /// <summary>price × (1 + percent ÷ 100), rounded half away from zero to the nearest step; never below zero.</summary>
    /// <param name="step">Such as 0.05; above zero.</param>
    public static decimal Apply(decimal price, decimal percent, decimal step) =>
        Math.Max(0, Math.Round(price * (100 + percent) / 100 / step, 0, MidpointRounding.AwayFromZero) * step);
}
