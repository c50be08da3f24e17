using Jugaad.Core.Amounts;

namespace Jugaad.Core.Layouts.Spelling;

/// <summary>An amount in words of money, as a cheque or a receipt says it, in the languages of <see cref="PaperWords"/>.</summary>
public static class MoneySpelling
{
    private const long Most = 999_999_999;

    /// <summary>
    /// Such as <c>one thousand two hundred and thirty-four euros and 50 cents</c>. A currency whose name is not known
    /// stands with its code, and what is more than can be said stands in figures.
    /// </summary>
    /// <param name="minor">Minor units of the currency.</param>
    /// <param name="language">The code of the language; English where it is not known.</param>
    public static string Of(long minor, Currency currency, string language = "en")
    {
        var names = MoneyNames.All.GetValueOrDefault(language) ?? MoneyNames.All["en"];
        var (whole, rest) = Math.DivRem(Math.Abs(minor), currency.MinorPerUnit);
        var sign = minor < 0 ? $"{names.Minus} " : "";
        if (!names.Currencies.TryGetValue(currency.Code, out var forms) || whole > Most)
        {
            var amount = whole > Most ? PlainDecimal.Text(whole) : names.Numbers.Write(whole, Gender.Masculine);
            return $"{sign}{amount} {currency.Code}{(rest == 0 ? "" : $" {names.And} {rest}/{currency.MinorPerUnit}")}";
        }

        var parts = forms.Split('|');
        var each = (parts.Length - 1) / 2;
        var gender = parts[each] switch
        {
            "f" => Gender.Feminine,
            "n" => Gender.Neuter,
            _ => Gender.Masculine,
        };
        var said = names.Numbers.Write(whole, gender);
        var unit = Form(names.Forms, whole, parts[..each]);
        var small = rest == 0 ? "" : $" {names.And} {rest} {Form(names.Forms, rest, parts[(each + 1)..])}";
        return $"{sign}{said} {Of(language, whole, unit)}{unit}{small}";
    }

    private static string Form(NounForms forms, long n, string[] of) =>
        forms switch
        {
            NounForms.Slavic => Plurals.Slavic(n, of[0], of[1], of[2]),
            NounForms.Baltic => Plurals.Baltic(n, of[0], of[1], of[2]),
            _ => Plurals.Plain(n, of[0], of[1]),
        };

    /// <summary>Behind whole millions some languages say of what they are.</summary>
    private static string Of(string language, long whole, string unit) =>
        whole == 0 || whole % 1_000_000 != 0
            ? ""
            : language switch
            {
                "fr" => "aeiou".Contains(unit[0], StringComparison.Ordinal) ? "d’" : "de ",
                "es" or "pt" => "de ",
                "it" => "di ",
                _ => "",
            };
}
