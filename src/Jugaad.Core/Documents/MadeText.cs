using System.Text.RegularExpressions;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Documents;

/// <summary>
/// What the program itself writes into the lines of a draft. It stands there as it is written here, in English and in the
/// business's way of writing dates; a paper in another language says it in that language, as long as nobody typed over
/// it.
/// </summary>
public static partial class MadeText
{
    /// <summary>The heading of what a delivery note delivered: <c>Delivery note DEL-2025-0007 of 14 Jul 2025</c>.</summary>
    public static string Delivery(string number, DateOnly day, DisplayFormat format) =>
        $"Delivery note {number} of {format.Date(day)}";

    /// <summary>What takes a deposit off: <c>Less deposit, invoice INV-2025-0007</c>.</summary>
    public static string LessDeposit(string number) => $"Less deposit, invoice {number}";

    /// <summary>
    /// What a deposit asks for: <c>Deposit of 30 % on quote QUO-2025-0007</c>, or without the share where it is an amount.
    /// </summary>
    /// <param name="source">A quote or an order.</param>
    public static string Deposit(decimal? percent, DocumentKind source, string number)
    {
        var on = $"{(source == DocumentKind.Quote ? "quote" : "order")} {number}";
        return percent is { } share ? $"Deposit of {PlainDecimal.Text(share)} % on {on}" : $"Deposit on {on}";
    }

    /// <summary>Number and day of the delivery note; null for another text.</summary>
    public static (string Number, string Day)? FindDelivery(string line) =>
        DeliveryPattern().Match(line) is { Success: true } found
            ? (found.Groups[1].Value, found.Groups[2].Value)
            : null;

    /// <summary>The number of the invoice whose deposit is taken off; null for another text.</summary>
    public static string? FindLessDeposit(string line) =>
        LessDepositPattern().Match(line) is { Success: true } found ? found.Groups[1].Value : null;

    /// <summary>What the deposit is on, and its share as plain text, empty for none; null for another text.</summary>
    public static (string Percent, DocumentKind Source, string Number)? FindDeposit(string line) =>
        DepositPattern().Match(line) is { Success: true } found
            ? (
                found.Groups[1].Value,
                found.Groups[2].Value == "quote" ? DocumentKind.Quote : DocumentKind.Order,
                found.Groups[3].Value
            )
            : null;

    [GeneratedRegex(@"^Delivery note (.+) of (.+)$")]
    private static partial Regex DeliveryPattern();

    [GeneratedRegex(@"^Less deposit, invoice (.+)$")]
    private static partial Regex LessDepositPattern();

    [GeneratedRegex(@"^Deposit (?:of ([0-9.]+) % )?on (quote|order) (.+)$")]
    private static partial Regex DepositPattern();
}
