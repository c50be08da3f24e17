using System.Numerics;
using System.Text;

namespace Jugaad.Core.Trade;

/// <summary>
/// International bank account numbers by ISO 13616, checked by their two check digits (ISO 7064, MOD 97-10).
/// </summary>
public static class Iban
{
    /// <summary>Without blanks, in capitals.</summary>
    public static string Compact(string text) =>
        string.Concat(text.Where(c => !char.IsWhiteSpace(c))).ToUpperInvariant();

    /// <summary>In groups of four, as it is printed.</summary>
    public static string Grouped(string iban) => string.Join(' ', iban.Chunk(4).Select(c => new string(c)));

    /// <summary>Refuses what is neither empty nor a valid number.</summary>
    /// <exception cref="RefusalException">When its form or its check digits are wrong.</exception>
    public static void Check(string text, string field)
    {
        var iban = Compact(text);
        if (iban.Length == 0)
            return;
        if (
            iban.Length is < 15 or > 34
            || !char.IsAsciiLetter(iban[0])
            || !char.IsAsciiLetter(iban[1])
            || !iban.All(char.IsAsciiLetterOrDigit)
        )
            throw new RefusalException(
                field,
                "This is not an IBAN. It begins with two letters of the country and has 15 to 34 letters and digits."
            );
        if (!IsValid(iban))
            throw new RefusalException(
                field,
                "The check digits of this IBAN are wrong. Compare it with the bank's letter."
            );
    }

    /// <summary>Makes the check digits for a country and a bank's own account number.</summary>
    public static string Make(string country, string account) =>
        country + (98 - Remainder(account + country + "00")).ToString("D2") + account;

    /// <summary>
    /// Refuses what is neither empty nor of the form of a business identifier code (ISO 9362): 8 or 11 letters and
    /// digits.
    /// </summary>
    /// <exception cref="RefusalException">When its form is wrong, or its country is not the account's.</exception>
    public static void CheckBic(string text, string iban, string field)
    {
        var bic = Compact(text);
        if (bic.Length == 0)
            return;
        if (
            bic.Length is not (8 or 11)
            || !bic[..6].All(char.IsAsciiLetter)
            || !bic[6..].All(char.IsAsciiLetterOrDigit)
        )
            throw new RefusalException(
                field,
                "This is not a BIC. It has 8 or 11 characters: four letters of the bank, two of its country, and two or five more."
            );
        var country = Compact(iban);
        if (
            country.Length >= 2
            && !country.StartsWith(bic.AsSpan(4, 2), StringComparison.Ordinal)
            && Countries.Knows(bic[4..6])
        )
            throw new RefusalException(
                field,
                $"This BIC is of a bank in {Countries.NameOf(bic[4..6])}, and the IBAN is not. Compare both with the bank's letter."
            );
    }

    private static bool IsValid(string iban) => Remainder(iban[4..] + iban[..4]) == 1;

    private static int Remainder(string text)
    {
        var digits = new StringBuilder();
        foreach (var c in text)
            digits.Append(char.IsAsciiDigit(c) ? c - '0' : c - 'A' + 10);
        return (int)(BigInteger.Parse(digits.ToString()) % 97);
    }
}
