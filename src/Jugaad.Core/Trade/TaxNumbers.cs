using System.Globalization;
using System.Text.RegularExpressions;

namespace Jugaad.Core.Trade;

/// <summary>
/// Tax numbers of the states of the European Union, the United Kingdom, Norway and Switzerland, checked by their form
/// and, where the state has published one, their check digit. A number that passes may still not have been given to
/// anybody.
/// </summary>
public static class TaxNumbers
{
    private static readonly Dictionary<string, (string Form, Func<string, bool> Check)> Rules = new()
    {
        ["AT"] = (@"^U\d{8}$", n => (10 - ((Luhn(n[1..8], 2, false) + 4) % 10)) % 10 == n[8] - '0'),
        ["BE"] = (@"^[01]\d{9}$", n => 97 - (Number(n[..8]) % 97) == Number(n[8..])),
        ["BG"] = (@"^\d{9,10}$", Bulgaria),
        ["CY"] = (@"^\d{8}[A-Z]$", Cyprus),
        ["CZ"] = (
            @"^\d{8,10}$",
            n => n.Length != 8 || Complement(Weighed(n, 8, 7, 6, 5, 4, 3, 2), 11, 0, 1) == n[7] - '0'
        ),
        ["DE"] = (@"^[1-9]\d{8}$", Mod1110),
        ["DK"] = (@"^\d{8}$", n => Weighed(n, 2, 7, 6, 5, 4, 3, 2, 1) % 11 == 0),
        ["EE"] = (@"^\d{9}$", n => (10 - (Weighed(n, 3, 7, 1, 3, 7, 1, 3, 7) % 10)) % 10 == n[8] - '0'),
        ["EL"] = (@"^\d{9}$", n => Weighed(n, 256, 128, 64, 32, 16, 8, 4, 2) % 11 % 10 == n[8] - '0'),
        ["ES"] = (@"^([A-Z]\d{7}[A-Z0-9]|\d{8}[A-Z])$", Spain),
        ["FI"] = (@"^\d{8}$", n => Complement(Weighed(n, 7, 9, 10, 5, 8, 4, 2), 11, 0, -1) == n[7] - '0'),
        ["FR"] = (
            @"^[A-HJ-NP-Z0-9]{2}\d{9}$",
            n => !n[..2].All(char.IsAsciiDigit) || (12 + (3 * (Number(n[2..]) % 97))) % 97 == Number(n[..2])
        ),
        ["HR"] = (@"^\d{11}$", Mod1110),
        ["HU"] = (@"^\d{8}$", n => (10 - (Weighed(n, 9, 7, 3, 1, 9, 7, 3) % 10)) % 10 == n[7] - '0'),
        ["IE"] = (
            @"^\d{7}[A-W][A-I]?$",
            n =>
                "WABCDEFGHIJKLMNOPQRSTUV"[
                    (int)((Weighed(n, 8, 7, 6, 5, 4, 3, 2) + (n.Length == 9 ? 9 * (n[8] - '@') : 0)) % 23)
                ] == n[7]
        ),
        ["IT"] = (@"^\d{11}$", n => (10 - (Luhn(n[..10], 2, false) % 10)) % 10 == n[10] - '0'),
        ["LT"] = (@"^(\d{9}|\d{12})$", Lithuania),
        ["LU"] = (@"^\d{8}$", n => Number(n[..6]) % 89 == Number(n[6..])),
        ["LV"] = (@"^\d{11}$", n => n[0] <= '3' || Latvia(n)),
        ["MT"] = (@"^\d{8}$", n => 37 - (Weighed(n, 3, 4, 6, 7, 8, 9) % 37) == Number(n[6..])),
        ["NL"] = (@"^\d{9}B\d{2}$", n => Weighed(n, 9, 8, 7, 6, 5, 4, 3, 2) % 11 == n[8] - '0' || Mod97("NL" + n)),
        ["PL"] = (@"^\d{10}$", n => Weighed(n, 6, 5, 7, 2, 3, 4, 5, 6, 7) % 11 == n[9] - '0'),
        ["PT"] = (@"^[1-9]\d{8}$", n => Complement(Weighed(n, 9, 8, 7, 6, 5, 4, 3, 2), 11, 0, 0) == n[8] - '0'),
        ["RO"] = (
            @"^[1-9]\d{1,9}$",
            n => Weighed(n.PadLeft(10, '0'), 7, 5, 3, 2, 1, 7, 5, 3, 2) * 10 % 11 % 10 == n[^1] - '0'
        ),
        ["SE"] = (@"^\d{10}01$", n => (10 - (Luhn(n[..9], 2, true) % 10)) % 10 == n[9] - '0'),
        ["SI"] = (@"^[1-9]\d{7}$", n => Complement(Weighed(n, 8, 7, 6, 5, 4, 3, 2), 11, -1, 0) == n[7] - '0'),
        ["SK"] = (@"^[1-9]\d{9}$", n => Number(n) % 11 == 0),
        ["GB"] = (@"^(\d{9}|\d{12})$", Britain),
        ["NO"] = (@"^\d{9}MVA$", n => Complement(Weighed(n, 3, 2, 7, 6, 5, 4, 3, 2), 11, 0, -1) == n[8] - '0'),
        ["CH"] = (
            @"^E\d{9}(MWST|TVA|IVA)$",
            n => Complement(Weighed(n[1..], 5, 4, 3, 2, 7, 6, 5, 4), 11, 0, -1) == n[9] - '0'
        ),
    };

