using Humanizer;
using Jugaad.Core.Amounts;

namespace Jugaad.Desk.Papers;

/// <summary>An amount in words of money, as a cheque or a receipt says it.</summary>
public static class MoneyWords
{
    private static readonly Dictionary<string, (string Unit, string Minor)> Names = new()
    {
        ["EUR"] = ("euro", "cent"),
        ["USD"] = ("dollar", "cent"),
        ["GBP"] = ("pound", "pence"),
        ["SEK"] = ("krona", "öre"),
        ["NOK"] = ("krone", "øre"),
        ["DKK"] = ("krone", "øre"),
        ["CHF"] = ("franc", "rappen"),
        ["CAD"] = ("dollar", "cent"),
    };

    /// <summary>
    /// Such as <c>one thousand two hundred and thirty-four euros and 50 cents</c>, in English; a currency whose name is
    /// not known stands with its code.
    /// </summary>
    public static string Of(long minor, Currency currency)
    {
        var (whole, rest) = Math.DivRem(Math.Abs(minor), currency.MinorPerUnit);
        var sign = minor < 0 ? "minus " : "";
        var words = whole.ToWords(System.Globalization.CultureInfo.InvariantCulture);
        if (!Names.TryGetValue(currency.Code, out var names))
            return $"{sign}{words} {currency.Code}{(rest == 0 ? "" : $" and {rest}/{currency.MinorPerUnit}")}";
        var unit =
            whole == 1
                ? names.Unit
                : names.Unit switch
                {
                    "krona" => "kronor",
                    "krone" => "kroner",
                    var plain => plain + "s",
                };
        var small = rest == 1 || names.Minor is not "cent" ? names.Minor : names.Minor + "s";
        return $"{sign}{words} {unit}{(rest == 0 ? "" : $" and {rest} {small}")}";
    }
}
