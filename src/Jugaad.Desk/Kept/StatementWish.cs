using System.Globalization;

namespace Jugaad.Desk.Kept;

/// <summary>Which statement goes along: of what was open at the end of a day, or of all movement up to it.</summary>
/// <param name="From">The first day of the movement; null for open items only.</param>
public sealed record StatementWish(DateOnly? From, DateOnly Day)
{
    private const string Iso = "yyyy-MM-dd";

    /// <summary>As it is kept: <c>2025-09-17</c>, or <c>2025-08-01/2025-09-17</c> (ISO 8601).</summary>
    public string Text =>
        (From is { } from ? from.ToString(Iso, CultureInfo.InvariantCulture) + "/" : "")
        + Day.ToString(Iso, CultureInfo.InvariantCulture);

    /// <returns>Null where the text is none.</returns>
    public static StatementWish? Read(string text)
    {
        var days = text.Split('/');
        if (days.Length > 2 || !TryDay(days[^1], out var day))
            return null;
        if (days.Length == 1)
            return new StatementWish(null, day);
        return TryDay(days[0], out var from) && from <= day ? new StatementWish(from, day) : null;
    }

    private static bool TryDay(string text, out DateOnly day) =>
        DateOnly.TryParseExact(text, Iso, CultureInfo.InvariantCulture, DateTimeStyles.None, out day);
}
