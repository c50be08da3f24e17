using System.Numerics;
using System.Text;

namespace Jugaad.Core.Trade;

/// <summary>International bank account numbers by ISO 13616, checked by their two check digits (ISO 7064, MOD 97-10).</summary>
public static class Iban
{
    /// <summary>Without blanks, in capitals.</summary>
    public static string Compact(string text) => string.Concat(text.Where(c => !char.IsWhiteSpace(c))).ToUpperInvariant();

    /// <summary>In groups of four, as it is printed.</summary>
    public static string Grouped(string iban) => string.Join(' ', iban.Chunk(4).Select(c => new string(c)));

    /// <summary>Refuses what is neither empty nor a valid number.</summary>
    /// <exception cref="RefusalException">When its form or its check digits are wrong.</exception>
    public static void Check(string text, string field)
    {
        var iban = Compact(text);
        if (iban.Length == 0) return;
        if (iban.Length is < 15 or > 34 || !char.IsAsciiLetter(iban[0]) || !char.IsAsciiLetter(iban[1]) || !iban.All(char.IsAsciiLetterOrDigit))
            throw new RefusalException(field, "This is not an IBAN. It begins with two letters of the country and has 15 to 34 letters and digits.");
        if (!IsValid(iban)) throw new RefusalException(field, "The check digits of this IBAN are wrong. Compare it with the bank's letter.");
    }

    /// <summary>Makes the check digits for a country and a bank's own account number.</summary>
    public static string Make(string country, string account) => country + (98 - Remainder(account + country + "00")).ToString("D2") + account;

    private static bool IsValid(string iban) => Remainder(iban[4..] + iban[..4]) == 1;

    private static int Remainder(string text)
    {
        var digits = new StringBuilder();
        foreach (var c in text) digits.Append(char.IsAsciiDigit(c) ? c - '0' : c - 'A' + 10);
        return (int)(BigInteger.Parse(digits.ToString()) % 97);
    }
}
