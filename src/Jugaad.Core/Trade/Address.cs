namespace Jugaad.Core.Trade;

/// <summary>A postal address. Empty parts are left out on papers.</summary>
/// <param name="Country">Two letters of ISO 3166-1.</param>
/// <param name="Region">The second part of an ISO 3166-2 code where tax or post asks for it, such as a state or province.</param>
public sealed record Address(string Street = "", string PostalCode = "", string City = "", string Country = "", string Region = "")
{
    public Address Trimmed() => new(Street.Trim(), PostalCode.Trim(), City.Trim(), Country, Region.Trim());

    /// <summary>Refuses what is too long and a country that is not known; an empty country is fine.</summary>
    public void Check(Refusals refusals, string prefix = "")
    {
        Texts.Short(refusals, prefix + "street", Street, 300);
        Texts.Short(refusals, prefix + "postalCode", PostalCode, 20);
        Texts.Short(refusals, prefix + "city", City, 100);
        Texts.Short(refusals, prefix + "region", Region, 30);
        if (Country.Length > 0 && !Countries.Knows(Country)) refusals.Add(prefix + "country", $"“{(Country.Length > 40 ? Country[..40] : Country)}” is not a country that we know. Choose one from the list.");
    }

    /// <summary>One line for each part that is there; the country by name only where it is not <paramref name="home"/>.</summary>
    public IEnumerable<string> Lines(string home)
    {
        foreach (var line in Street.Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)) yield return line;
        var town = string.Join(", ", new[] { $"{PostalCode} {City}".Trim(), Region }.Where(t => t.Length > 0));
        if (town.Length > 0) yield return town;
        if (Country.Length > 0 && Country != home) yield return Countries.NameOf(Country);
    }
}
