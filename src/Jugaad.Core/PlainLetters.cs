using System.Text;

namespace Jugaad.Core;

/// <summary>
/// Latin letters without their accents, so that a name reads the same however it was typed. A table of our own, because
/// the program runs without the machine's language data.
/// </summary>
public static class PlainLetters
{
    private static readonly Dictionary<char, string> Table = Make(
        "a àáâãäåāăąǎ",
        "ae æǽ",
        "c çćĉċč",
        "d ďđð",
        "e èéêëēĕėęě",
        "g ĝğġģ",
        "h ĥħ",
        "i ìíîïĩīĭįı",
        "j ĵ",
        "k ķ",
        "l ĺļľŀł",
        "n ñńņňŉ",
        "o òóôõöøōŏőǒ",
        "oe œ",
        "r ŕŗř",
        "s śŝşšș",
        "ss ß",
        "t ţťŧț",
        "th þ",
        "u ùúûüũūŭůűųǔ",
        "w ŵ",
        "y ýÿŷ",
        "z źżž"
    );

    /// <summary>
    /// In small letters, each accented Latin letter as the plain one or two that stand for it; accents that stand alone
    /// are left out.
    /// </summary>
    public static string Of(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var c in text.ToLowerInvariant())
        {
            if (c is >= '\u0300' and <= '\u036F')
                continue;
            if (Table.TryGetValue(c, out var letters))
                plain.Append(letters);
            else
                plain.Append(c);
        }

        return plain.ToString();
    }

    private static Dictionary<char, string> Make(params string[] rows) =>
        rows.SelectMany(row =>
                row[(row.IndexOf(' ', StringComparison.Ordinal) + 1)..]
                    .Select(c => (c, Plain: row[..row.IndexOf(' ', StringComparison.Ordinal)]))
            )
            .ToDictionary(p => p.c, p => p.Plain);
}
