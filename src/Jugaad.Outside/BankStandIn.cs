using System.Globalization;
using Jugaad.Core.Banking;
using Jugaad.Core.Trade;
using Jugaad.Desk.Outside;

namespace Jugaad.Outside;

/// <summary>
/// Stands in for a bank, and for the customers who pay through it: some of the open bills are paid on the days asked
/// for, with references, without, and now and then mistyped. The same question always gets the same statement.
/// </summary>
public sealed class BankStandIn : IBank
{
    public Task<byte[]?> StatementAsync(StatementAsked asked, CancellationToken stop)
    {
        var lines = new List<StatementLine>();
        foreach (var bill in asked.Bills.OrderBy(b => b.Number, StringComparer.Ordinal))
        {
            var dice = Dice(bill.Number);
            var day = bill.Due.AddDays((dice % 12) - 3);
            if (day < asked.From || day > asked.Until || dice % 9 == 0)
                continue;
            lines.Add(
                new StatementLine(
                    day,
                    bill.Open,
                    bill.Customer.ToUpperInvariant(),
                    AccountOf(bill.CustomerId),
                    TextOf(bill.Number, dice),
                    dice % 5 == 0 ? StructuredReference.Of(bill.Number) : "",
                    $"SP{day:yyMMdd}{dice % 100_000:D5}"
                )
            );
        }

        foreach (var payout in asked.Payouts.Where(p => p.Day <= asked.Until))
        {
            var day = payout.Day < asked.From ? asked.From : payout.Day;
            lines.Add(
                new StatementLine(
                    day,
                    payout.Net,
                    "Kaardimakse",
                    "",
                    $"Payout {payout.Reference}",
                    "",
                    $"SP{payout.Reference}"
                )
            );
        }

        for (var day = asked.From; day <= asked.Until; day = day.AddDays(1))
            if (day.AddDays(1).Day == 1)
                lines.Add(new StatementLine(day, -450, "Sadama Pank", "", "Monthly fee", "", $"SP{day:yyMMdd}FEE"));
        var ordered = lines.OrderBy(l => l.Date).ToList();
        return Task.FromResult(
            ordered.Count == 0
                ? null
                : CamtWriter.Write(
                    asked.Iban,
                    asked.Currency,
                    asked.Until.DayOfYear.ToString("D3", CultureInfo.InvariantCulture),
                    asked.From,
                    asked.Until,
                    asked.Opening,
                    ordered
                )
        );
    }

    /// <summary>The account that a customer pays from; it belongs to no one.</summary>
    public static string AccountOf(int customerId) => Iban.Make("EE", $"77{customerId:D14}");

    /// <summary>What a customer writes: the number in one form or another, or nothing that helps.</summary>
    public static string TextOf(string number, int dice) =>
        (dice % 5) switch
        {
            0 => "",
            1 => $"Invoice {number}",
            2 => number.Replace('-', ' '),
            3 => "sails",
            _ => $"arve {number[^4..]}",
        };

    /// <summary>A number that depends on the text alone.</summary>
    public static int Dice(string text) => text.Aggregate(17, (sum, c) => ((sum * 31) + c) % 1_000_003);
}
