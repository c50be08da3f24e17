using Jugaad.Core.Trade;

namespace Jugaad.Core.Taxes;

/// <summary>What is sold, as far as tax asks.</summary>
public enum Supply
{
    Anything,
    Goods,
    Services,
}

/// <summary>To whom it is sold, as far as tax asks.</summary>
public enum Buyer
{
    Anybody,

    /// <summary>A business that gave its tax number.</summary>
    BusinessWithNumber,
    BusinessWithoutNumber,
    Consumer,
    PublicBody,
}

/// <summary>Where the buyer is, seen from the business.</summary>
public enum Place
{
    Anywhere,
    Home,

    /// <summary>Another country of the same union.</summary>
    Union,
    Abroad,
}

/// <summary>One row of the table that decides which tax code a line gets: the first row that fits is taken.</summary>
public sealed class TaxRule
{
    private TaxRule() { }

    /// <param name="taxCodeId">Null where the item keeps the code that it prefers.</param>
    public TaxRule(int position, Supply supply, Buyer buyer, Place place, int? taxCodeId) =>
        (Position, Supply, Buyer, Place, TaxCodeId) = (position, supply, buyer, place, taxCodeId);

    public int Id { get; private set; }

    public int Position { get; private set; }

    public Supply Supply { get; private set; }

    public Buyer Buyer { get; private set; }

    public Place Place { get; private set; }

    public int? TaxCodeId { get; private set; }

    public void MoveTo(int position) => Position = position;

    public bool Fits(Supply supply, Buyer buyer, Place place) =>
        (Supply == Supply.Anything || Supply == supply) && (Buyer == Buyer.Anybody || Buyer == buyer) && (Place == Place.Anywhere || Place == place);
}

/// <summary>Which code a line gets, and why.</summary>
/// <param name="TaxCodeId">Null where the item keeps the code that it prefers.</param>
/// <param name="Why">Such as <c>services to a business with a tax number in Finland</c>.</param>
public sealed record TaxDecision(int? TaxCodeId, string Why)
{
    /// <summary>Takes the first rule that fits; without one, the item keeps the code that it prefers.</summary>
    public static TaxDecision By(IEnumerable<TaxRule> rules, bool goods, Customer customer, string homeCountry)
    {
        var supply = goods ? Supply.Goods : Supply.Services;
        var (buyer, place) = (BuyerOf(customer), PlaceOf(customer.Address.Country, homeCountry));
        var rule = rules.OrderBy(r => r.Position).FirstOrDefault(r => r.Fits(supply, buyer, place));
        var where = place == Place.Home ? "at home" : $"in {Countries.NameOf(customer.Address.Country)}";
        return new TaxDecision(rule?.TaxCodeId, $"{(goods ? "goods" : "services")} to {Words(buyer)} {where}");
    }

    public static Buyer BuyerOf(Customer customer) => customer.Kind switch
    {
        CustomerKind.Consumer => Buyer.Consumer,
        CustomerKind.PublicBody => Buyer.PublicBody,
        _ => customer.TaxNumber.Length > 0 ? Buyer.BusinessWithNumber : Buyer.BusinessWithoutNumber,
    };

    /// <summary>A customer without a country counts as at home.</summary>
    public static Place PlaceOf(string country, string home) =>
        country.Length == 0 || country == home ? Place.Home
        : Countries.InUnion(country) && Countries.InUnion(home) ? Place.Union
        : Place.Abroad;

    public static string Words(Buyer buyer) => buyer switch
    {
        Buyer.BusinessWithNumber => "a business with a tax number",
        Buyer.BusinessWithoutNumber => "a business without a tax number",
        Buyer.Consumer => "a consumer",
        Buyer.PublicBody => "a public body",
        _ => "anybody",
    };

    public static string Words(Place place) => place switch
    {
        Place.Home => "at home",
        Place.Union => "elsewhere in the union",
        Place.Abroad => "abroad",
        _ => "anywhere",
    };

    public static string Words(Supply supply) => supply switch
    {
        Supply.Goods => "goods",
        Supply.Services => "services",
        _ => "goods or services",
    };
}
