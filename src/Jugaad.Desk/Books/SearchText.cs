namespace Jugaad.Desk.Books;

/// <summary>Typed text as a pattern of LIKE, with its wildcards taken literally; the escape is a backslash.</summary>
public static class SearchText
{
    /// <summary>Found anywhere.</summary>
    public static string Anywhere(string text) => $"%{Escaped(text.Trim())}%";

    /// <summary>Found at the beginning.</summary>
    public static string Beginning(string text) => $"{Escaped(text.Trim())}%";

    /// <summary>Found as one whole entry of a list that is kept between commas.</summary>
    public static string Entry(string text) => $"%,{Escaped(text.Trim())},%";

    /// <summary>Just that, small and capital letters alike.</summary>
    public static string Exactly(string text) => Escaped(text.Trim());

    private static string Escaped(string text) =>
        text.Replace("\\", "\\\\", StringComparison.Ordinal)
            .Replace("%", "\\%", StringComparison.Ordinal)
            .Replace("_", "\\_", StringComparison.Ordinal);
}
