using Jugaad.Core.Banking;
using Jugaad.Core.Matching;
using Jugaad.Core.Paying;
using Jugaad.Core.Trade;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Paying;
using Jugaad.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Demo;

/// <summary>
/// The demo's bank statements: a month each up to August, all of them placed, and September's of which the last page
/// waits.
/// </summary>
internal sealed class DemoBank
{
    /// <summary>From here on the money is on the statement only.</summary>
    internal static readonly DateOnly LastPage = new(2025, 9, 8);

    private const string CardCompany = "Kaardimakse";

    private readonly List<(DateOnly Day, StatementLine Line, int? Receipt, int? Booking)> _moved = [];

    /// <summary>Money came from a customer.</summary>
    /// <param name="receipt">The receipt that was entered for it; null where none was yet.</param>
    internal void Came(DateOnly day, Customer customer, string number, long amount, int? receipt)
    {
        var dice = BankStandIn.Dice(number) + _moved.Count;
        _moved.Add(
            (
                day,
                new StatementLine(
                    day,
                    amount,
                    customer.Name,
                    BankStandIn.AccountOf(customer.Id),
                    BankStandIn.TextOf(number, dice),
                    dice % 5 == 0 ? StructuredReference.Of(number) : "",
                    $"SP{day:yyMMdd}{_moved.Count:D5}"
                ),
                receipt,
                null
            )
        );
    }

    /// <summary>Money went to a customer: a refund, or a payment that was taken back.</summary>
    /// <param name="booking">What was entered for it.</param>
    internal void Went(DateOnly day, Customer customer, string number, long amount, int booking) =>
        _moved.Add(
            (
                day,
                new StatementLine(
                    day,
                    -amount,
                    customer.Name,
                    BankStandIn.AccountOf(customer.Id),
                    number,
                    "",
                    $"SP{day:yyMMdd}{_moved.Count:D5}"
                ),
                null,
                booking
            )
        );

    /// <summary>Money went to somebody who is no customer.</summary>
    /// <param name="booking">What was entered for it.</param>
    internal void WentTo(DateOnly day, string name, string text, long amount, int booking) =>
        _moved.Add(
            (
                day,
                new StatementLine(day, -amount, name, "", text, "", $"SP{day:yyMMdd}{_moved.Count:D5}"),
                null,
                booking
            )
        );

    /// <summary>
    /// Takes the statements in, through the same desk as people do, and says which lines were entered by hand before.
    /// </summary>
    internal async Task GiveOutAsync(DemoHistory history, int account)
    {
        var iban = await history.WithAsync<BooksContext, string>(db =>
            db.LedgerAccounts.Where(a => a.Id == account).Select(a => a.Iban).SingleAsync()
        );
        var charges = await history.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Code == "4950").Select(a => a.Id).SingleAsync()
        );
        var payouts = await history.WithAsync<CardPayouts, IReadOnlyList<CardPayout>>(p => p.OnTheWayAsync());
        var opening = 0L;
        for (var month = DemoWorld.FirstDay.Month; month <= DemoWorld.Today.Month; month++)
        {
            var (from, until) = (new DateOnly(2025, month, 1), new DateOnly(2025, month, 1).AddMonths(1).AddDays(-1));
            if (until >= DemoWorld.Today)
                until = DemoWorld.Today.AddDays(-1);
            var moved = _moved.Where(m => m.Day >= from && m.Day <= until).OrderBy(m => m.Day).ToList();
            var lines = new List<(StatementLine Line, int? Receipt, int? Booking)>();
            foreach (var (_, line, receipt, booking) in moved)
                lines.Add(
                    (
                        receipt is null ? line : line with { Amount = await WorthAsync(history, receipt.Value) },
                        receipt,
                        booking
                    )
                );
            foreach (var payout in payouts.Where(p => p.Day >= from && p.Day <= until))
                lines.Add((LineOf(payout), null, null));
            if (until.AddDays(1).Day == 1)
                lines.Add(
                    (
                        new StatementLine(until, -450, "Sadama Pank", "", "Monthly fee", "", $"SP{until:yyMMdd}FEE"),
                        null,
                        null
                    )
                );
            if (until.Month == DemoWorld.Today.Month)
                lines.AddRange(Strays(until).Select(l => (l, (int?)null, (int?)null)));
            var file = CamtWriter.Write(
                iban,
                Core.Amounts.Currency.Of("EUR"),
                $"{month:D3}",
                from,
                until,
                opening,
                lines.ConvertAll(l => l.Line)
            );
            await history.WithAsync<Statements>(s => s.ReadInAsync(file, $"statement-2025-{month:D2}.xml", account));
            opening += lines.Sum(l => l.Line.Amount);
            await PlaceAsync(history, lines, charges);
        }
    }

    /// <summary>What the card service paid out, as the bank tells it.</summary>
    private static StatementLine LineOf(CardPayout payout) =>
        new(payout.Day, payout.Net, CardCompany, "", $"Payout {payout.Reference}", "", $"SP{payout.Reference}");

    private static Task<long> WorthAsync(DemoHistory history, int receipt) =>
        history.WithAsync<BooksContext, long>(db =>
            db.Receipts.Where(r => r.Id == receipt).Select(r => r.Money.Amount).SingleAsync()
        );

    /// <summary>What no invoice asks for.</summary>
    private static IEnumerable<StatementLine> Strays(DateOnly until) =>
        [
            new StatementLine(until.AddDays(-1), 112, "Sadama Pank", "", "Interest on deposit", "", "SP250915INT"),
            new StatementLine(
                until.AddDays(-1),
                4_500,
                "R. Kask",
                Iban.Make("EE", "7799000000000001"),
                "for the lesson, thanks",
                "",
                "SP25091500901"
            ),
            new StatementLine(until, -780, "Sadama Pank", "", "Card terminal, September", "", "SP250916TRM"),
        ];

    private static async Task PlaceAsync(
        DemoHistory history,
        List<(StatementLine Line, int? Receipt, int? Booking)> lines,
        int charges
    )
    {
        foreach (var (line, receipt, booking) in lines)
        {
            var id = await history.WithAsync<BooksContext, int>(db =>
                db.BankLines.Where(l => l.BankReference == line.BankReference).Select(l => l.Id).SingleAsync()
            );
            if (receipt is { } known)
                await history.WithAsync<MatchingBench>(b => b.JoinAsync(id, known));
            else if (booking is { } changed && line.Amount > 0)
                await history.WithAsync<MatchingBench>(b =>
                    b.AcceptAsync(
                        id,
                        new Proposal(Certainty.Likely, 0, [], 0, null, "")
                        {
                            JoinsBookingId = changed,
                            IsTransfer = true,
                        }
                    )
                );
            else if (booking is { } gone)
                await history.WithAsync<MatchingBench>(b => b.JoinGoneAsync(id, gone));
            else if (line.Name == CardCompany && line.Date < LastPage)
                await history.WithAsync<MatchingBench>(async b =>
                    await b.AcceptAsync(id, (await b.ProposeAsync(id))[0])
                );
            else if (line.Amount < 0 && line.Text == "Monthly fee")
                await history.WithAsync<MatchingBench>(b =>
                    b.PlaceAsync(id, [new LinePart(line.Amount, null, [], [], charges)], true)
                );
        }
    }
}