    /// <summary>The two letters that a country's tax numbers begin with; Greece's are EL.</summary>
    public static string PrefixOf(string country) => country == "GR" ? "EL" : country;

    /// <summary>In capitals, without blanks, points and dashes.</summary>
    public static string Compact(string text) => string.Concat(text.Where(char.IsLetterOrDigit)).ToUpperInvariant();

    /// <summary>
    /// The number as it is kept: in capitals without blanks, and with the letters of its state where they were left
    /// out. What is of a country whose numbers we do not know stays as it was typed.
    /// </summary>
    public static string Complete(string text, string country)
    {
        var (number, prefix) = (Compact(text), PrefixOf(country));
        if (number.Length == 0)
            return "";
        if (StateOf(number) is { } state && state != prefix)
            return number;
        if (!Rules.ContainsKey(prefix))
            return text.Trim();
        return number.StartsWith(prefix, StringComparison.Ordinal) ? number : prefix + number;
    }

    /// <summary>Whether two numbers of one country are one, with their letters before them or not.</summary>
    public static bool Same(string one, string other, string country) =>
        Complete(one, country) is { Length: > 0 } complete && Compact(complete) == Compact(Complete(other, country));

    /// <summary>
    /// The letters of the state that a number says that it is of, and would be good for; null where it says none.
    /// </summary>
    private static string? StateOf(string number)
    {
        if (number.Length < 3)
            return null;
        var (letters, rest) = (number[..2], number[2..]);
        if (letters == NorthernIreland)
            return IsGood("GB", rest) ? letters : null;
        // A business outside the union that is registered in it for all of it.
        if (letters == WholeUnion)
            return rest.Length == 9 && rest.All(char.IsAsciiDigit) ? letters : null;
        return Rules.ContainsKey(letters) && IsGood(letters, rest) ? letters : null;
    }

    private static bool IsGood(string prefix, string rest) =>
        Rules[prefix] is var rule
        && Regex.IsMatch(rest, rule.Form, RegexOptions.None, TimeSpan.FromSeconds(1))
        && rule.Check(rest);

    private const string NorthernIreland = "XI";
    private const string WholeUnion = "EU";

    /// <summary>
    /// What is wrong with a number, in words; null where it is good, or of a country whose numbers we do not know.
    /// </summary>
    /// <param name="country">Two letters of ISO 3166-1; the number may begin with them or not.</param>
    public static string? Problem(string text, string country)
    {
        var number = Compact(text);
        var prefix = PrefixOf(country);
        if (number.Length == 0)
            return null;
        var state = StateOf(number);
        if (state == NorthernIreland && country != "GB")
            return $"This is a number of Northern Ireland, and the address is in {Countries.NameOf(country)}. Correct the number or the country.";
        if (state == WholeUnion && Countries.InUnion(country))
            return $"This is a number for businesses outside the union, and {Countries.NameOf(country)} is in it. Give the number that {Countries.NameOf(country)} gave.";
        if (state is NorthernIreland or WholeUnion)
            return null;
        if (state is not null && state != prefix)
            return $"This is a tax number of {Countries.NameOf(state == "EL" ? "GR" : state)}, and the address is in {Countries.NameOf(country)}. Correct the number or the country.";
        if (!Rules.TryGetValue(prefix, out var rule))
            return null;
        var rest = number.StartsWith(prefix, StringComparison.Ordinal) ? number[prefix.Length..] : number;
        if (!Regex.IsMatch(rest, rule.Form, RegexOptions.None, TimeSpan.FromSeconds(1)))
            return $"This has not the form of a tax number of {Countries.NameOf(country)}. Compare it with the customer's letterhead.";
        return rule.Check(rest)
            ? null
            : $"The check digit of this tax number of {Countries.NameOf(country)} is wrong. Compare it with the customer's letterhead.";
    }

