using System.Globalization;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Documents;

/// <summary>
/// What a line takes back of something that was taxed together before: a credit of an invoice, or a deposit that is
/// taken off a bill. Whatever the parts, their taxes together are the whole's: each gets the rounded share up to and
/// with it, less what the parts before it got. Amounts are minor units in the price mode of the document.
/// </summary>
/// <param name="Group">Names what it takes back from; lines and charges of one name are taxed together.</param>
/// <param name="Whole">What was taxed together.</param>
/// <param name="Taxes">What each component came to on it.</param>
/// <param name="Before">What parts before this document took back of it.</param>
/// <param name="TaxesBefore">What they took back of each component.</param>
public sealed record TakenBack(
    string Group,
    long Whole,
    IReadOnlyList<long> Taxes,
    long Before,
    IReadOnlyList<long> TaxesBefore
)
{
    /// <summary>What of the whole is left to take back.</summary>
    public long Left => Whole - Before;

    /// <summary>The taxes that go back with an amount, by component.</summary>
    /// <param name="amount">Of the sign of <see cref="Whole"/>, as a rule.</param>
    public long[] TaxesOf(long amount, Taxes.Treatment treatment, bool includesTax)
    {
        var upTo = Before + amount;
        var all =
            Whole == 0
                ? Calculator.TaxesOn(treatment, upTo, includesTax)
                : [.. Taxes.Select(t => Rounding.Share(t, upTo, Whole))];
        return [.. all.Zip(TaxesBefore, (now, before) => now - before)];
    }

    /// <summary>The text form that a document keeps, such as <c>12.0|8065|1936|4000|960</c>.</summary>
    public override string ToString() =>
        string.Join('|', Group, Text(Whole), Text(Taxes), Text(Before), Text(TaxesBefore));

    /// <summary>Reads the text form back; null where it is empty.</summary>
    /// <exception cref="FormatException">When it is not such a text.</exception>
    public static TakenBack? Parse(string text)
    {
        if (text.Length == 0)
            return null;
        var pieces = text.Split('|');
        if (pieces.Length != 5)
            throw new FormatException($"Not what a line takes back: {text}");
        return new TakenBack(pieces[0], Number(pieces[1]), Numbers(pieces[2]), Number(pieces[3]), Numbers(pieces[4]));
    }

    public bool Equals(TakenBack? other) => other is not null && other.ToString() == ToString();

    public override int GetHashCode() => ToString().GetHashCode(StringComparison.Ordinal);

    private static string Text(long amount) => amount.ToString(CultureInfo.InvariantCulture);

    private static string Text(IEnumerable<long> amounts) => string.Join(';', amounts.Select(Text));

    private static long Number(string text) => long.Parse(text, CultureInfo.InvariantCulture);

    private static long[] Numbers(string text) => text.Length == 0 ? [] : [.. text.Split(';').Select(Number)];
}
