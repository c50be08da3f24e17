using Jugaad.Core.Trade;

namespace Jugaad.Core.Taxes;

/// <summary>One sale, as far as tax asks.</summary>
/// <param name="PreferredCodeId">The code that the item prefers.</param>
/// <param name="To">The place of supply.</param>
/// <param name="From">Where the business is.</param>
public sealed record TaxCase(Supply Supply, Buyer Buyer, Address To, Address From, int PreferredCodeId = 0)
{
    /// <summary>Where it is supplied; a place without a country counts as at home.</summary>
    public string Country => To.Country.Length == 0 ? From.Country : To.Country;

    public bool IsAtHome => Country == From.Country;

    /// <summary>
    /// A place without a country counts as at home, and one without a region as in the business's own.
    /// </summary>
    public Place Place =>
        IsAtHome
            ? RegionsUnsaid != AddressPart.None || Regions.Same(From.Country, To.Region, From.Region)
                ? Place.HomeRegion
                : Place.OtherRegion
            : Countries.InUnion(To.Country) && Countries.InUnion(From.Country)
                ? Place.Union
                : Place.Abroad;

    /// <summary>Which of the two regions is not said, so that one cannot tell whether they are the same.</summary>
    public AddressPart RegionsUnsaid =>
        (To.Region.Length == 0 ? AddressPart.Region : AddressPart.None)
        | (From.Region.Length == 0 ? AddressPart.OwnRegion : AddressPart.None);

    /// <summary>
    /// Where something is supplied as authorities are told it: at home, elsewhere in the union or abroad.
    /// </summary>
    /// <param name="to">The place of supply.</param>
    /// <param name="from">Where the business is.</param>
    public static Place ToldPlace(Address to, Address from) =>
        new TaxCase(Supply.Services, Buyer.Anybody, to, from).Place is (Place.Union or Place.Abroad) and var place
            ? place
            : Place.Home;

    /// <param name="goods">Goods, or a service.</param>
    /// <param name="to">The place of supply.</param>
    /// <param name="day">The tax date, on which a certificate of exemption must hold.</param>
    public static TaxCase Of(
        bool goods,
        Customer customer,
        Address to,
        Address from,
        DateOnly day,
        int preferredCodeId = 0
    ) => new(goods ? Supply.Goods : Supply.Services, BuyerOf(customer, day), to, from, preferredCodeId);

    public static Buyer BuyerOf(Customer customer, DateOnly day) =>
        customer.CertificateOn(day) is not null
            ? Buyer.ExemptWithCertificate
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
            Place.HomeRegion => From.Region.Length > 0
                ? $"in the home region{(To.Region.Length > 0 ? $" {To.Region}" : "")}"
                : "at home",
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
    /// <summary>What the addresses do not say, and what might have given another code.</summary>
    public AddressPart Lacks { get; private init; }

    /// <summary>Takes the first rule that fits; without one, the item keeps the code that it prefers.</summary>
    public static TaxDecision By(IEnumerable<TaxRule> rules, TaxCase sale)
    {
        var inOrder = rules.OrderBy(r => r.Position).ToList();
        var code = inOrder.Find(r => r.Case.Fits(sale))?.TaxCodeId;
        return new(code, sale.Words()) { Lacks = LackingFor(inOrder, sale, code ?? sale.PreferredCodeId) };
    }

    /// <summary>
    /// Goes down the rules as if nothing were taken for granted: each that hangs on something unsaid might be the one,
    /// until one fits for sure. Only what could end at another code is lacking.
    /// </summary>
    private static AddressPart LackingFor(List<TaxRule> inOrder, TaxCase sale, int decided)
    {
        var passed = AddressPart.None;
        var lacking = AddressPart.None;
        foreach (var rule in inOrder)
        {
            var hangs = rule.Case.HangsOn(sale);
            if (hangs == AddressPart.None && !rule.Case.Fits(sale))
                continue;
            passed |= hangs;
            if ((rule.TaxCodeId ?? sale.PreferredCodeId) != decided)
                lacking = passed;
            if (hangs == AddressPart.None)
                return lacking;
        }

        return sale.PreferredCodeId == decided ? lacking : passed;
    }
}

/// <summary>What tax asks, in words.</summary>
public static class TaxWords
{
    public static string Of(Buyer buyer) =>
        buyer switch
        {
            Buyer.BusinessWithNumber => "a business with a tax number",
            Buyer.BusinessWithoutNumber => "a business without a tax number",
            Buyer.Consumer => "a consumer",
            Buyer.PublicBody => "a public body",
            Buyer.ExemptWithCertificate => "whoever is exempt with a certificate",
            _ => "anybody",
        };

    public static string Of(Place place) =>
        place switch
        {
            Place.Home => "at home",
            Place.HomeRegion => "in the home region",
            Place.OtherRegion => "in another region at home",
            Place.Union => "elsewhere in the union",
            Place.Abroad => "abroad",
            _ => "anywhere",
        };

    /// <summary>Parts of an address, such as <c>the region, the postal code</c>.</summary>
    public static string Of(AddressPart parts) =>
        string.Join(
            ", ",
            new[]
            {
                parts.HasFlag(AddressPart.Region) ? "the region it goes to" : "",
                parts.HasFlag(AddressPart.PostalCode) ? "the postal code it goes to" : "",
                parts.HasFlag(AddressPart.OwnRegion) ? "our own region" : "",
            }.Where(p => p.Length > 0)
        );

    public static string Of(Supply supply) =>
        supply switch
        {
            Supply.Goods => "goods",
            Supply.Services => "services",
            _ => "goods or services",
        };
}
