using Jugaad.Core.Amounts;

namespace Jugaad.Core.Trade;

/// <summary>
/// A list of prices in one currency, with tax in them or without. An item's own price is in the home currency.
/// </summary>
public sealed class PriceList : IRetirable
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
