using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Documents;
using Jugaad.Core.Matching;
using Jugaad.Core.Trade;
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

    private static StatementLine Line(
        long amount,
        string text = "",
        string reference = "",
        string bank = "",
        string name = "Yard",
        int daysAgo = 1
    ) =>
        new(
            Loft.Today.AddDays(-daysAgo),
            amount,
            name,
            name == "Yard" ? Yards : "",
            text,
            reference,
            bank.Length > 0 ? bank : $"B{amount}{text}"
        );

    private static byte[] File(long opening, params StatementLine[] lines) =>
        CamtWriter.Write(
            "EE030099220012345678",
            Core.Amounts.Currency.Of("EUR"),
            "009",
            Loft.Today.AddDays(-10),
            Loft.Today.AddDays(-1),
            opening,
            lines
        );

    private static Task<TakenIn> TakeAsync(Loft loft, params StatementLine[] lines) =>
        loft.WithAsync<Statements, TakenIn>(s => s.ReadInAsync(File(0, lines), "statement.xml", loft.Bank));

    private static Task<IReadOnlyList<BenchLine>> ToPlaceAsync(Loft loft) =>
        loft.WithAsync<MatchingBench, IReadOnlyList<BenchLine>>(b => b.ToPlaceAsync());

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
        var rest = await loft.WithAsync<Statements, TakenIn>(s =>
            s.ReadInAsync(File(500, Line(100)), "a.xml", loft.Bank)
        );
        rest.Remarks.ShouldBeEmpty();
        var later = CamtWriter.Write(
            "EE030099220012345678",
            Core.Amounts.Currency.Of("EUR"),
            "010",
            Loft.Today.AddDays(-1),
            Loft.Today,
            700,
            [Line(5, daysAgo: 0)]
        );
        (await loft.WithAsync<Statements, TakenIn>(s => s.ReadInAsync(later, "b.xml", loft.Bank)))
            .Remarks.Single()
            .ShouldContain("A statement is missing");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Statements>(s => s.ReadInAsync(later, "b.xml", null))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("accountId");
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
        await loft.WithAsync<MatchingBench>(b => b.AcceptAsync(bench.Line.Id, bench.Proposals[0]));
        (await loft.DocumentAsync(invoice.Id)).State.ShouldBe(DocumentState.Settled);
        (await ToPlaceAsync(loft)).ShouldBeEmpty();
        (await loft.WithAsync<BankScreens, IReadOnlyList<StatementRow>>(s => s.StatementsAsync()))
            .Single()
            .Reconciled.ShouldBeTrue();
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
        (await loft.WithAsync<MatchingBench, PlacedAll>(b => b.AcceptAllSureAsync())).Placed.ShouldBe(1);
        await loft.WithAsync<Undoing>(async u =>
            await u.UndoAsync(await loft.WithAsync<BooksContext, int>(db => db.Bookings.MaxAsync(b => b.Id)))
        );
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
        await loft.WithAsync<MatchingBench>(b => b.AcceptAsync(bench.Line.Id, bench.Proposals[0]));
        (await loft.PictureAsync()).ShouldBe(before, "nothing is booked");
        (await ToPlaceAsync(loft)).ShouldBeEmpty();
        await TakeAsync(loft, Line(5_000, bank: "another"));
        (await ToPlaceAsync(loft)).Single().Proposals.ShouldAllBe(p => p.JoinsReceiptId == null);
        (
            await Should.ThrowAsync<RefusalException>(async () =>
                await loft.WithAsync<MatchingBench>(async b =>
                    await b.JoinAsync((await ToPlaceAsync(loft)).Single().Line.Id, receipt)
                )
            )
        ).Message.ShouldContain("seen on another bank line");
    }

    [Fact]
    public async Task A_line_is_split_over_customers_credit_and_a_ledger_account()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
        await TakeAsync(loft, Line(20_000));
        var line = (await ToPlaceAsync(loft)).Single().Line.Id;
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<MatchingBench>(b => b.PlaceAsync(line, [new LinePart(20_001, loft.Yard, [], [])], false))
            )
        ).Message.ShouldContain("is left to place");
        await loft.WithAsync<MatchingBench>(b =>
            b.PlaceAsync(line, [new LinePart(15_000, loft.Yard, [(item.Id, 12_400)], [])], false)
        );
        (await ToPlaceAsync(loft)).Single().Line.Left.ShouldBe(5_000);
        await loft.WithAsync<MatchingBench>(b =>
            b.PlaceAsync(line, [new LinePart(5_000, null, [], [], loft.Sales, loft.Std)], false)
        );
        (await ToPlaceAsync(loft)).ShouldBeEmpty();
        (await loft.WithAsync<BankScreens, IReadOnlyList<StatementRow>>(s => s.StatementsAsync()))
            .Single()
            .Reconciled.ShouldBeTrue();
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(line));
        (await loft.ItemOfAsync(item.DocumentId!.Value)).Open.ShouldBe(12_400);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    /// <summary>
    /// 100.00 EUR came in from a customer who is billed in SEK: the bank's amount is booked, whatever it is to the
    /// customer.
    /// </summary>
    [Theory]
    [InlineData(null, 110_988)]
    [InlineData(111_700L, 111_700)]
    [InlineData(99_999L, 99_999)]
    public async Task Money_of_a_customer_in_another_currency_is_booked_at_what_the_bank_says(
        long? theirs,
        long received
    )
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, Line(10_000, "", name: "Varv", daysAgo: 0));
        var before = await loft.PictureAsync();
        var line = (await ToPlaceAsync(loft)).Single().Line.Id;
        await loft.WithAsync<MatchingBench>(b =>
            b.PlaceAsync(line, [new LinePart(10_000, loft.Swede, [], [], TheirAmount: theirs)], false)
        );
        var (receipt, journal) = await loft.WithAsync<BooksContext, (Receipt, long)>(async db =>
            (
                await db.Receipts.SingleAsync(),
                (await db.Journal.Include(j => j.Lines).OrderByDescending(j => j.Id).FirstAsync())
                    .Lines.Where(l => l.AccountId == loft.Bank)
                    .Sum(l => l.Debit - l.Credit)
            )
        );
        (receipt.Currency.Code, receipt.Amount, journal).ShouldBe(("SEK", received, 10_000));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(line));
        (await loft.PictureAsync()).ShouldBe(before);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<MatchingBench>(b =>
                    b.PlaceAsync(line, [new LinePart(10_000, loft.Swede, [], [], TheirAmount: 0)], false)
                )
            )
        )
            .Refusals[0]
            .Field.ShouldBe("theirAmount");
    }

    [Fact]
    public async Task What_is_placed_by_hand_is_learned_shown_and_forgotten()
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, Line(700, "one"));
        await loft.WithAsync<MatchingBench>(async b =>
            await b.PlaceAsync(
                (await ToPlaceAsync(loft)).Single().Line.Id,
                [new LinePart(700, loft.Swede == 0 ? 0 : loft.Yard, [], [])],
                true
            )
        );
        await TakeAsync(loft, Line(900, "two"));
        (await ToPlaceAsync(loft)).Single().Proposals[0].Why.ShouldContain("money from this account was Yard's before");
        var rule = (
            await loft.WithAsync<BankScreens, IReadOnlyList<(PayerRule Rule, string Of)>>(s => s.RulesAsync())
        ).Single();
        (rule.Of, rule.Rule.Account).ShouldBe(("Yard", Yards));
        await loft.WithAsync<MatchingBench>(b => b.ForgetAsync(rule.Rule.Id));
        (await ToPlaceAsync(loft)).Single().Proposals[0].Why.ShouldContain("by name");
    }

    [Fact]
    public async Task Charges_go_where_they_went_before()
    {
        await using var loft = await Loft.OpenAsync();
        var charges = await loft.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Code == "4950").Select(a => a.Id).SingleAsync()
        );
        await TakeAsync(loft, Line(-450, "fee", name: "Bank", bank: "1"));
        await loft.WithAsync<MatchingBench>(async b =>
            await b.PlaceAsync(
                (await ToPlaceAsync(loft)).Single().Line.Id,
                [new LinePart(-450, null, [], [], charges)],
                true
            )
        );
        await TakeAsync(loft, Line(-470, "fee", name: "Bank", bank: "2"));
        var next = (await ToPlaceAsync(loft)).Single();
        (next.Proposals.Count, next.LedgerAccountId).ShouldBe((0, charges));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<MatchingBench>(b =>
                    b.PlaceAsync(next.Line.Id, [new LinePart(-470, loft.Yard, [], [])], false)
                )
            )
        ).Message.ShouldContain("is no receipt");
    }

    [Fact]
    public async Task The_stand_in_goes_on_from_the_last_statement_as_the_days_pass()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        (await loft.WithAsync<BankDays, int>(b => b.FetchAsync())).ShouldBe(
            0,
            "nothing was taken in yet, so there is nothing to go on from"
        );
        var bank = new BankStandIn();
        var asked = new Outside.StatementAsked(
            "EE030099220012345678",
            Core.Amounts.Currency.Of("EUR"),
            Loft.Today,
            Loft.Today.AddDays(60),
            0,
            [
                .. Enumerable
                    .Range(1, 30)
                    .Select(i => new Outside.OpenBill(
                        $"INV-2025-{i:D4}",
                        i,
                        $"Yard {i}",
                        1_000 + i,
                        Loft.Today.AddDays(14)
                    )),
            ]
        );
        var one = await bank.StatementAsync(asked, default);
        one.ShouldNotBeNull().ShouldBe((await bank.StatementAsync(asked, default))!);
        (await bank.StatementAsync(asked with { Until = Loft.Today.AddDays(1), Bills = [] }, default)).ShouldBeNull();
    }

    [Fact]
    public async Task What_a_line_taught_is_forgotten_with_the_last_line_that_taught_it()
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, Line(100, "one"), Line(200, "two"));
        Task<int> RulesAsync() => loft.WithAsync<BooksContext, int>(db => db.PayerRules.CountAsync());
        var lines = await ToPlaceAsync(loft);
        foreach (var line in lines)
            await loft.WithAsync<MatchingBench>(b =>
                b.PlaceAsync(line.Line.Id, [new LinePart(line.Line.Left, loft.Yard, [], [])], true)
            );
        (await RulesAsync()).ShouldBe(1);
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(lines[0].Line.Id));
        (await RulesAsync()).ShouldBe(1, "the other line still says so");
        // Undoing the receipt takes its line back, and with it the last sign.
        var booking = await loft.WithAsync<BooksContext, int>(db =>
            db.BankLines.SelectMany(l => l.Placements).Select(p => p.BookingId!.Value).SingleAsync()
        );
        await loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
        (await RulesAsync()).ShouldBe(0);
    }

    [Fact]
    public async Task Balances_prove_that_equal_lines_of_two_statements_are_two()
    {
        await using var loft = await Loft.OpenAsync();
        var fee = Line(-300, "Fee", name: "Bank") with { BankReference = "NONREF" };
        byte[] Day(long opening) =>
            CamtWriter.Write(
                "EE030099220012345678",
                Core.Amounts.Currency.Of("EUR"),
                "009",
                Loft.Today.AddDays(-1),
                Loft.Today.AddDays(-1),
                opening,
                [fee]
            );
        Task<TakenIn> Take(byte[] file) =>
            loft.WithAsync<Statements, TakenIn>(s => s.ReadInAsync(file, "s.xml", loft.Bank));
        (await Take(Day(1_000))).Taken.ShouldBe(1);
        (await Take(Day(1_000))).Taken.ShouldBe(0);
        // The second statement of the day begins where the first ended: its fee is another.
        (await Take(Day(700))).Taken.ShouldBe(1);
        (await Take(Day(700))).Taken.ShouldBe(0);
        (await loft.WithAsync<BooksContext, int>(db => db.BankLines.CountAsync())).ShouldBe(2);
    }

    [Fact]
    public async Task The_same_statement_in_two_formats_is_one()
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, Line(100, bank: "R1"), Line(250, bank: "R2"));
        var day = Loft.Today.AddDays(-1);
        var swift =
            $":20:S\n:25:EE030099220012345678EUR\n:28C:9\n:60F:C{day:yyMMdd}EUR0,00\n:61:{day:yyMMdd}{day:MMdd}C1,00NTRFNONREF//R1\n:86:166?20words?32YARD\n:61:{day:yyMMdd}{day:MMdd}C2,50NTRFNONREF//R2\n:61:{day:yyMMdd}{day:MMdd}C7,00NTRFNONREF//R3\n:62F:C{day:yyMMdd}EUR10,50\n";
        var taken = await loft.WithAsync<Statements, TakenIn>(s =>
            s.ReadInAsync(System.Text.Encoding.UTF8.GetBytes(swift), "s.sta", loft.Bank)
        );
        (taken.Taken, taken.Known).ShouldBe((1, 2));
    }

    [Fact]
    public async Task A_statement_a_line_and_the_columns_are_taken_out_again()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<Statements>(s =>
            s.ReadInAsync(
                System.Text.Encoding.UTF8.GetBytes("Day;Amount\n16.09.2025;2,50\n"),
                "s.csv",
                loft.Bank,
                new CsvColumns { Date = "Day", Amount = "Amount" }
            )
        );
        await loft.WithAsync<Statements>(s => s.ForgetColumnsAsync(loft.Bank));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Statements>(s =>
                    s.ReadInAsync(
                        System.Text.Encoding.UTF8.GetBytes("Day;Amount\n17.09.2025;2,50\n"),
                        "s.csv",
                        loft.Bank
                    )
                )
            )
        )
            .Refusals[0]
            .Field.ShouldBe("columns");
        var line = (await ToPlaceAsync(loft)).Single().Line;
        await loft.WithAsync<MatchingBench>(b =>
            b.PlaceAsync(line.Id, [new LinePart(line.Left, loft.Yard, [], [])], true)
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Statements>(s => s.TakeOutAsync(line.StatementId))
            )
        ).Message.ShouldContain("1 of its lines is placed");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Statements>(s => s.TakeLineOutAsync(line.Id))
            )
        ).Message.ShouldContain("is placed");
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(line.Id));
        await loft.WithAsync<Statements>(s => s.TakeLineOutAsync(line.Id));
        await loft.WithAsync<Statements>(s => s.TakeOutAsync(line.StatementId));
        await loft.WithAsync<BooksContext>(async db =>
            (await db.BankStatements.CountAsync(), await db.BankLines.CountAsync()).ShouldBe((0, 0))
        );
    }

    /// <summary>A file that takes long to read, as a hostile one does.</summary>
    private sealed class SlowFile(byte[] content, Task until) : MemoryStream(content)
    {
        public override int Read(byte[] buffer, int offset, int count)
        {
            until.Wait();
            return base.Read(buffer, offset, count);
        }
    }

    [Fact]
    public async Task While_a_statement_is_read_others_write()
    {
        await using var loft = await Loft.OpenAsync();
        var gate = new TaskCompletionSource();
        var taking = Task.Run(() =>
            loft.WithAsync<Statements, TakenIn>(s =>
                s.ReadInAsync(new SlowFile(File(0, Line(100)), gate.Task), "s.xml", loft.Bank)
            )
        );
        await loft.IssuedAsync();
        taking.IsCompleted.ShouldBeFalse();
        gate.SetResult();
        (await taking).Taken.ShouldBe(1);
    }

    [Fact]
    public async Task A_very_long_statement_of_equal_lines_goes_in_once_and_out_again()
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, Line(900));
        var equal = Enumerable.Repeat(Line(100) with { BankReference = "NONREF" }, 8_000).ToArray();
        (await TakeAsync(loft, equal)).Taken.ShouldBe(8_000);
        var again = await TakeAsync(loft, [.. equal, Line(100) with { BankReference = "NONREF" }]);
        (again.Taken, again.Known).ShouldBe((1, 8_000));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        var id = await loft.WithAsync<BooksContext, int>(db =>
            db.BankStatements.OrderBy(s => s.Id).Select(s => s.Id).Skip(1).FirstAsync()
        );
        await loft.WithAsync<Statements>(s => s.TakeOutAsync(id));
        (await loft.WithAsync<BooksContext, int>(db => db.BankLines.CountAsync())).ShouldBe(2);
    }

    [Fact]
    public async Task What_a_line_says_is_kept_word_for_word()
    {
        await using var loft = await Loft.OpenAsync();
        var said = Line(-1_234, "O'Brien; \"quoted\" ✓", "RF18539007547034", "B1", "Ünü ja Co");
        await TakeAsync(loft, said);
        var line = (await ToPlaceAsync(loft)).Single().Line;
        new StatementLine(
            line.Date,
            line.Amount,
            line.Name,
            line.Account,
            line.Text,
            line.Reference,
            line.BankReference
        ).ShouldBe(said);
        (line.AccountId, line.Currency.Code, line.Placed, line.Position).ShouldBe((loft.Bank, "EUR", 0L, 0));
    }

    [Fact]
    public async Task A_statement_that_is_in_one_file_twice_is_taken_once()
    {
        await using var loft = await Loft.OpenAsync();
        var day = Loft.Today.AddDays(-1);
        var one =
            $":20:S\n:25:EE030099220012345678EUR\n:28C:9\n:60F:C{day:yyMMdd}EUR0,00\n:61:{day:yyMMdd}{day:MMdd}C1,00NTRFNONREF//R1\n:61:{day:yyMMdd}{day:MMdd}C2,50NTRFNONREF//NONREF\n:62F:C{day:yyMMdd}EUR3,50\n-\n";
        var taken = await loft.WithAsync<Statements, TakenIn>(s =>
            s.ReadInAsync(System.Text.Encoding.UTF8.GetBytes(one + one), "s.sta", loft.Bank)
        );
        (taken.Statements, taken.Taken, taken.Known).ShouldBe((1, 2, 2));
        var many = System.Text.Encoding.UTF8.GetBytes(string.Concat(Enumerable.Repeat(one, 1_001)));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Statements>(s => s.ReadInAsync(many, "s.sta", loft.Bank))
            )
        ).Message.ShouldContain("1001 statements");
    }

    [Fact]
    public async Task One_sure_line_that_cannot_be_placed_does_not_stop_the_others()
    {
        await using var loft = await Loft.OpenAsync();
        var invoices = new[]
        {
            await loft.IssuedAsync(loft.Content(1, 10, date: Loft.Today.AddDays(-9))),
            await loft.IssuedAsync(loft.Content(1, 20, date: Loft.Today.AddDays(-9))),
        };
        await TakeAsync(
            loft,
            Line(1_240, "", StructuredReference.Of(invoices[0].Number!)),
            Line(2_480, "", StructuredReference.Of(invoices[1].Number!), daysAgo: 0)
        );
        // A line of a day that is yet to come by the books' calendar cannot be booked.
        await loft.ExecuteAsync(
            $"UPDATE BankLines SET Date = '{Loft.Today.AddDays(3):yyyy-MM-dd}' WHERE Amount = 1240"
        );
        var all = await loft.WithAsync<MatchingBench, PlacedAll>(b => b.AcceptAllSureAsync());
        (all.Placed, all.Refused.Single().Contains("yet to come")).ShouldBe((1, true));
        (await ToPlaceAsync(loft)).Single().Line.Amount.ShouldBe(1_240);
    }

    [Fact]
    public async Task Money_between_our_own_accounts_is_booked_once_and_joined_on_the_other_side()
    {
        await using var loft = await Loft.OpenAsync();
        var card = await loft.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Code == "1020").Select(a => a.Id).SingleAsync()
        );
        await TakeAsync(
            loft,
            Line(5_000, "Card payout", name: "Terminal"),
            Line(-2_000, "Cash for the box", name: "Loft")
        );
        var (came, went) = (
            (await ToPlaceAsync(loft)).Single(l => l.Line.Amount > 0).Line,
            (await ToPlaceAsync(loft)).Single(l => l.Line.Amount < 0).Line
        );
        await loft.WithAsync<OwnTransfers>(t => t.PlaceAsync(came.Id, card, 5_000));
        Task<IReadOnlyList<OwnAccount>> Accounts() =>
            loft.WithAsync<MoneyScreens, IReadOnlyList<OwnAccount>>(m => m.AccountsAsync());
        (await Accounts()).Single(a => a.Id == card).Books.ShouldBe(-5_000);
        // The other was entered by hand first: the line is the same money.
        var cash = await loft.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Code == "1010").Select(a => a.Id).SingleAsync()
        );
        await loft.WithAsync<OwnTransfers>(t =>
            t.MakeAsync(new TransferToMake(loft.Bank, cash, 2_000, Loft.Today.AddDays(-2), ""))
        );
        var before = (await Accounts()).Single(a => a.Id == loft.Bank);
        (before.Books, before.ToPlace, before.Bank, before.Unseen).ShouldBe((3_000, -2_000, 3_000, -2_000));
        var proposal = (await loft.WithAsync<MatchingBench, IReadOnlyList<Proposal>>(b => b.ProposeAsync(went.Id)))[0];
        proposal.Why.ShouldContain("between our own accounts");
        await loft.WithAsync<MatchingBench>(b => b.AcceptAsync(went.Id, proposal));
        var bank = (await Accounts()).Single(a => a.Id == loft.Bank);
        (bank.Books, bank.Lines, bank.Unseen, bank.Reconciled).ShouldBe((3_000, 0, 0, Loft.Today.AddDays(-1)));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        // Putting the line back parts the two, and nothing is booked twice or lost.
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(went.Id));
        (await Accounts()).Single(a => a.Id == cash).Books.ShouldBe(2_000);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<OwnTransfers>(t => t.MakeAsync(new TransferToMake(cash, cash, 0, Loft.Today, "")))
            )
        )
            .Refusals.Select(r => r.Field)
            .ShouldBe(["to", "amount"], ignoreOrder: true);
    }

    [Fact]
    public async Task A_line_that_took_a_payment_back_opens_the_invoice_again_and_one_that_paid_back_uses_the_credit()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-9)));
        var item = await loft.ItemOfAsync(invoice.Id);
        var receipt = await loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(
                new ReceiptToPost(loft.Yard, Loft.Today.AddDays(-5), loft.Bank, 12_400, "", [(item.Id, 12_400)])
            )
        );
        var credit = await loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(loft.Yard, Loft.Today.AddDays(-5), loft.Bank, 900, "", []))
        );
        await TakeAsync(loft, Line(-12_400, "returned: AC04"), Line(-900, "too much"));
        var lines = (await ToPlaceAsync(loft)).ToDictionary(l => l.Line.Amount, l => l.Line);
        (await loft.WithAsync<OutgoingLines, IReadOnlyList<MayBeReturned>>(o => o.ReceiptsAsync(lines[-12_400])))
            .Single()
            .ReceiptId.ShouldBe(receipt);
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<OutgoingLines>(o => o.ReturnAsync(lines[-900].Id, receipt, "AC04"))
        );
        await loft.WithAsync<OutgoingLines>(o => o.ReturnAsync(lines[-12_400].Id, receipt, "AC04"));
        (await loft.ItemOfAsync(invoice.Id)).Open.ShouldBe(12_400);
        var there = (
            await loft.WithAsync<OutgoingLines, IReadOnlyList<MayBeRefunded>>(o => o.CreditsAsync(lines[-900]))
        ).Single();
        await loft.WithAsync<OutgoingLines>(o => o.RefundAsync(lines[-900].Id, there.ItemId));
        (await ToPlaceAsync(loft)).ShouldBeEmpty();
        credit.ShouldBePositive();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(lines[-12_400].Id));
        (await loft.ItemOfAsync(invoice.Id)).Open.ShouldBe(0);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }
}
