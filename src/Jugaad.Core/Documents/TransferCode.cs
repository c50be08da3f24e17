using System.Text;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Documents;

/// <summary>
/// What a square code says so that a telephone can fill in the transfer: EPC069-12, version 002, for euro transfers.
/// Our reference (ISO 11649) goes with it, so that the money is known again when it comes.
/// </summary>
public static class TransferCode
{
    private const int LongestName = 70;
    private const int LongestMessage = 140;

    /// <summary>The most that such a transfer can be of, in cents.</summary>
    public const long MostMinor = 99_999_999_999;

    /// <returns>The lines of the code; empty where the paper asks for nothing that such a transfer could pay.</returns>
    public static string Of(Document document, Sender sender)
    {
        if (!document.Policy.HasDueDay || document.Number is not { } number || document.PaidWords.Length > 0)
            return "";
        if (document.Currency.Code != "EUR" || sender.Iban.Length == 0 || document.Payable is <= 0 or > MostMinor)
            return "";
        return Of(sender.Name, sender.Iban, sender.Bic, document.Payable, number);
    }

    /// <param name="cents">From 1 to 99 999 999 999.</param>
    public static string Of(string payee, string iban, string bic, long cents, string number)
    {
        var reference = StructuredReference.Of(number);
        var amount = new Money(cents, Currency.Of("EUR")).ToString();
        return string.Join(
            '\n',
            "BCD",
            "002",
            "1",
            "SCT",
            bic,
            Cut(payee, LongestName),
            iban,
            "EUR" + amount,
            "",
            reference,
            reference.Length > 0 ? "" : Cut(number, LongestMessage)
        );
    }

    /// <summary>Control characters would end a line of the code.</summary>
    private static string Cut(string text, int most)
    {
        var plain = new StringBuilder();
        foreach (var rune in text.EnumerateRunes())
            if (!Rune.IsControl(rune) && plain.Length + rune.Utf16SequenceLength <= most)
                plain.Append(rune);
        return plain.ToString();
    }
}
