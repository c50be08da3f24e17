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

/// <summary>The case that a rule is for; what is left empty narrows nothing.</summary>
public sealed record TaxRuleCase(Supply Supply, Buyer Buyer, Place Place)
{
    /// <summary>Only items that prefer this code, so that an exempt item keeps its exemption.</summary>
    public int? PreferredCodeId { get; init; }

    /// <summary>Two letters of ISO 3166-1, for a rule of one country.</summary>
    public string Country { get; init; } = "";

    /// <summary>The second part of an ISO 3166-2 code, for a rule of one region.</summary>
    public string Region { get; init; } = "";

    /// <summary>Beginnings of postal codes, apart by blanks, for a rule of a county or a town.</summary>
    public string Postal { get; init; } = "";

    public bool Fits(TaxCase sale) =>
        (Supply == Supply.Anything || Supply == sale.Supply)
        && (Buyer == Buyer.Anybody || Buyer == sale.Buyer)
        && FitsPlace(sale)
        && (PreferredCodeId is null || PreferredCodeId == sale.PreferredCodeId)
        && (Country.Length == 0 || Country == (sale.To.Country.Length == 0 ? sale.From.Country : sale.To.Country))
        && (Region.Length == 0 || Region.Equals(sale.To.Region, StringComparison.OrdinalIgnoreCase))
        && (Postal.Length == 0 || Postal.Split(' ', StringSplitOptions.RemoveEmptyEntries).Any(p => sale.To.PostalCode.Trim().StartsWith(p, StringComparison.OrdinalIgnoreCase)));

    private bool FitsPlace(TaxCase sale) => Place switch
    {
        Place.Anywhere => true,
        Place.Home => sale.Place is Place.HomeRegion or Place.OtherRegion,
        _ => Place == sale.Place,
    };
}

/// <summary>One row of the table that decides which tax code a line gets: the first row that fits is taken.</summary>
public sealed class TaxRule
{
    private TaxRule() { }

    /// <param name="taxCodeId">Null where the item keeps the code that it prefers.</param>
    public TaxRule(int position, TaxRuleCase @case, int? taxCodeId)
    {
        (Position, Supply, Buyer, Place, TaxCodeId) = (position, @case.Supply, @case.Buyer, @case.Place, taxCodeId);
        (PreferredCodeId, Country, Region, Postal) = (@case.PreferredCodeId, @case.Country, @case.Region.Trim(), @case.Postal.Trim());
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

    public TaxRuleCase Case => new(Supply, Buyer, Place) { PreferredCodeId = PreferredCodeId, Country = Country, Region = Region, Postal = Postal };

    public void MoveTo(int position) => Position = position;

    /// <summary>The place that the rule is for, in words.</summary>
    public string PlaceWords()
    {
        var narrowed = new[]
        {
            Country.Length > 0 ? Countries.NameOf(Country) : "", Region.Length > 0 ? $"region {Region}" : "", Postal.Length > 0 ? $"postal code {string.Join(" or ", Postal.Split(' ', StringSplitOptions.RemoveEmptyEntries))}…" : "",
        }.Where(t => t.Length > 0).ToList();
        if (narrowed.Count == 0) return TaxWords.Of(Place);
        return Place == Place.Anywhere ? string.Join(", ", narrowed) : $"{TaxWords.Of(Place)}, {string.Join(", ", narrowed)}";
    }
}
