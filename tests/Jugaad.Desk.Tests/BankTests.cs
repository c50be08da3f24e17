using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Documents;
using Jugaad.Core.Matching;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Statements taken in, and lines placed, joined, split and put back.</summary>
public sealed class BankTests
{
    private const string Yards = "EE471000001020145685";

    private static StatementLine Line(long amount, string text = "", string reference = "", string bank = "", string name = "Yard", int daysAgo = 1) =>
        new(Loft.Today.AddDays(-daysAgo), amount, name, name == "Yard" ? Yards : "", text, reference, bank.Length > 0 ? bank : $"B{amount}{text}");

    private static byte[] File(long opening, params StatementLine[] lines) => CamtWriter.Write("EE030099220012345678", Core.Amounts.Currency.Of("EUR"), "009", Loft.Today.AddDays(-10), Loft.Today.AddDays(-1), opening, lines);

    private static Task<TakenIn> TakeAsync(Loft loft, params StatementLine[] lines) => loft.WithAsync<Statements, TakenIn>(s => s.TakeAsync(File(0, lines), "statement.xml", loft.Bank));

    private static Task<IReadOnlyList<BenchLine>> ToPlaceAsync(Loft loft) => loft.WithAsync<MatchingBench, IReadOnlyList<BenchLine>>(b => b.ToPlaceAsync());

    [Fact]
    public async Task A_file_taken_in_twice_gives_no_line_twice_and_overlaps_only_what_is_new()
    {
        await using var loft = await Loft.OpenAsync();
        (await TakeAsync(loft, Line(100), Line(200))).Taken.ShouldBe(2);
        var again = await TakeAsync(loft, Line(100), Line(200));
        (again.Taken, again.Known, again.Statements).ShouldBe((0, 2, 0));
        (await TakeAsync(loft, Line(200), Line(300))).Taken.ShouldBe(1);
        (await loft.WithAsync<BooksContext, int>(db => db.BankLines.CountAsync())).ShouldBe(3);
    }

