namespace Jugaad.Core.Trade;

/// <summary>Units of measure by their code of UN/ECE Recommendation 20, with plain names.</summary>
public static class Units
{
    public static IReadOnlyList<(string Code, string Name, string Short)> All { get; } =
    [
        ("C62", "one", ""),
        ("H87", "piece", "pc"),
        ("HUR", "hour", "h"),
        ("DAY", "day", "day"),
        ("WEE", "week", "wk"),
        ("MON", "month", "mo"),
        ("ANN", "year", "yr"),
        ("MTR", "metre", "m"),
        ("MTK", "square metre", "m²"),
        ("MTQ", "cubic metre", "m³"),
        ("KMT", "kilometre", "km"),
        ("GRM", "gram", "g"),
        ("KGM", "kilogram", "kg"),
        ("TNE", "tonne", "t"),
        ("LTR", "litre", "l"),
        ("SET", "set", "set"),
        ("PR", "pair", "pr"),
        ("KWH", "kilowatt hour", "kWh"),
    ];

    public static bool Knows(string code) => All.Any(u => u.Code == code);

    /// <summary>As it stands on a paper, such as <c>h</c>; the code itself where it is not known.</summary>
    public static string Short(string code) => All.FirstOrDefault(u => u.Code == code).Short ?? code;

    public static string Name(string code) => All.FirstOrDefault(u => u.Code == code).Name ?? code;
}
