using System.Globalization;
using System.Text;

namespace Jugaad.Core.Amounts;

/// <summary>How the business writes and types figures and dates. Thousands are set apart by a narrow blank.</summary>
public sealed class DisplayFormat(char decimalMark, string datePattern)
{
    /// <summary>The date patterns that can be chosen.</summary>
    public static IReadOnlyList<string> DatePatterns { get; } =
    ["d MMM yyyy", "dd.MM.yyyy", "dd/MM/yyyy", "MM/dd/yyyy", "yyyy-MM-dd"];

    private const char Group = '\u202f';

    private readonly NumberFormatInfo _figures = new()
    {
        NumberDecimalSeparator = decimalMark.ToString(),
        NumberGroupSeparator = Group.ToString(),
        NegativeSign = "\u2212",
    };

    public char DecimalMark => decimalMark;

    /// <summary>One of <see cref="DatePatterns"/>.</summary>
    public string DatePattern => datePattern;

    /// <summary>With exactly the currency's decimals: <c>1 234.50</c>.</summary>
    public string Amount(long minor, Currency currency) =>
        new Money(minor, currency).Units.ToString("N" + currency.Decimals, _figures);

    /// <inheritdoc cref="Amount(long, Currency)"/>
    public string Amount(Money money) => Amount(money.Minor, money.Currency);

    /// <summary>With the currency's code behind: <c>1 234.50 EUR</c>.</summary>
    public string WithCode(long minor, Currency currency) => $"{Amount(minor, currency)}\u00a0{currency.Code}";

    /// <summary>Without trailing zeros: <c>2.5</c>.</summary>
    public string Figure(decimal value) => value.ToString("#,0.######", _figures);

    /// <summary>With every decimal that it has, and thousands set apart: <c>1 234.56789</c>.</summary>
    public string Exact(decimal value) => value.ToString("N" + PlainDecimal.DecimalsOf(value), _figures);

    /// <summary>A unit price: at least the currency's decimals, at most six.</summary>
    public string Price(decimal value, Currency currency) =>
        value.ToString(
            "#,0." + new string('0', currency.Decimals) + new string('#', Limits.FigureDecimals - currency.Decimals),
            _figures
        );

    public string Percent(decimal value) => value.ToString("0.####", _figures) + "\u00a0%";

    public string Date(DateOnly date) => date.ToString(datePattern, CultureInfo.InvariantCulture);

    /// <summary>Which part of a date is written first.</summary>
    public DatePart DateOrder =>
        datePattern[0] switch
        {
            'y' => DatePart.Year,
            'M' => DatePart.Month,
            _ => DatePart.Day,
        };

    /// <summary>Reads a day as it was typed; <paramref name="from"/> is what <c>+14</c> counts from.</summary>
    /// <exception cref="RefusalException">When it is no date, or not surely one.</exception>
    public DateOnly ReadDay(string text, DateOnly from, string field) =>
        new TypedDay(DateOrder, from).Read(text, field);

    /// <summary>The day that was typed; null where nothing was, or what cannot be read yet.</summary>
    public DateOnly? FindDay(string? text, DateOnly from)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        try
        {
            return ReadDay(text, from, "");
        }
        catch (RefusalException)
        {
            return null;
        }
    }

    /// <summary>For putting back into a field: no grouping, the business's decimal mark.</summary>
    public string Typed(decimal value) => PlainDecimal.Text(value).Replace('.', decimalMark);

    /// <summary>A unit price for putting back into a field: at least the currency's decimals.</summary>
    public string TypedPrice(decimal value, Currency currency) =>
        value
            .ToString(
                "0." + new string('0', currency.Decimals) + new string('#', Limits.FigureDecimals - currency.Decimals),
                CultureInfo.InvariantCulture
            )
            .Replace('.', decimalMark);

    /// <inheritdoc cref="Typed(decimal)"/>
    public string Typed(long minor, Currency currency) =>
        new Money(minor, currency).ToString().Replace('.', decimalMark);

    /// <summary>
    /// Reads a typed figure: blanks and apostrophes between digits are passed over, and the other mark of point and
    /// comma where it parts groups of three.
    /// </summary>
    /// <exception cref="RefusalException">When it is no number, or has more decimals than fit.</exception>
    public decimal Read(string text, int decimals, string field) => PlainDecimal.Parse(Plain(text), decimals, field);

    /// <inheritdoc cref="Read"/>
    public long ReadAmount(string text, Currency currency, string field) =>
        Money.Parse(Plain(text), currency, field).Minor;

    private string Plain(string text)
    {
        var plain = new StringBuilder();
        foreach (var c in text.Trim())
            if (!char.IsWhiteSpace(c) && c is not ('\'' or '\u2019'))
                plain.Append(c == '\u2212' ? '-' : c);
        var other = decimalMark == '.' ? ',' : '.';
        var typed = plain.ToString();
        var whole = typed.Split(decimalMark)[0].Split(other);
        if (whole.Length > 1 && whole[0].Trim('-').Length is >= 1 and <= 3 && whole.Skip(1).All(g => g.Length == 3))
            typed = string.Concat(whole) + typed[typed.Split(decimalMark)[0].Length..];
        // A mark that stands for neither is left in place, so that the refusal shows what was typed.
        return typed.Contains(other, StringComparison.Ordinal) ? typed : typed.Replace(decimalMark, '.');
    }
}
