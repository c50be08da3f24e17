using Jugaad.Core.Trade;

namespace Jugaad.Core.Taxes;

/// <summary>One sale, as far as tax asks.</summary>
/// <param name="PreferredCodeId">The code that the item prefers.</param>
/// <param name="To">The place of supply.</param>
/// <param name="From">Where the business is.</param>
public sealed record TaxCase(Supply Supply, Buyer Buyer, Address To, Address From, int PreferredCodeId = 0)
{
    /// <summary>A place without a country counts as at home, and one without a region as in the business's own.</summary>
    public Place Place =>
        To.Country.Length == 0 || To.Country == From.Country
            ? From.Region.Length == 0 || To.Region.Length == 0 || To.Region.Equals(From.Region, StringComparison.OrdinalIgnoreCase) ? Place.HomeRegion : Place.OtherRegion
            : Countries.InUnion(To.Country) && Countries.InUnion(From.Country) ? Place.Union
            : Place.Abroad;

    /// <param name="goods">Goods, or a service.</param>
    /// <param name="to">The place of supply.</param>
    /// <param name="day">The tax date, on which a certificate of exemption must hold.</param>
    public static TaxCase Of(bool goods, Customer customer, Address to, Address from, DateOnly day, int preferredCodeId = 0) =>
        new(goods ? Supply.Goods : Supply.Services, BuyerOf(customer, day), to, from, preferredCodeId);

    public static Buyer BuyerOf(Customer customer, DateOnly day) =>
        customer.CertificateOn(day) is not null ? Buyer.ExemptWithCertificate
        : customer.Kind switch
        {
            CustomerKind.Consumer => Buyer.Consumer,
            CustomerKind.PublicBody => Buyer.PublicBody,
            _ => customer.TaxNumber.Length > 0 ? Buyer.BusinessWithNumber : Buyer.BusinessWithoutNumber,
        };

    /// <summary>Such as <c>services to a business with a tax number in Finland</c>.</summary>
    public string Words()
    {
        var country = Countries.NameOf(To.Country);
        var where = Place switch
        {
            Place.HomeRegion => From.Region.Length > 0 ? $"in the home region{(To.Region.Length > 0 ? $" {To.Region}" : "")}" : "at home",
            Place.OtherRegion => $"in the region {To.Region}",
            _ => $"in {country}",
        };
        return $"{TaxWords.Of(Supply)} to {TaxWords.Of(Buyer)} {where}";
    }
}

/// <summary>Which code a line gets, and why.</summary>
/// <param name="TaxCodeId">Null where the item keeps the code that it prefers.</param>
/// <param name="Why">The case in words.</param>
public sealed record TaxDecision(int? TaxCodeId, string Why)
{
    /// <summary>Takes the first rule that fits; without one, the item keeps the code that it prefers.</summary>
    public static TaxDecision By(IEnumerable<TaxRule> rules, TaxCase sale) =>
        new(rules.OrderBy(r => r.Position).FirstOrDefault(r => r.Case.Fits(sale))?.TaxCodeId, sale.Words());
}

/// <summary>What tax asks, in words.</summary>
public static class TaxWords
{
    public static string Of(Buyer buyer) => buyer switch
    {
        Buyer.BusinessWithNumber => "a business with a tax number",
        Buyer.BusinessWithoutNumber => "a business without a tax number",
        Buyer.Consumer => "a consumer",
        Buyer.PublicBody => "a public body",
        Buyer.ExemptWithCertificate => "whoever is exempt with a certificate",
        _ => "anybody",
    };

    public static string Of(Place place) => place switch
    {
        Place.Home => "at home",
        Place.HomeRegion => "in the home region",
        Place.OtherRegion => "in another region at home",
        Place.Union => "elsewhere in the union",
        Place.Abroad => "abroad",
        _ => "anywhere",
    };

    public static string Of(Supply supply) => supply switch
    {
        Supply.Goods => "goods",
        Supply.Services => "services",
        _ => "goods or services",
    };
}
