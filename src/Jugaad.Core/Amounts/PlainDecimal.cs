using System.Globalization;

namespace Jugaad.Core.Amounts;

/// <summary>
/// Plain decimal numbers as text: an optional minus sign, digits, and a point before decimals.
/// No exponent, no grouping, no plus sign, no white space.
/// </summary>
public static class PlainDecimal
{
    /// <param name="text">The number.</param>
    /// <param name="decimals">The most decimals that it may have.</param>
    /// <param name="field">What to name in a refusal.</param>
    /// <exception cref="RefusalException">When it is no such number or has too many decimals.</exception>
    public static decimal Parse(string text, int decimals, string field)
    {
        var point = -1;
        var digits = 0;
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            if (c == '-' && i == 0)
                continue;
            if (c == '.' && point < 0 && digits > 0)
                point = i;
            else if (char.IsAsciiDigit(c))
                digits++;
            else
                throw NotANumber(text, field);
        }

        if (digits == 0 || point == text.Length - 1)
            throw NotANumber(text, field);
        if (point >= 0 && text.Length - point - 1 > decimals)
            throw new RefusalException(
                field,
                $"{Shorten(text)} has more than {Count(decimals)}. Leave the rest out, or round it yourself."
            );
        if (
            digits > 28
            || !decimal.TryParse(
                text,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var value
            )
        )
            throw new RefusalException(field, $"{Shorten(text)} is too large a number.");
        return value;
    }

    /// <summary>Without trailing zeros: <c>9.975</c>, <c>24</c>.</summary>
    public static string Text(decimal value) =>
        value.ToString("0.############################", CultureInfo.InvariantCulture);

    /// <summary>How many decimals the value needs, trailing zeros not counted.</summary>
    public static int DecimalsOf(decimal value)
    {
        var n = 0;
        while (value != decimal.Truncate(value))
        {
            value *= 10;
            n++;
        }

        return n;
    }

    private static string Count(int decimals) =>
        decimals switch
        {
            0 => "0 decimals",
            1 => "1 decimal",
            _ => $"{decimals} decimals",
        };

    private static RefusalException NotANumber(string text, string field) =>
        new(
            field,
            text.Length == 0 ? "A number is missing here." : $"“{Shorten(text)}” is not a number. Write it like 1234.5."
        );

    private static string Shorten(string text) => text.Length <= 40 ? text : text[..40] + "…";
}
