using System.Text.RegularExpressions;

namespace Jugaad.Core.Layouts;

/// <summary>A colour of a paper: one of the inks that have a name, or any other as <c>#RRGGBB</c>.</summary>
public readonly partial record struct Ink
{
    private const string DarkHex = "#22282B";

    private static readonly Dictionary<string, string> Names = new()
    {
        ["dark"] = DarkHex,
        ["quiet"] = "#566065",
        ["rule"] = "#DDD6C7",
        ["accent"] = "#8F5F0A",
        ["wash"] = "#FAF7F0",
    };

    // Dark is what stands where nothing is said, so that two ways of saying it are equal.
    private readonly string? _hex;

    private Ink(string hex) => _hex = hex == DarkHex ? null : hex;

    public static Ink Dark => default;

    public static Ink Quiet { get; } = new(Names["quiet"]);

    public static Ink Rule { get; } = new(Names["rule"]);

    public static Ink Accent { get; } = new(Names["accent"]);

    public static Ink Wash { get; } = new(Names["wash"]);

    /// <summary>The inks that have a name.</summary>
    public static IReadOnlyCollection<string> Named => Names.Keys;

    /// <summary>As <c>#RRGGBB</c>.</summary>
    public string Hex => _hex ?? DarkHex;

    /// <summary>Null where a text is neither a name nor a colour.</summary>
    public static Ink? Of(string text) =>
        text.Length == 0 ? Dark
        : Names.TryGetValue(text, out var hex) ? new Ink(hex)
        : Colour().IsMatch(text) ? new Ink(text.ToUpperInvariant())
        : null;

    [GeneratedRegex("^#[0-9A-Fa-f]{6}$")]
    private static partial Regex Colour();
}
