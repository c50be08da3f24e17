namespace Jugaad.Core.Trade;

/// <summary>
/// Barcodes of items. Digits of the lengths of GS1's numbers (8, 12, 13 or 14) must have their check digit right;
/// anything else is taken as a code of the business's own.
/// </summary>
public static class Barcodes
{
    private const int Longest = 40;

    /// <summary>Each once, between commas: <c>,4740010000015,</c>; empty for none.</summary>
    public static string Normal(string typed)
    {
        var codes = Split(typed).Distinct().ToList();
        return codes.Count == 0 ? "" : $",{string.Join(',', codes)},";
    }

    public static IEnumerable<string> Split(string typed) =>
        typed.Split(
            [',', ';', '\n', '\r', '\t'],
            StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries
        );

    /// <summary>What is wrong with a code, and what to do; null where nothing is.</summary>
    public static string? Problem(string code)
    {
        if (code.Length > Longest)
            return $"“{code[..12]}…” is too long for a barcode; at most {Longest} characters fit.";
        if (code.Any(c => c is < ' ' or > '~'))
            return $"“{code}” holds a character that barcodes do not have. Use plain letters and digits.";
        if (!code.All(char.IsAsciiDigit) || code.Length is not (8 or 12 or 13 or 14))
            return null;
        var check = CheckDigit(code[..^1]);
        return code[^1] == check
            ? null
            : $"The check digit of {code} is wrong: it would be {check}. Compare it with the label.";
    }

    /// <summary>
    /// The check digit of GS1's General Specifications: weights 3 and 1 from the right, to the next ten.
    /// </summary>
    /// <param name="digits">All digits before it.</param>
    public static char CheckDigit(string digits)
    {
        var sum = 0;
        for (var i = 0; i < digits.Length; i++)
            sum += (digits[^(i + 1)] - '0') * (i % 2 == 0 ? 3 : 1);
        return (char)('0' + ((10 - (sum % 10)) % 10));
    }
}
