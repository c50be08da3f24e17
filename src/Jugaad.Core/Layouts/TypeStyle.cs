namespace Jugaad.Core.Layouts;

/// <summary>A typeface with its weight and slant.</summary>
/// <param name="Face">The family's key, of <see cref="Typefaces"/>; empty for the first.</param>
public readonly record struct TypeStyle(string Face, bool Bold = false, bool Italic = false);

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
