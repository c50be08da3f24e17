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

    /// <summary>Anybody with a certificate of exemption that holds on the day.</summary>
    ExemptWithCertificate,
}

/// <summary>Where the supply goes to, seen from where the business is.</summary>
public enum Place
{
    Anywhere,
    Home,

    /// <summary>The business's own region of its country.</summary>
    HomeRegion,

    /// <summary>Another region of the same country.</summary>
    OtherRegion,

    /// <summary>Another country of the same union.</summary>
    Union,
    Abroad,
}

/// <summary>Parts of an address that a rule may ask for and that may not be there.</summary>
[Flags]
public enum AddressPart
{
    None = 0,

    /// <summary>The region of the place that is delivered to.</summary>
    Region = 1,

    PostalCode = 2,

    /// <summary>The business's own region, with which the other is compared.</summary>
    OwnRegion = 4,
}

/// <summary>The case that a rule is for; what is left empty narrows nothing.</summary>
public sealed record TaxRuleCase(Supply Supply, Buyer Buyer, Place Place)
{
    /// <summary>Only items that prefer this code, so that an exempt item keeps its exemption.</summary>
    public int? PreferredCodeId { get; init; }

    /// <summary>Two letters of ISO 3166-1, for a rule of one country.</summary>
    public string Country { get; init; } = "";

    /// <summary>
    /// The second part of an ISO 3166-2 code, for a rule of one region: of the country above, or else of the business's
    /// own.
    /// </summary>
    public string Region { get; init; } = "";

    /// <summary>
    /// Beginnings of postal codes, apart by blanks, for a rule of a county or a town, in the same country.
    /// </summary>
    public string Postal { get; init; } = "";

    private IEnumerable<string> Beginnings => Postal.Split(' ', StringSplitOptions.RemoveEmptyEntries);

    /// <summary>Whether the case takes a sale in, an address that says too little counting as at home.</summary>
    public bool Fits(TaxCase sale) =>
        FitsSale(sale) && FitsPlace(sale) && FitsCountry(sale) && FitsRegion(sale) && FitsPostal(sale);

    /// <summary>
    /// What the sale's address would have to say before one knows whether the case takes it in. None where that is
    /// known: because all is said that the case asks, or because it does not fit whatever is still to be said.
    /// </summary>
    public AddressPart HangsOn(TaxCase sale)
    {
        if (!FitsSale(sale) || !FitsCountry(sale))
            return AddressPart.None;
        var none = AddressPart.None;
        var place = sale.IsAtHome && Place is Place.HomeRegion or Place.OtherRegion ? sale.RegionsUnsaid : none;
        var region = Region.Length > 0 && sale.To.Region.Length == 0 ? AddressPart.Region : none;
        var postal = Postal.Length > 0 && sale.To.PostalCode.Trim().Length == 0 ? AddressPart.PostalCode : none;
        var known =
            (place != none || FitsPlace(sale))
            && (region != none || FitsRegion(sale))
            && (postal != none || FitsPostal(sale));
        return known ? place | region | postal : none;
    }

    private bool FitsSale(TaxCase sale) =>
        (Supply == Supply.Anything || Supply == sale.Supply)
        && (Buyer == Buyer.Anybody || Buyer == sale.Buyer)
        && (PreferredCodeId is null || PreferredCodeId == sale.PreferredCodeId);

    private bool FitsPlace(TaxCase sale) =>
        Place switch
        {
            Place.Anywhere => true,
            Place.Home => sale.IsAtHome,
            _ => Place == sale.Place,
        };

    private bool FitsCountry(TaxCase sale) =>
        Country.Length > 0 ? Country == sale.Country : (Region.Length == 0 && Postal.Length == 0) || sale.IsAtHome;

    private bool FitsRegion(TaxCase sale) => Region.Length == 0 || Regions.Same(sale.Country, Region, sale.To.Region);

    private bool FitsPostal(TaxCase sale) =>
        Postal.Length == 0
        || Beginnings.Any(p => sale.To.PostalCode.Trim().StartsWith(p, StringComparison.OrdinalIgnoreCase));
}

/// <summary>One row of the table that decides which tax code a line gets: the first row that fits is taken.</summary>
public sealed class TaxRule
{
    private TaxRule() { }

    /// <param name="taxCodeId">Null where the item keeps the code that it prefers.</param>
    public TaxRule(int position, TaxRuleCase @case, int? taxCodeId)
    {
        (Position, Supply, Buyer, Place, TaxCodeId) = (position, @case.Supply, @case.Buyer, @case.Place, taxCodeId);
        (PreferredCodeId, Country, Postal) = (@case.PreferredCodeId, @case.Country, @case.Postal.Trim());
        Region = Regions.Kept(@case.Country, @case.Region);
    }

    public int Id { get; private set; }

    public int Position { get; private set; }

    public Supply Supply { get; private set; }

    public Buyer Buyer { get; private set; }

    public Place Place { get; private set; }

    public int? PreferredCodeId { get; private set; }

    public string Country { get; private set; } = "";

    public string Region { get; private set; } = "";

    public string Postal { get; private set; } = "";

    public int? TaxCodeId { get; private set; }

    public TaxRuleCase Case =>
        new(Supply, Buyer, Place)
        {
            PreferredCodeId = PreferredCodeId,
            Country = Country,
            Region = Region,
            Postal = Postal,
        };

    public void MoveTo(int position) => Position = position;

    /// <summary>The place that the rule is for, in words.</summary>
    public string PlaceWords()
    {
        var narrowed = new[]
        {
            Country.Length > 0 ? Countries.NameOf(Country) : "",
            Region.Length > 0 ? $"region {Region}" : "",
            Postal.Length > 0
                ? $"postal code {string.Join(" or ", Postal.Split(' ', StringSplitOptions.RemoveEmptyEntries))}…"
                : "",
        }
            .Where(t => t.Length > 0)
            .ToList();
        if (narrowed.Count == 0)
            return TaxWords.Of(Place);
        return Place == Place.Anywhere
            ? string.Join(", ", narrowed)
            : $"{TaxWords.Of(Place)}, {string.Join(", ", narrowed)}";
    }
}
