using System.Text;

namespace Jugaad.Core.Trade;

/// <summary>Whether two customers look like one and the same.</summary>
public static class Alike
{
    /// <summary>From here on two names count as near.</summary>
    public const double Near = 0.62;

    private static readonly HashSet<string> LegalForms = new(StringComparer.Ordinal)
    {
        "ou",
        "as",
        "oy",
        "ab",
        "mtu",
        "sa",
        "fie",
        "uu",
        "tu",
        "ltd",
        "limited",
        "llc",
        "inc",
        "plc",
        "gmbh",
        "ag",
        "kg",
        "sarl",
        "sas",
        "srl",
        "spa",
        "bv",
        "nv",
        "aps",
        "sia",
        "uab",
        "the",
        "and",
        "co",
        "company",
    };

    /// <summary>The words of a name without accents, signs and legal forms, in small letters.</summary>
    public static IReadOnlyList<string> Words(string name)
    {
        var plain = new StringBuilder();
        foreach (var c in PlainLetters.Of(name))
        {
            if (c is '.' or '\'' or '’')
                continue;
            plain.Append(char.IsLetterOrDigit(c) ? c : ' ');
        }

        var words = plain.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var telling = words.Where(w => !LegalForms.Contains(w)).ToList();
        return telling.Count > 0 ? telling : words;
    }

    /// <summary>
    /// From 0 for nothing in common to 1 for the same, by the pairs of neighbouring letters in both (Dice's
    /// coefficient).
    /// </summary>
    public static double Nearness(string a, string b)
    {
        var (first, second) = (Pairs(a), Pairs(b));
        if (first.Count == 0 || second.Count == 0)
            return 0;
        var common = first.Sum(p => Math.Min(p.Value, second.GetValueOrDefault(p.Key)));
        return 2.0 * common / (first.Values.Sum() + second.Values.Sum());
    }

    /// <summary>Why two look alike, in words; null where they do not. Equal numbers tell more than names.</summary>
    public static string? Reason(
        CustomerDetails typed,
        string name,
        string otherName,
        string registration,
        string tax,
        string email
    )
    {
        if (TaxNumbers.Same(typed.TaxNumber, tax, typed.Address.Country))
            return "has the same tax number";
        if (Same(typed.RegistrationNumber, registration))
            return "has the same registration number";
        if (typed.Email.Trim().Length > 0 && typed.Email.Trim().Equals(email, StringComparison.OrdinalIgnoreCase))
            return "has the same mail address";
        var nearness = Math.Max(Nearness(typed.Name, name), otherName.Length > 0 ? Nearness(typed.Name, otherName) : 0);
        return nearness >= 0.99 ? "has the same name"
            : nearness >= Near ? "has a name like it"
            : null;
    }

    private static bool Same(string a, string b) => Plain(a) is { Length: > 0 } plain && plain == Plain(b);

    private static string Plain(string number) => string.Concat(number.Where(char.IsLetterOrDigit)).ToUpperInvariant();

    private static Dictionary<string, int> Pairs(string name)
    {
        var pairs = new Dictionary<string, int>();
        foreach (var word in Words(name).Select(w => $" {w} "))
        {
            for (var i = 0; i + 1 < word.Length; i++)
            {
                var pair = word.Substring(i, 2);
                pairs[pair] = pairs.GetValueOrDefault(pair) + 1;
            }
        }

        return pairs;
    }
}