    /// <summary>The countries whose numbers are checked, by their prefix.</summary>
    public static IReadOnlyCollection<string> Prefixes => Rules.Keys;

    private static long Number(string digits) => long.Parse(digits, CultureInfo.InvariantCulture);

    private static long Weighed(string digits, params ReadOnlySpan<int> weights)
    {
        var sum = 0L;
        for (var i = 0; i < weights.Length; i++)
            sum += (digits[i] - '0') * weights[i];
        return sum;
    }

    /// <summary>
    /// 11 less the rest; <paramref name="onZero"/> where the rest is 0 and <paramref name="onOne"/> where it is 1 (−1:
    /// no such number).
    /// </summary>
    private static long Complement(long sum, int modulus, int onZero, int onOne) =>
        (sum % modulus) switch
        {
            0 => onZero,
            1 => onOne,
            var rest => modulus - rest,
        };

    /// <summary>The sum of ISO/IEC 7812: every second digit is doubled and its digits added.</summary>
    private static int Luhn(string digits, int factor, bool first)
    {
        var sum = 0;
        for (var i = 0; i < digits.Length; i++)
        {
            var product = (digits[i] - '0') * (i % 2 == (first ? 0 : 1) ? factor : 1);
            sum += (product / 10) + (product % 10);
        }

        return sum;
    }

    /// <summary>ISO 7064, MOD 11,10.</summary>
    private static bool Mod1110(string digits)
    {
        var product = 10;
        foreach (var digit in digits[..^1])
        {
            var sum = (digit - '0' + product) % 10;
            product = 2 * (sum == 0 ? 10 : sum) % 11;
        }

        return (11 - product) % 10 == digits[^1] - '0';
    }

    /// <summary>ISO 7064, MOD 97-10, letters counting from 10.</summary>
    private static bool Mod97(string text)
    {
        var rest = 0;
        foreach (var c in text)
            rest = char.IsAsciiDigit(c) ? ((rest * 10) + c - '0') % 97 : ((rest * 100) + c - 'A' + 10) % 97;
        return rest == 1;
    }

    private static bool Bulgaria(string n)
    {
        if (n.Length == 10)
        {
            return Weighed(n, 2, 4, 8, 5, 10, 9, 7, 3, 6) % 11 % 10 == n[9] - '0'
                || Weighed(n, 21, 19, 17, 13, 11, 9, 7, 3, 1) % 10 == n[9] - '0'
                || (11 - (Weighed(n, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11)) % 11 == n[9] - '0';
        }

        var check = Weighed(n, 1, 2, 3, 4, 5, 6, 7, 8) % 11;
        if (check == 10)
            check = Weighed(n, 3, 4, 5, 6, 7, 8, 9, 10) % 11 % 10;
        return check == n[8] - '0';
    }

    private static bool Cyprus(string n)
    {
        ReadOnlySpan<int> odd = [1, 0, 5, 7, 9, 13, 15, 17, 19, 21];
        var sum = 0;
        for (var i = 0; i < 8; i++)
            sum += i % 2 == 0 ? odd[n[i] - '0'] : n[i] - '0';
        return 'A' + (sum % 26) == n[8];
    }

    private static bool Spain(string n)
    {
        const string letters = "TRWAGMYFPDXBNJZSQVHLCKE";
        if (char.IsAsciiDigit(n[0]))
            return letters[(int)(Number(n[..8]) % 23)] == n[8];
        if (n[0] is 'X' or 'Y' or 'Z')
            return letters[(int)(Number($"{n[0] - 'X'}{n[1..8]}") % 23)] == n[8];
        var check = (10 - (Luhn(n[1..8], 2, true) % 10)) % 10;
        return n[8] == '0' + check || n[8] == "JABCDEFGHI"[check];
    }

    private static bool Lithuania(string n)
    {
        var digits = n[..^1];
        var sum = 0;
        for (var i = 0; i < digits.Length; i++)
            sum += (digits[i] - '0') * ((i % 9) + 1);
        var check = sum % 11;
        if (check == 10)
        {
            sum = 0;
            for (var i = 0; i < digits.Length; i++)
                sum += (digits[i] - '0') * (((i + 2) % 9) + 1);
            check = sum % 11 % 10;
        }

        return check == n[^1] - '0';
    }

    private static bool Latvia(string n)
    {
        var check = 3 - (Weighed(n, 9, 1, 4, 8, 3, 10, 2, 5, 7, 6) % 11);
        if (check < 0)
            check += 11;
        return check == n[10] - '0';
    }

    private static bool Britain(string n)
    {
        var sum = Weighed(n, 8, 7, 6, 5, 4, 3, 2) + Number(n[7..9]);
        return sum % 97 == 0 || (sum + 55) % 97 == 0;
    }
}
