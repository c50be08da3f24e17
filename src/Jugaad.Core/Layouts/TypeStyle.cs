namespace Jugaad.Core.Layouts;

/// <summary>A typeface with its weight and slant.</summary>
/// <param name="Face">The family's key, of <see cref="Typefaces"/>; empty for the first.</param>
public readonly record struct TypeStyle(string Face, bool Bold = false, bool Italic = false);

/// <summary>A typeface of one's own, which goes with a layout: TrueType or OpenType files.</summary>
public sealed record LayoutTypeface
{
    /// <summary>As it is chosen by.</summary>
    public string Name { get; init; } = "";

    public byte[] Regular { get; init; } = [];

    /// <summary>Null where the regular one serves for it too; the same of those that follow.</summary>
    public byte[]? Bold { get; init; }

    public byte[]? Italic { get; init; }

    public byte[]? BoldItalic { get; init; }

    /// <summary>Each file with the name of its entry.</summary>
    public IEnumerable<(string Entry, byte[] File)> Files()
    {
        yield return ("regular", Regular);
        if (Bold is { } bold)
            yield return ("bold", bold);
        if (Italic is { } italic)
            yield return ("italic", italic);
        if (BoldItalic is { } both)
            yield return ("boldItalic", both);
    }
}

/// <summary>A family that papers may be set in.</summary>
/// <param name="Name">As it is chosen by.</param>
public sealed record Typeface(string Key, string Name);

/// <summary>The families that ship. What one lacks is set in the next that has it.</summary>
public static class Typefaces
{
    public static IReadOnlyList<Typeface> All { get; } =
    [
        new("clear", "Clear, without serifs"),
        new("bookish", "Bookish, with serifs"),
        new("narrow", "Narrow, for tables"),
        new("typewriter", "Typewriter"),
    ];

    public static bool Knows(string key) => key.Length == 0 || All.Any(f => f.Key == key);
}
