using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;

namespace Jugaad.Formats.Bank;

/// <summary>Amounts and days as banks write them.</summary>
internal static class Figures
{
    /// <summary>Minor units. All but digits, the sign and the decimal mark groups or decorates.</summary>
    /// <param name="mark">The decimal mark: a point or a comma.</param>
    /// <exception cref="RefusalException">When it is no amount, or has more decimals than the currency.</exception>
    internal static long Amount(string text, Currency currency, string where, char mark)
    {
        var negative =
            text.Contains('-', StringComparison.Ordinal)
            || text.Contains('−', StringComparison.Ordinal)
            || (text.Contains('(', StringComparison.Ordinal) && text.Contains(')', StringComparison.Ordinal));
        var plain = string.Concat(text.Where(c => char.IsAsciiDigit(c) || c == mark));
        var at = plain.IndexOf(mark, StringComparison.Ordinal);
        var whole = at < 0 ? plain : plain[..at];
        var part = at < 0 ? "" : plain[(at + 1)..].TrimEnd('0');
        if (
            part.Length > currency.Decimals
            || part.Contains(mark, StringComparison.Ordinal)
            || plain.Length == 0
            || plain == mark.ToString()
            || whole.Length > 15
        )
            throw new RefusalException(
                "file",
                $"{where}: “{(text.Length > 30 ? text[..30] : text)}” is not an amount in {currency}."
            );
        var minor =
            (whole.Length == 0 ? 0 : long.Parse(whole, CultureInfo.InvariantCulture)) * currency.MinorPerUnit
            + (
                currency.Decimals == 0
                    ? 0
                    : long.Parse(part.PadRight(currency.Decimals, '0').PadLeft(1, '0'), CultureInfo.InvariantCulture)
            );
        return negative ? -minor : minor;
    }

    /// <exception cref="RefusalException">When it is no day of that pattern.</exception>
    internal static DateOnly Day(string text, string pattern, string where) =>
        DateOnly.TryParseExact(text.Trim(), pattern, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
            ? day
            : throw new RefusalException("file", $"{where}: “{(text.Length > 30 ? text[..30] : text)}” is not a day.");

    /// <exception cref="RefusalException">When there is no such currency.</exception>
    internal static Currency CurrencyOf(string code, string where)
    {
        try
        {
            return Currency.Of(code.Trim().ToUpperInvariant(), "file");
        }
        catch (RefusalException)
        {
            throw new RefusalException(
                "file",
                $"{where}: “{(code.Length > 10 ? code[..10] : code)}” is not a currency."
            );
        }
    }

    internal static string Short(string text, int most = 500)
    {
        var plain = string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        return plain.Length > most ? plain[..most] : plain;
    }
}
