using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Jugaad.Core.Banking;

/// <summary>Tells bank lines apart, so that a file that is taken in twice gives no line twice.</summary>
public static class Fingerprints
{
    /// <summary>
    /// One for each line: the bank's own reference where it gives one, else all that the line says; lines that say the same are
    /// counted, so that two equal payments of one day are two.
    /// </summary>
    public static IReadOnlyList<string> Of(IReadOnlyList<StatementLine> lines)
    {
        var seen = new Dictionary<string, int>();
        return [.. lines.Select(line =>
        {
            // Spaces and capitals differ between formats of the same bank.
            var says = line.BankReference.Length > 0 ? "ref|" + line.BankReference + "|" + line.Amount.ToString(CultureInfo.InvariantCulture)
                : string.Join('|', line.Date.ToString("O", CultureInfo.InvariantCulture), line.Amount.ToString(CultureInfo.InvariantCulture), Plain(line.Name), Plain(line.Account), Plain(line.Text), Plain(line.Reference));
            var times = seen[says] = seen.GetValueOrDefault(says) + 1;
            return Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes($"{says}|{times}")))[..32];
        })];
    }

    private static string Plain(string text) => string.Concat(text.Where(char.IsLetterOrDigit)).ToUpperInvariant();
}
