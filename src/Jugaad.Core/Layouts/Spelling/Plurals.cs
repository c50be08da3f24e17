namespace Jugaad.Core.Layouts.Spelling;

/// <summary>Which form of a noun stands behind a number.</summary>
internal static class Plurals
{
    internal static string Slavic(long n, string one, string few, string many) =>
        n == 1 ? one
        : n % 10 is >= 2 and <= 4 && n % 100 is not (>= 12 and <= 14) ? few
        : many;

    internal static string Baltic(long n, string one, string few, string many) =>
        n % 100 is >= 11 and <= 19 || n % 10 == 0 ? many
        : n % 10 == 1 ? one
        : few;

    /// <summary>One, and all else.</summary>
    internal static string Plain(long n, string one, string many) => n == 1 ? one : many;
}
