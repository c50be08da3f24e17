using System.Text;
using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Journal;
using Jugaad.Core.Matching;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Jugaad.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// Statements of accounts in other currencies: each taken in for its account, two lines of one conversion seen as such,
/// and what the bank says of an amount in another currency used.
/// </summary>
public sealed class ForeignBankTests : IAsyncLifetime
{
    private const string Number = "EE471000001020145685";
    private Loft _loft = null!;
    private int _crowns;
    private int _fees;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _crowns = await AccountAsync("1110", AccountRole.Money, "SEK", Number);
        _fees = await AccountAsync("6900", AccountRole.Other);
        await _loft.ExecuteAsync($"UPDATE Businesses SET FeeAccountId = {_fees}");
        // One number for both of its currencies, as some banks have it.
        await _loft.WithAsync<AccountsDesk, int>(a =>
            a.SaveAccountAsync(
                _loft.Bank,
                new AccountDetails
                {
                    Code = "1000",
                    Name = "Bank",
                    Role = AccountRole.Money,
                    Iban = Number,
                }
            )
        );
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<int> AccountAsync(string code, AccountRole role, string currency = "", string iban = "") =>
        _loft.WithAsync<AccountsDesk, int>(a =>
            a.SaveAccountAsync(
                null,
                new AccountDetails
                {
                    Code = code,
                    Name = $"Account {code}",
                    Role = role,
                    Currency = currency,
                    Iban = iban,
                }
            )
        );

    private static byte[] File(string currency, params (long Amount, string Name, string Text)[] lines) =>
        CamtWriter.Write(
            Number,
            Currency.Of(currency),
            "009",
            Loft.Today.AddDays(-10),
            Loft.Today.AddDays(-1),
            0,
            [
                .. lines.Select(l => new StatementLine(
                    Loft.Today.AddDays(-1),
                    l.Amount,
                    l.Name,
                    "",
                    l.Text,
                    "",
                    $"{currency}{l.Amount}"
                )),
            ]
        );

    private Task<TakenIn> TakeAsync(byte[] file) =>
        _loft.WithAsync<Statements, TakenIn>(s => s.ReadInAsync(file, "statement.xml", null));

    private Task<IReadOnlyList<BenchLine>> ToPlaceAsync(int account) =>
        _loft.WithAsync<MatchingBench, IReadOnlyList<BenchLine>>(b => b.ToPlaceAsync(account));

    private Task<(long Home, long Own)> BalanceAsync(int account) =>
        _loft.WithAsync<BooksContext, (long, long)>(async db =>
            (
                await db.Set<JournalLine>().Where(l => l.AccountId == account).SumAsync(l => l.Debit - l.Credit),
                await db.Set<JournalLine>().Where(l => l.AccountId == account).SumAsync(l => l.OriginalAmount ?? 0)
            )
        );

    private async Task HealthyAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task A_statement_is_taken_in_for_the_account_of_its_currency()
    {
        await TakeAsync(File("SEK", (100_000, "Varv", "x")));
        await TakeAsync(File("EUR", (5_000, "Yard", "y")));
        (await ToPlaceAsync(_crowns)).Single().Line.Amount.ShouldBe(100_000);
        (await ToPlaceAsync(_loft.Bank)).Single().Line.Amount.ShouldBe(5_000);
        var refused = await Should.ThrowAsync<RefusalException>(() => TakeAsync(File("NOK", (1, "x", "z"))));
        refused.Message.ShouldContain("NOK");
        await HealthyAsync();
    }

    [Fact]
    public async Task Crowns_of_a_customer_billed_in_crowns_are_placed_as_they_are()
    {
        var invoice = await _loft.IssuedAsync(_loft.Content(100, 10, _loft.Swede, new DateOnly(2025, 9, 1)));
        await TakeAsync(File("SEK", (124_000, "Varv", invoice.Number!)));
        var bench = (await ToPlaceAsync(_crowns)).Single();
        bench.Proposals[0].Parts.Single().Amount.ShouldBe(124_000);
        await _loft.WithAsync<MatchingBench, int>(b => b.AcceptAsync(bench.Line.Id, bench.Proposals[0]));
        (await BalanceAsync(_crowns)).ShouldBe((11_172, 124_000));
        (await _loft.ItemOfAsync(invoice.Id)).Open.ShouldBe(0);
        await HealthyAsync();
        await _loft.WithAsync<MatchingBench, int>(b => b.PutBackAsync(bench.Line.Id));
        (await BalanceAsync(_crowns)).ShouldBe((0, 0));
        await HealthyAsync();
    }

