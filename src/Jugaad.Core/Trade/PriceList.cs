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

    /// <summary>The first day on which its prices hold; null where that was always so.</summary>
    public DateOnly? From { get; private set; }

    /// <summary>The last day on which they hold; null for no end.</summary>
    public DateOnly? Until { get; private set; }

    /// <summary>The list that whoever has this one gets after its last day; null for none.</summary>
    public int? FollowedById { get; private set; }

    public bool Retired { get; private set; }

    public bool HoldsOn(DateOnly day) => !Retired && (From is null || From <= day) && (Until is null || day <= Until);

    /// <exception cref="RefusalException">When it would end before it begins, or another followed without an end.
    /// </exception>
    public void Hold(DateOnly? from, DateOnly? until, int? followedById)
    {
        if (until < from)
            throw new RefusalException("until", "The last day is before the first. Give a later one.");
        if (followedById is not null && until is null)
            throw new RefusalException("until", "Give the last day of this list, after which the other one holds.");
        (From, Until, FollowedById) = (from, until, followedById);
    }

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
