using System.Text.RegularExpressions;
using Jugaad.Core;
using Jugaad.Core.Amounts;

namespace Jugaad.Formats.Bank;

/// <summary>
/// Finds out, over all amounts of a file, which of point and comma is the decimal mark and which groups thousands.
/// </summary>
internal static partial class DecimalMark
{
    /// <returns>The decimal mark; null where the amounts could be read either way, such as <c>1,000</c>
    /// alone.</returns>
    /// <exception cref="RefusalException">When some of them write it one way and some the other.</exception>
    internal static char? Of(IEnumerable<string> amounts, Currency currency)
    {
        (string Text, char Mark)? sure = null;
        var open = false;
        foreach (var text in amounts)
        {
            var plain = string.Concat(text.Where(c => char.IsAsciiDigit(c) || c is '.' or ','));
            var last = plain.LastIndexOfAny(['.', ',']);
            if (last < 0)
                continue;
            if (MarkOf(plain, last, currency) is not { } mark)
                open = true;
            else if (sure is null)
                sure = (text, mark);
            else if (sure.Value.Mark != mark)
                throw new RefusalException(
                    "columns",
                    $"“{sure.Value.Text.Trim()}” and “{text.Trim()}” write decimals in two ways. Is one of the columns no amount?"
                );
        }

        return sure?.Mark ?? (open ? null : '.');
    }

    private static char? MarkOf(string plain, int last, Currency currency)
    {
        var (mark, other) = (plain[last], plain[last] == '.' ? ',' : '.');
        if (plain.Contains(other, StringComparison.Ordinal))
            return mark;
        // Twice the same mark groups thousands.
        if (plain.IndexOf(mark, StringComparison.Ordinal) != last)
            return other;
        if (plain.Length - last - 1 != 3)
            return mark;
        if (!Group().IsMatch(plain[..last]))
            return mark;
        // Three digits behind it are thousands, unless the currency itself has three decimals.
        return currency.Decimals == 3 ? mark : null;
    }

    /// <summary>What stands before a group of thousands: one to three digits, the first not zero.</summary>
    [GeneratedRegex("^[1-9][0-9]{0,2}$")]
    private static partial Regex Group();
}
