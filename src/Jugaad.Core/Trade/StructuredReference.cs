using System.Text;

namespace Jugaad.Core.Trade;

/// <summary>
/// Creditor references by ISO 11649: RF, two check digits (ISO 7064, MOD 97-10), and up to 21 letters and digits.
/// </summary>
public static class StructuredReference
{
    public const int LongestBody = 21;

    /// <summary>
    /// The reference of a number: its letters and digits, with the check digits before them. Empty where none are left,
    /// or too many.
    /// </summary>
    public static string Of(string number)
    {
        var body = Plain(number);
        return body.Length is 0 or > LongestBody ? "" : $"RF{98 - Remainder(body + "RF00"):D2}{body}";
    }

    /// <summary>Whether the text, without blanks, is a reference with the right check digits.</summary>
    public static bool IsValid(string text)
    {
        var plain = Plain(text);
        return plain.Length is >= 5 and <= 4 + LongestBody
            && plain.StartsWith("RF", StringComparison.Ordinal)
            && char.IsAsciiDigit(plain[2])
            && char.IsAsciiDigit(plain[3])
            && Remainder(plain[4..] + plain[..4]) == 1;
    }

    /// <summary>In groups of four, as it is printed.</summary>
    public static string Grouped(string reference) => string.Join(' ', reference.Chunk(4).Select(c => new string(c)));

    /// <summary>Only letters and digits, in capitals.</summary>
    public static string Plain(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var c in text)
            if (char.IsAsciiLetterOrDigit(c))
                plain.Append(char.ToUpperInvariant(c));
        return plain.ToString();
    }

    private static int Remainder(string text)
    {
        var rest = 0;
        foreach (var c in text)
            rest = char.IsAsciiDigit(c) ? ((rest * 10) + (c - '0')) % 97 : ((rest * 100) + (c - 'A' + 10)) % 97;
        return rest;
    }
}