    [Fact]
    public async Task A_gap_and_a_sum_that_is_off_are_pointed_out_and_a_strange_account_is_refused()
    {
        await using var loft = await Loft.OpenAsync();
        var rest = await loft.WithAsync<Statements, TakenIn>(s => s.TakeAsync(File(500, Line(100)), "a.xml", loft.Bank));
        rest.Remarks.ShouldBeEmpty();
        var later = CamtWriter.Write("EE030099220012345678", Core.Amounts.Currency.Of("EUR"), "010", Loft.Today.AddDays(-1), Loft.Today, 700, [Line(5, daysAgo: 0)]);
        (await loft.WithAsync<Statements, TakenIn>(s => s.TakeAsync(later, "b.xml", loft.Bank))).Remarks.Single().ShouldContain("A statement is missing");
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Statements>(s => s.TakeAsync(later, "b.xml", null)))).Refusals[0].Field.ShouldBe("accountId");
    }

    [Fact]
    public async Task A_sure_line_is_placed_and_put_back()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-2)));
        await TakeAsync(loft, Line(12_400, "", StructuredReference.Of(invoice.Number!)));
        var before = await loft.PictureAsync();
        var bench = (await ToPlaceAsync(loft)).Single();
        bench.Proposals[0].Certainty.ShouldBe(Certainty.Sure);
        await loft.WithAsync<MatchingBench>(b => b.TakeAsync(bench.Line.Id, bench.Proposals[0]));
        (await loft.DocumentAsync(invoice.Id)).State.ShouldBe(DocumentState.Settled);
        (await ToPlaceAsync(loft)).ShouldBeEmpty();
        (await loft.WithAsync<BankScreens, IReadOnlyList<StatementRow>>(s => s.StatementsAsync())).Single().Reconciled.ShouldBeTrue();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(bench.Line.Id));
        (await loft.PictureAsync()).ShouldBe(before);
        (await ToPlaceAsync(loft)).Count.ShouldBe(1);
    }

    [Fact]
    public async Task Undoing_the_receipt_gives_the_line_back()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-2)));
        await TakeAsync(loft, Line(12_400, "", StructuredReference.Of(invoice.Number!)));
        (await loft.WithAsync<MatchingBench, int>(b => b.TakeAllSureAsync())).ShouldBe(1);
        await loft.WithAsync<Undoing>(async u => await u.UndoAsync(await loft.WithAsync<BooksContext, int>(db => db.Bookings.MaxAsync(b => b.Id))));
        (await ToPlaceAsync(loft)).Single().Line.Left.ShouldBe(12_400);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Money_entered_by_hand_is_joined_and_not_booked_again()
    {
        await using var loft = await Loft.OpenAsync();
        var receipt = await loft.ReceiveAsync(5_000);
        await TakeAsync(loft, Line(5_000));
        var bench = (await ToPlaceAsync(loft)).Single();
        bench.Proposals[0].JoinsReceiptId.ShouldBe(receipt);
        var before = await loft.PictureAsync();
        await loft.WithAsync<MatchingBench>(b => b.TakeAsync(bench.Line.Id, bench.Proposals[0]));
        (await loft.PictureAsync()).ShouldBe(before, "nothing is booked");
        (await ToPlaceAsync(loft)).ShouldBeEmpty();
        await TakeAsync(loft, Line(5_000, bank: "another"));
        (await ToPlaceAsync(loft)).Single().Proposals.ShouldAllBe(p => p.JoinsReceiptId == null);
        (await Should.ThrowAsync<RefusalException>(async () => await loft.WithAsync<MatchingBench>(async b => await b.JoinAsync((await ToPlaceAsync(loft)).Single().Line.Id, receipt)))).Message.ShouldContain("seen on another bank line");
    }

    [Fact]
    public async Task A_line_is_split_over_customers_credit_and_a_ledger_account()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
        await TakeAsync(loft, Line(20_000));
        var line = (await ToPlaceAsync(loft)).Single().Line.Id;
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<MatchingBench>(b => b.PlaceAsync(line, [new LinePart(20_001, loft.Yard, [], [])], false)))).Message.ShouldContain("is left to place");
        await loft.WithAsync<MatchingBench>(b => b.PlaceAsync(line, [new LinePart(15_000, loft.Yard, [(item.Id, 12_400)], [])], false));
        (await ToPlaceAsync(loft)).Single().Line.Left.ShouldBe(5_000);
        await loft.WithAsync<MatchingBench>(b => b.PlaceAsync(line, [new LinePart(5_000, null, [], [], loft.Sales, loft.Std)], false));
        (await ToPlaceAsync(loft)).ShouldBeEmpty();
        (await loft.WithAsync<BankScreens, IReadOnlyList<StatementRow>>(s => s.StatementsAsync())).Single().Reconciled.ShouldBeTrue();
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(line));
        (await loft.ItemOfAsync(item.DocumentId!.Value)).Open.ShouldBe(12_400);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    /// <summary>100.00 EUR came in from a customer who is billed in SEK: the bank's amount is booked, whatever it is to the customer.</summary>
    [Theory]
    [InlineData(null, 110_988)]
    [InlineData(111_700L, 111_700)]
    [InlineData(99_999L, 99_999)]
    public async Task Money_of_a_customer_in_another_currency_is_booked_at_what_the_bank_says(long? theirs, long received)
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, Line(10_000, "", name: "Varv", daysAgo: 0));
        var before = await loft.PictureAsync();
        var line = (await ToPlaceAsync(loft)).Single().Line.Id;
        await loft.WithAsync<MatchingBench>(b => b.PlaceAsync(line, [new LinePart(10_000, loft.Swede, [], [], TheirAmount: theirs)], false));
        var (receipt, journal) = await loft.WithAsync<BooksContext, (Receipt, long)>(async db => (
            await db.Receipts.SingleAsync(),
            (await db.Journal.Include(j => j.Lines).OrderByDescending(j => j.Id).FirstAsync()).Lines.Where(l => l.AccountId == loft.Bank).Sum(l => l.Debit - l.Credit)));
        (receipt.Currency.Code, receipt.Amount, journal).ShouldBe(("SEK", received, 10_000));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(line));
        (await loft.PictureAsync()).ShouldBe(before);
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<MatchingBench>(b => b.PlaceAsync(line, [new LinePart(10_000, loft.Swede, [], [], TheirAmount: 0)], false)))).Refusals[0].Field.ShouldBe("theirAmount");
    }

    [Fact]
    public async Task What_is_placed_by_hand_is_learned_shown_and_forgotten()
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, Line(700, "one"));
        await loft.WithAsync<MatchingBench>(async b => await b.PlaceAsync((await ToPlaceAsync(loft)).Single().Line.Id, [new LinePart(700, loft.Swede == 0 ? 0 : loft.Yard, [], [])], true));
        await TakeAsync(loft, Line(900, "two"));
        (await ToPlaceAsync(loft)).Single().Proposals[0].Why.ShouldContain("money from this account was Yard's before");
        var rule = (await loft.WithAsync<BankScreens, IReadOnlyList<(PayerRule Rule, string Of)>>(s => s.RulesAsync())).Single();
        (rule.Of, rule.Rule.Account).ShouldBe(("Yard", Yards));
        await loft.WithAsync<MatchingBench>(b => b.ForgetAsync(rule.Rule.Id));
        (await ToPlaceAsync(loft)).Single().Proposals[0].Why.ShouldContain("by name");
    }

    [Fact]
    public async Task Charges_go_where_they_went_before()
    {
        await using var loft = await Loft.OpenAsync();
        var charges = await loft.WithAsync<BooksContext, int>(db => db.LedgerAccounts.Where(a => a.Code == "4950").Select(a => a.Id).SingleAsync());
        await TakeAsync(loft, Line(-450, "fee", name: "Bank", bank: "1"));
        await loft.WithAsync<MatchingBench>(async b => await b.PlaceAsync((await ToPlaceAsync(loft)).Single().Line.Id, [new LinePart(-450, null, [], [], charges)], true));
        await TakeAsync(loft, Line(-470, "fee", name: "Bank", bank: "2"));
        var next = (await ToPlaceAsync(loft)).Single();
        (next.Proposals.Count, next.LedgerAccountId).ShouldBe((0, charges));
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<MatchingBench>(b => b.PlaceAsync(next.Line.Id, [new LinePart(-470, loft.Yard, [], [])], false)))).Message.ShouldContain("is no receipt");
    }

    [Fact]
    public async Task The_stand_in_goes_on_from_the_last_statement_as_the_days_pass()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        (await loft.WithAsync<BankDays, int>(b => b.FetchAsync())).ShouldBe(0, "nothing was taken in yet, so there is nothing to go on from");
        var bank = new BankStandIn();
        var asked = new Outside.StatementAsked("EE030099220012345678", Core.Amounts.Currency.Of("EUR"), Loft.Today, Loft.Today.AddDays(60), 0, [.. Enumerable.Range(1, 30).Select(i => new Outside.OpenBill($"INV-2025-{i:D4}", i, $"Yard {i}", 1_000 + i, Loft.Today.AddDays(14)))]);
        var one = await bank.StatementAsync(asked, default);
        one.ShouldNotBeNull().ShouldBe((await bank.StatementAsync(asked, default))!);
        (await bank.StatementAsync(asked with { Until = Loft.Today.AddDays(1), Bills = [] }, default)).ShouldBeNull();
    }
}
