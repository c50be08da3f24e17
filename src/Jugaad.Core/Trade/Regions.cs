namespace Jugaad.Core.Trade;

/// <summary>A region of a country: a state, a province, a territory.</summary>
/// <param name="Code">The second part of its ISO 3166-2 code, such as <c>ON</c>.</param>
/// <param name="ByCode">Post in its country writes the code and not the name.</param>
public sealed record Region(string Code, string Name, bool ByCode);

/// <summary>
/// The regions of ISO 3166-2 for the countries whose taxes go by them. In any other country a region is whatever the
/// address says, since nothing is reckoned with it.
/// </summary>
public static class Regions
{
    private static readonly Dictionary<string, Region[]> Table = RegionTable.Countries.ToDictionary(
        c => c.Country,
        c =>
            c.Rows.Split("; ")
                .Select(row => new Region(row[..row.IndexOf(' ')], row[(row.IndexOf(' ') + 1)..], c.ByCode))
                .ToArray()
    );

    /// <summary>The countries that have a list.</summary>
    public static IReadOnlyCollection<string> Listed => Table.Keys;

    public static bool HasList(string country) => Table.ContainsKey(country);

    /// <summary>In the order of their names; empty for a country without a list.</summary>
    public static IReadOnlyList<Region> Of(string country) => Table.GetValueOrDefault(country, []);

    /// <summary>
    /// The region that a text means: by its code, with or without the country before it, or by its name, without regard
    /// to accents, large letters and points. Null where the country has no list or the list has no such region.
    /// </summary>
    public static Region? Find(string country, string text)
    {
        var typed = Plain(text);
        if (typed.Length == 0 || !Table.TryGetValue(country, out var regions))
            return null;
        if (typed.StartsWith(country.ToLowerInvariant() + "-", StringComparison.Ordinal))
            typed = typed[3..];
        var also = RegionTable.OtherNames.GetValueOrDefault((country, typed));
        return regions.FirstOrDefault(r => r.Code.Equals(also ?? typed, StringComparison.OrdinalIgnoreCase))
            ?? regions.FirstOrDefault(r => Plain(r.Name) == typed);
    }

    /// <summary>
    /// As it is kept: the code where the country has a list that knows it, and else the text as it stands.
    /// </summary>
    public static string Kept(string country, string text) => Find(country, text)?.Code ?? text.Trim();

    /// <summary>As an address prints it: the code or the name, as post in the country writes it.</summary>
    public static string Printed(string country, string text) =>
        Find(country, text) is { } known
            ? known.ByCode
                ? known.Code
                : known.Name
            : text;

    /// <summary>Whether two texts mean the same region of a country.</summary>
    public static bool Same(string country, string one, string other) =>
        Kept(country, one).Equals(Kept(country, other), StringComparison.OrdinalIgnoreCase);

    /// <summary>
    /// Why a text is no region of the country; null where it is one, is empty, or the country has no list.
    /// </summary>
    public static string? Problem(string country, string text)
    {
        if (text.Trim().Length == 0 || !HasList(country) || Find(country, text) is not null)
            return null;
        var first = Of(country)[0];
        return $"“{(text.Length > 30 ? text[..30] : text.Trim())}” is no region of {Countries.NameOf(country)}. Choose one from the list, by its code or its name, such as {first.Code} or {first.Name}.";
    }

    private static string Plain(string text) =>
        PlainLetters
            .Of(text.Trim().Replace(".", "", StringComparison.Ordinal))
            .Replace(" & ", " and ", StringComparison.Ordinal);
}
