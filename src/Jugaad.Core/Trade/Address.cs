namespace Jugaad.Core.Trade;

/// <summary>A postal address. Empty parts are left out on papers.</summary>
/// <param name="Country">Two letters of ISO 3166-1.</param>
/// <param name="Region">
/// A state or province, where tax or post asks for it: the second part of its ISO 3166-2 code where the country is in
/// <see cref="Regions"/>, and free words elsewhere.
/// </param>
public sealed record Address(
    string Street = "",
    string PostalCode = "",
    string City = "",
    string Country = "",
    string Region = ""
)
{
    /// <summary>Without blanks around its parts, and the region by its code where it has one.</summary>
    public Address Tidied() =>
        new(Street.Trim(), PostalCode.Trim(), City.Trim(), Country, Regions.Kept(Country, Region));

    /// <summary>Refuses what is too long and a country or region that is not known; an empty one is fine.</summary>
    public void Check(Refusals refusals, string prefix = "")
    {
        Texts.Short(refusals, prefix + "street", Street, 300);
        Texts.Short(refusals, prefix + "postalCode", PostalCode, 20);
        Texts.Short(refusals, prefix + "city", City, 100);
        Texts.Short(refusals, prefix + "region", Region, 60);
        if (Regions.Problem(Country, Region) is { } problem)
            refusals.Add(prefix + "region", problem);
        if (Country.Length > 0 && !Countries.Knows(Country))
            refusals.Add(
                prefix + "country",
                $"“{(Country.Length > 40 ? Country[..40] : Country)}” is not a country that we know. Choose one from the list."
            );
    }

    /// <summary>
    /// One line for each part that is there; the country by name only where it is not <paramref name="home"/>.
    /// </summary>
    public IEnumerable<string> Lines(string home)
    {
        foreach (var line in Street.Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
            yield return line;
        var town = string.Join(
            ", ",
            new[] { $"{PostalCode} {City}".Trim(), Regions.Printed(Country, Region) }.Where(t => t.Length > 0)
        );
        if (town.Length > 0)
            yield return town;
        if (Country.Length > 0 && Country != home)
            yield return Countries.NameOf(Country);
    }
}
