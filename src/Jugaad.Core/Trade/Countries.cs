namespace Jugaad.Core.Trade;

/// <summary>Countries by their two letters of ISO 3166-1, and whether they are in the European Union.</summary>
public static class Countries
{
    public static IReadOnlyList<(string Code, string Name, bool InUnion)> All { get; } =
    [
        ("AR", "Argentina", false),
        ("AU", "Australia", false),
        ("AT", "Austria", true),
        ("BE", "Belgium", true),
        ("BR", "Brazil", false),
        ("BG", "Bulgaria", true),
        ("CA", "Canada", false),
        ("CL", "Chile", false),
        ("CN", "China", false),
        ("CO", "Colombia", false),
        ("HR", "Croatia", true),
        ("CY", "Cyprus", true),
        ("CZ", "Czechia", true),
        ("DK", "Denmark", true),
        ("EG", "Egypt", false),
        ("EE", "Estonia", true),
        ("FO", "Faroe Islands", false),
        ("FI", "Finland", true),
        ("FR", "France", true),
        ("GE", "Georgia", false),
        ("DE", "Germany", true),
        ("GI", "Gibraltar", false),
        ("GR", "Greece", true),
        ("GL", "Greenland", false),
        ("GG", "Guernsey", false),
        ("HK", "Hong Kong", false),
        ("HU", "Hungary", true),
        ("IS", "Iceland", false),
        ("IN", "India", false),
        ("ID", "Indonesia", false),
        ("IE", "Ireland", true),
        ("IL", "Israel", false),
        ("IT", "Italy", true),
        ("JP", "Japan", false),
        ("JE", "Jersey", false),
        ("KE", "Kenya", false),
        ("KW", "Kuwait", false),
        ("LV", "Latvia", true),
        ("LI", "Liechtenstein", false),
        ("LT", "Lithuania", true),
        ("LU", "Luxembourg", true),
        ("MY", "Malaysia", false),
        ("MT", "Malta", true),
        ("MX", "Mexico", false),
        ("MC", "Monaco", false),
        ("ME", "Montenegro", false),
        ("MA", "Morocco", false),
        ("NL", "Netherlands", true),
        ("NZ", "New Zealand", false),
        ("NG", "Nigeria", false),
        ("NO", "Norway", false),
        ("PK", "Pakistan", false),
        ("PE", "Peru", false),
        ("PH", "Philippines", false),
        ("PL", "Poland", true),
        ("PT", "Portugal", true),
        ("QA", "Qatar", false),
        ("RO", "Romania", true),
        ("SA", "Saudi Arabia", false),
        ("RS", "Serbia", false),
        ("SG", "Singapore", false),
        ("SK", "Slovakia", true),
        ("SI", "Slovenia", true),
        ("ZA", "South Africa", false),
        ("KR", "South Korea", false),
        ("ES", "Spain", true),
        ("SE", "Sweden", true),
        ("CH", "Switzerland", false),
        ("TW", "Taiwan", false),
        ("TH", "Thailand", false),
        ("TN", "Tunisia", false),
        ("TR", "Türkiye", false),
        ("UA", "Ukraine", false),
        ("AE", "United Arab Emirates", false),
        ("GB", "United Kingdom", false),
        ("US", "United States", false),
        ("UY", "Uruguay", false),
        ("VN", "Viet Nam", false),
    ];

    public static bool Knows(string code) => All.Any(c => c.Code == code);

    /// <summary>
    /// The code of a country by its code or its name, small or large letters; null where neither is known.
    /// </summary>
    public static string? Find(string text) =>
        All.FirstOrDefault(c =>
            c.Code.Equals(text.Trim(), StringComparison.OrdinalIgnoreCase)
            || c.Name.Equals(text.Trim(), StringComparison.OrdinalIgnoreCase)
        ).Code;

    /// <summary>The name in English; the code itself where it is not known.</summary>
    public static string NameOf(string code) => All.FirstOrDefault(c => c.Code == code).Name ?? code;

    public static bool InUnion(string code) => All.Any(c => c.Code == code && c.InUnion);
}