    [Fact]
    public async Task Euros_for_an_invoice_in_crowns_are_proposed_within_what_rates_may_be_and_never_sure()
    {
        var invoice = await _loft.IssuedAsync(_loft.Content(100, 10, _loft.Swede, new DateOnly(2025, 9, 1)));
        // 1240.00 SEK are 111.72 at the rate of the day; 4 percent around are 107.25 to 116.19.
        await TakeAsync(
            File(
                "EUR",
                (110_50, "Somebody", $"for {invoice.Number}"),
                (116_20, "x", "y"),
                (55_86, "z", invoice.Number!)
            )
        );
        var lines = (await ToPlaceAsync(_loft.Bank)).ToDictionary(l => l.Line.Amount);
        lines[116_20].Proposals.ShouldBeEmpty("too much, and nothing says whose it is");
        var part = lines[55_86].Proposals.ShouldHaveSingleItem();
        (part.Certainty, part.Parts.Single().Amount).ShouldBe((Certainty.Possible, 62_000));
        var whole = lines[110_50].Proposals.ShouldHaveSingleItem();
        (whole.Certainty, whole.TheirAmount, whole.Parts.Single().Amount).ShouldBe(
            (Certainty.Likely, 124_000, 124_000)
        );
        whole.Why.ShouldEndWith("which at likely rates is 107.25 to 116.19\u00a0EUR");
        (await _loft.WithAsync<MatchingBench, PlacedAll>(b => b.AcceptAllSureAsync())).Placed.ShouldBe(0);
        var before = await _loft.PictureAsync();
        await _loft.WithAsync<MatchingBench, int>(b => b.AcceptAsync(lines[110_50].Line.Id, whole));
        // What arrived decides: kept at 108.38 and paid with 110.50, it gained 2.12.
        var receipt = await _loft.WithAsync<BooksContext, Receipt>(db => db.Receipts.SingleAsync());
        (receipt.Currency.Code, receipt.Amount, receipt.Money.Amount).ShouldBe(("SEK", 124_000, 110_50));
        (await _loft.ItemOfAsync(invoice.Id)).Open.ShouldBe(0);
        (
            await _loft.NumberAsync(
                "SELECT SUM(l.Credit - l.Debit) FROM JournalLines l JOIN LedgerAccounts a ON a.Id = l.AccountId WHERE a.Role = 'ExchangeDifferences'"
            )
        ).ShouldBe(212);
        await HealthyAsync();
        await _loft.WithAsync<MatchingBench, int>(b => b.PutBackAsync(lines[110_50].Line.Id));
        (await _loft.ItemOfAsync(invoice.Id)).Open.ShouldBe(124_000);
        await HealthyAsync();
        (await _loft.PictureAsync()).ShouldBe(before, "what is put back is as if it had not been");
    }

    [Theory]
    [InlineData(111_70, 124_000)]
    [InlineData(111_75, 124_000)]
    [InlineData(105_00, 116_537)]
    public async Task A_rest_that_only_comes_from_the_rate_of_the_day_is_none(long euros, long crowns)
    {
        var invoice = await _loft.IssuedAsync(_loft.Content(100, 10, _loft.Swede, new DateOnly(2025, 9, 1)));
        var item = await _loft.ItemOfAsync(invoice.Id);
        await TakeAsync(File("EUR", (euros, "Somebody", "sails")));
        var line = (await ToPlaceAsync(_loft.Bank)).Single().Line;
        // 1239.73 and 1240.29 are within a euro of 1240.00; 1165.37 are not.
        await _loft.WithAsync<MatchingBench, int>(b =>
            b.PlaceAsync(line.Id, [new LinePart(euros, _loft.Swede, [(item.Id, crowns)], [])], true)
        );
        var receipt = await _loft.WithAsync<BooksContext, Receipt>(db => db.Receipts.SingleAsync());
        (receipt.Amount, receipt.Money.Amount).ShouldBe((crowns, euros));
        (await _loft.ItemOfAsync(invoice.Id)).Open.ShouldBe(124_000 - crowns);
        await HealthyAsync();
    }

    [Fact]
    public async Task A_payer_who_is_known_by_name_pays_abroad_what_it_may_be()
    {
        var invoice = await _loft.IssuedAsync(_loft.Content(100, 10, _loft.Swede, new DateOnly(2025, 9, 1)));
        await TakeAsync(File("EUR", (112_00, "Varv", "sails")));
        var line = (await ToPlaceAsync(_loft.Bank)).Single();
        line.Proposals[0].Certainty.ShouldBe(Certainty.Possible);
        line.Proposals[0].Why.ShouldStartWith($"the payer is Varv, and {invoice.Number} is open with ");
        await _loft.WithAsync<MatchingBench, int>(b => b.AcceptAsync(line.Line.Id, line.Proposals[0]));
        (await _loft.ItemOfAsync(invoice.Id)).Open.ShouldBe(0);
        await HealthyAsync();
    }

