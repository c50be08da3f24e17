namespace Jugaad.Core.Trade;

/// <summary>A postal address. Empty parts are left out on papers.</summary>
/// <param name="Country">Two letters of ISO 3166-1.</param>
public sealed record Address(string Street = "", string PostalCode = "", string City = "", string Country = "")
{
    /// <summary>One line for each part that is there; the country by name only where it is not <paramref name="home"/>.</summary>
    public IEnumerable<string> Lines(string home)
    {
        foreach (var line in Street.Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)) yield return line;
        var town = $"{PostalCode} {City}".Trim();
        if (town.Length > 0) yield return town;
        if (Country.Length > 0 && Country != home) yield return Countries.NameOf(Country);
    }
}
