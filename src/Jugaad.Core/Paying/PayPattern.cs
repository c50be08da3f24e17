using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Paying;

/// <summary>What an address for paying is filled with.</summary>
/// <param name="Reference">What the money will be known by: an invoice's number, or a customer's code.</param>
/// <param name="Customer">The customer's code.</param>
public sealed record PayFields(Money Amount, string Reference, string Customer);

/// <summary>
/// A business's own address for paying, with fields in double braces: <c>{{ Amount }}</c> as a bare number with a point
/// (1234.50), <c>{{ Currency }}</c>, <c>{{ Reference }}</c> and <c>{{ Customer }}</c>, each escaped as RFC 3986 has it.
/// </summary>
public static partial class PayPattern
{
    /// <summary>Longer than this, and a line of plain mail may be broken in the middle of it (RFC 5322).</summary>
    public const int LongestLine = 78;

    private const int Longest = 500;

    public static IReadOnlyList<string> Fields { get; } = ["Amount", "Currency", "Reference", "Customer"];

    /// <summary>Amounts, references and customers as long as they come, with which a pattern is tried out.</summary>
    private static readonly PayFields Example = new(
        new Money(123_456_789, Currency.Of("EUR")),
        "INV-2025-0417",
        "CUST-0042"
    );

    [GeneratedRegex(@"\{\{\s*(?<name>[^{}]*?)\s*\}\}")]
    private static partial Regex Field();

    /// <summary>The address for a payment.</summary>
    public static string Fill(string pattern, PayFields fields) =>
        Field()
            .Replace(
                pattern,
                m =>
                    Uri.EscapeDataString(
                        m.Groups["name"].Value switch
                        {
                            "Amount" => fields.Amount.ToString(),
                            "Currency" => fields.Amount.Currency.Code,
                            "Reference" => fields.Reference,
                            _ => fields.Customer,
                        }
                    )
            );

    /// <summary>Adds what is wrong with a pattern; an empty one is none, and right.</summary>
    public static void Check(Refusals refusals, string field, string pattern)
    {
        if (pattern.Length == 0)
            return;
        if (Wrong(pattern) is { } wrong)
            refusals.Add(field, wrong);
    }

    /// <summary>What a sound pattern may still be told; null for nothing.</summary>
    public static Phrase? Warning(string pattern)
    {
        var length = Fill(pattern, Example).Length;
        if (length <= LongestLine)
            return null;
        return $"Filled in, the address has some {length} characters. In plain mail a line of more than {LongestLine} may be broken in the middle, and then it leads nowhere: a shorter one is safer.";
    }

    private static string? Wrong(string pattern)
    {
        if (pattern.Length > Longest)
            return $"At most {Longest} characters, please.";
        if (pattern.Any(c => char.IsControl(c) || (char.IsWhiteSpace(c) && c != ' ')))
            return "An address stands on one line. Take the line break out.";
        foreach (Match match in Field().Matches(pattern))
            if (!Fields.Contains(match.Groups["name"].Value))
                return $"There is no field {match.Value} here. The fields are {string.Join(", ", Fields)}; mind capitals.";
        var bare = Field().Replace(pattern, "x");
        if (bare.Contains('{', StringComparison.Ordinal) || bare.Contains('}', StringComparison.Ordinal))
            return "A field is opened and not closed, or the other way round. Write fields as {{ Amount }}.";
        if (bare.Any(char.IsWhiteSpace))
            return "An address has no blanks. Take them out, or write them as %20.";
        if (!pattern.Contains("{{", StringComparison.Ordinal))
            return "Name at least the amount in it, as {{ Amount }}, so that nobody has to type it.";
        if (bare.EnumerateRunes().Any(r => Rune.GetUnicodeCategory(r) == UnicodeCategory.CurrencySymbol))
            return "Take the currency sign out: the address carries the amount as a bare number, and the currency as {{ Currency }}.";
        if (AmountIsDressed(pattern))
            return "The amount stands by itself, as a bare number such as 1234.50. Take out what touches it: letters, digits, signs or marks of thousands.";
        if (
            !Uri.TryCreate(Fill(pattern, Example), UriKind.Absolute, out var address)
            || address.Scheme != Uri.UriSchemeHttps
            || address.Host.Length == 0
        )
            return "Give a whole address that begins with https://.";
        if (address.UserInfo.Length > 0)
            return "An address to pay at has no user before an @. Take that out.";
        var host = new Uri(Field().Replace(pattern, "x")).Host;
        if (host != address.Host)
            return "No field stands in the name of the place itself, before the first slash.";
        return null;
    }

    /// <summary>Whether anything but what parts an address stands beside the amount.</summary>
    private static bool AmountIsDressed(string pattern)
    {
        const string Parting = "/?&=;:#";
        foreach (Match match in Field().Matches(pattern))
        {
            if (match.Groups["name"].Value != "Amount")
                continue;
            var (before, after) = (match.Index - 1, match.Index + match.Length);
            if (before >= 0 && !Parting.Contains(pattern[before], StringComparison.Ordinal))
                return true;
            if (after < pattern.Length && !Parting.Contains(pattern[after], StringComparison.Ordinal))
                return true;
        }

        return false;
    }
}