    [Fact]
    public async Task Two_lines_of_about_one_worth_are_proposed_as_a_conversion_and_never_sure()
    {
        await TakeAsync(File("SEK", (-100_000, "Bank", "exchange"), (-55_000, "Supplier", "sails")));
        await TakeAsync(File("EUR", (8_960, "Bank", "exchange")));
        var line = (await ToPlaceAsync(_loft.Bank)).Single();
        // 1000.00 SEK are 90.10 at the rate of the day: 0.6 % off; 550.00 are far off.
        var proposal = line.Proposals.Where(p => p.PairsLineId is not null).ShouldHaveSingleItem();
        proposal.Certainty.ShouldBe(Certainty.Likely);
        proposal.Why.Replace('\u00a0', ' ').ShouldContain("1 SEK = 0.0896 EUR");
        (await _loft.WithAsync<MatchingBench, PlacedAll>(b => b.AcceptAllSureAsync())).Placed.ShouldBe(0);
        await _loft.WithAsync<MatchingBench, int>(b => b.AcceptAsync(line.Line.Id, proposal));
        (await BalanceAsync(_crowns)).ShouldBe((-8_960, -100_000));
        (await ToPlaceAsync(_loft.Bank)).ShouldBeEmpty();
        (await ToPlaceAsync(_crowns)).Single().Line.Amount.ShouldBe(-55_000);
        await HealthyAsync();
        // Put back, both lines are to be placed again.
        await _loft.WithAsync<MatchingBench, int>(b => b.PutBackAsync(line.Line.Id));
        (await BalanceAsync(_crowns)).ShouldBe((0, 0));
        (await ToPlaceAsync(_crowns)).Count.ShouldBe(2);
        (await ToPlaceAsync(_loft.Bank)).Count.ShouldBe(1);
        await HealthyAsync();
    }

    [Fact]
    public async Task A_conversion_that_was_typed_is_the_same_money_on_both_lines()
    {
        await _loft.WithAsync<Conversions, int>(c =>
            c.MakeAsync(new ConversionToMake(_crowns, _loft.Bank, 100_000, 8_960, Loft.Today.AddDays(-2), "Sold"))
        );
        await TakeAsync(File("SEK", (-100_000, "Bank", "exchange")));
        await TakeAsync(File("EUR", (8_960, "Bank", "exchange")));
        foreach (var account in new[] { _crowns, _loft.Bank })
        {
            var line = (await ToPlaceAsync(account)).Single();
            var joins = line.Proposals.First(p => p.JoinsBookingId is not null);
            await _loft.WithAsync<MatchingBench, int>(b => b.AcceptAsync(line.Line.Id, joins));
        }

        (await BalanceAsync(_crowns)).ShouldBe((-8_960, -100_000));
        (await _loft.WithAsync<BooksContext, int>(db => db.Conversions.CountAsync())).ShouldBe(1);
        await HealthyAsync();
    }

    [Fact]
    public async Task What_the_bank_says_was_given_and_kept_decides_the_rate()
    {
        var invoice = await _loft.IssuedAsync(_loft.Content(100, 10, _loft.Swede, new DateOnly(2025, 9, 1)));
        var text = Encoding.UTF8.GetString(File("EUR", (11_000, "Varv", invoice.Number!)));
        var at = text.IndexOf("<RltdPties>", StringComparison.Ordinal);
        at.ShouldBeGreaterThan(0);
        text = text.Insert(
            at,
            "<AmtDtls><InstdAmt><Amt Ccy=\"SEK\">1240.00</Amt></InstdAmt><TxAmt><Amt Ccy=\"EUR\">111.50</Amt><CcyXchg><SrcCcy>SEK</SrcCcy><TrgtCcy>EUR</TrgtCcy><XchgRate>0.08992</XchgRate></CcyXchg></TxAmt></AmtDtls><Chrgs><Rcrd><Amt Ccy=\"EUR\">1.50</Amt><ChrgInclInd>true</ChrgInclInd></Rcrd></Chrgs>"
        );
        await TakeAsync(Encoding.UTF8.GetBytes(text));
        var line = (await ToPlaceAsync(_loft.Bank)).Single().Line;
        (line.Given, line.GivenIn?.Code, line.Charge).ShouldBe((124_000L, "SEK", 150L));
        line.Text.ShouldContain("0.08992");
        var item = await _loft.ItemOfAsync(invoice.Id);
        await _loft.WithAsync<MatchingBench, int>(b =>
            b.PlaceAsync(line.Id, [new LinePart(11_000, _loft.Swede, [(item.Id, 124_000)], [])], false)
        );
        var receipt = await _loft.WithAsync<BooksContext, Receipt>(db => db.Receipts.SingleAsync());
        (receipt.Amount, receipt.Money.Amount, receipt.Money.Charge).ShouldBe((124_000L, 11_000L, 150L));
        ((await BalanceAsync(_loft.Bank)).Home, (await BalanceAsync(_fees)).Home).ShouldBe((11_000L, 150L));
        (await _loft.ItemOfAsync(invoice.Id)).Open.ShouldBe(0);
        await HealthyAsync();
    }
}
