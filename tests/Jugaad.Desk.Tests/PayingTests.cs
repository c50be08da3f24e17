using System.Text;
using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Paying;
using Jugaad.Core.Trade;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Jugaad.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Payments by card: asked for, told once, twice, late, wrongly; surcharged, paid out, paid back.</summary>
public sealed class PayingTests
{
    private const string Secret = "a key that both sides have";

    private static async Task<Loft> OpenAsync(decimal percent = 0, long @fixed = 0)
    {
        var loft = await Loft.OpenAsync();
        var fees = await loft.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Role == Core.Journal.AccountRole.Other).Select(a => a.Id).FirstAsync()
        );
        await loft.WithAsync<Periods>(p => p.SettleAsync(false, 100, fees));
        await loft.WithAsync<PaySetup>(s => s.SetAsync(new PayingToSet("", true, null, Secret, percent, @fixed, null)));
        return loft;
    }

    private static async Task<int> OwedAsync(Loft loft, decimal price = 50, DraftContent? content = null) =>
        (await loft.ItemOfAsync((await loft.IssuedAsync(content ?? loft.Content(2, price))).Id)).Id;

    /// <summary>Asks for items, as their payer would.</summary>
    /// <returns>The service's name for the payment.</returns>
    private static async Task<string> AskAsync(Loft loft, params int[] items)
    {
        var offer = await loft.WithAsync<PayOffer, PayOfferMade>(o => o.OfAsync(loft.Yard, items));
        var page = await loft.WithAsync<CardRequests, string>(r =>
            r.AskAsync(loft.Yard, items, offer.Total, "/a/token")
        );
        return page.Split('/')[^1];
    }

    private static Task<CardMessage?> PlayAsync(Loft loft, string id, CardNews news = CardNews.Paid) =>
        loft.WithAsync<ICardPage, CardMessage?>(p =>
            Task.FromResult(p.Play(id, news, DateOnly.FromDateTime(loft.Clock.GetLocalNow().Date), Secret))
        );

    private static Task<Taking> TellAsync(Loft loft, CardMessage message) =>
        loft.WithAsync<CardMessages, Taking>(m => m.TakeAsync(message));

    private static async Task PayAsync(Loft loft, params int[] items) =>
        (await TellAsync(loft, (await PlayAsync(loft, await AskAsync(loft, items)))!)).ShouldBe(Taking.Done);

    /// <summary>A message that the service signed, whatever it says.</summary>
    private static CardMessage Signed(string json) =>
        new(Encoding.UTF8.GetBytes(json), CardStandIn.Sign(Encoding.UTF8.GetBytes(json), Secret));

    private static Task<List<Receipt>> ReceiptsAsync(Loft loft) =>
        loft.WithAsync<BooksContext, List<Receipt>>(db => db.Receipts.OrderBy(r => r.Id).ToListAsync());

    private static Task<PayRequest> RequestAsync(Loft loft) =>
        loft.WithAsync<BooksContext, PayRequest>(db =>
            db.PayRequests.Include(r => r.Parts).OrderByDescending(r => r.Id).FirstAsync()
        );

    private static Task<long> OpenAsync(Loft loft, int item) =>
        loft.NumberAsync($"SELECT Open FROM AccountItems WHERE Id = {item}");

    private static async Task AgreesAsync(Loft loft) => (await loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task A_payment_becomes_one_receipt_in_card_clearing_set_against_what_was_chosen_and_confirmed_by_mail()
    {
        await using var loft = await OpenAsync();
        var (one, two, other) = (await OwedAsync(loft), await OwedAsync(loft, 10), await OwedAsync(loft, 7));
        var id = await AskAsync(loft, one, two);
        var message = (await PlayAsync(loft, id))!;
        (await TellAsync(loft, message)).ShouldBe(Taking.Done);
        (await TellAsync(loft, message)).ShouldBe(Taking.Known);
        var receipt = (await ReceiptsAsync(loft)).ShouldHaveSingleItem();
        receipt.Amount.ShouldBe(124_00 + 24_80);
        receipt.Reference.ShouldBe(id);
        (await OpenAsync(loft, one)).ShouldBe(0);
        (await OpenAsync(loft, two)).ShouldBe(0);
        (await OpenAsync(loft, other)).ShouldBe(17_36);
        (
            await loft.NumberAsync(
                $"SELECT SUM(Debit - Credit) FROM JournalLines WHERE AccountId = {receipt.MoneyAccountId}"
            )
        ).ShouldBe(148_80);
        (await loft.NumberAsync("SELECT COUNT(*) FROM Post WHERE Subject LIKE 'We received 148.80%'")).ShouldBe(1);
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task A_wrong_signature_does_nothing_and_what_is_told_again_with_the_right_one_counts()
    {
        await using var loft = await OpenAsync();
        var message = (await PlayAsync(loft, await AskAsync(loft, await OwedAsync(loft))))!;
        foreach (var wrong in new[] { "", "00", new string('0', 64), CardStandIn.Sign(message.Body, "another key") })
            (
                await Should.ThrowAsync<RefusalException>(() => TellAsync(loft, message with { Signature = wrong }))
            ).Message.ShouldContain("signature");
        var changed = Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(message.Body).Replace("12400", "1"));
        await Should.ThrowAsync<RefusalException>(() => TellAsync(loft, message with { Body = changed }));
        (await ReceiptsAsync(loft)).ShouldBeEmpty();
        (await TellAsync(loft, message)).ShouldBe(Taking.Done);
        await AgreesAsync(loft);
    }

    [Theory]
    [InlineData(
        """{"key":"K1","news":"Paid","about":"ID","amount":12399,"currency":"EUR","day":"2025-09-17"}""",
        "123.99 EUR was paid where 124.00 EUR was asked for"
    )]
    [InlineData(
        """{"key":"K1","news":"Paid","about":"ID","amount":12400,"currency":"SEK","day":"2025-09-17"}""",
        "124.00 SEK was paid"
    )]
    [InlineData(
        """{"key":"K1","news":"Paid","about":"nobody","amount":12400,"currency":"EUR","day":"2025-09-17"}""",
        "never asked for"
    )]
    [InlineData(
        """{"key":"K1","news":"PaidBack","about":"ID","amount":12400,"currency":"EUR","day":"2025-09-17"}""",
        "not from here"
    )]
    [InlineData(
        """{"key":"K1","news":"PaidOut","about":"KM1","amount":100,"currency":"EUR","day":"2025-09-17","parts":[{"about":"nobody","amount":125,"fee":25}]}""",
        "never asked for"
    )]
    public async Task What_does_not_fit_books_nothing_and_somebody_is_told(string json, string why)
    {
        await using var loft = await OpenAsync();
        var id = await AskAsync(loft, await OwedAsync(loft));
        (await TellAsync(loft, Signed(json.Replace("ID", id)))).ShouldBe(Taking.Problem);
        (await ReceiptsAsync(loft)).ShouldBeEmpty();
        var problem = (
            await loft.WithAsync<CardMessages, IReadOnlyList<CardCall>>(m => m.ProblemsAsync())
        ).ShouldHaveSingleItem();
        problem.Problem.ShouldContain(why);
        await loft.WithAsync<CardMessages>(m => m.SeeToAsync(problem.Id));
        (await loft.WithAsync<CardMessages, IReadOnlyList<CardCall>>(m => m.ProblemsAsync())).ShouldBeEmpty();
        // What was really paid still counts.
        (await TellAsync(loft, (await PlayAsync(loft, id))!)).ShouldBe(Taking.Done);
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task News_out_of_order_never_takes_back_what_was_paid()
    {
        await using var loft = await OpenAsync();
        var id = await AskAsync(loft, await OwedAsync(loft));
        var declined = (await PlayAsync(loft, id, CardNews.Declined))!;
        var left = (await PlayAsync(loft, id, CardNews.Left))!;
        var paid = (await PlayAsync(loft, id))!;
        (await PlayAsync(loft, id)).ShouldBeNull("what is paid is paid");
        await TellAsync(loft, paid);
        await TellAsync(loft, declined);
        await TellAsync(loft, left);
        (await RequestAsync(loft)).State.ShouldBe(PayState.Paid);
        (await ReceiptsAsync(loft)).Count.ShouldBe(1);
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task What_was_paid_otherwise_meanwhile_leaves_the_money_as_credit()
    {
        await using var loft = await OpenAsync();
        var item = await OwedAsync(loft);
        var id = await AskAsync(loft, item);
        await loft.ReceiveAsync(100_00, (item, 100_00));
        await TellAsync(loft, (await PlayAsync(loft, id))!);
        (await OpenAsync(loft, item)).ShouldBe(0);
        (await loft.NumberAsync("SELECT Open FROM AccountItems WHERE ReceiptId = 2")).ShouldBe(100_00);
        await AgreesAsync(loft);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<CardRequests, string>(r => r.AskAsync(loft.Yard, [item], 124_00, ""))
            )
        ).Message.ShouldContain("paid already");
    }

    [Fact]
    public async Task Nobody_pays_another_amount_than_they_saw_nor_what_is_somebody_elses()
    {
        await using var loft = await OpenAsync();
        var item = await OwedAsync(loft);
        var swedish = await OwedAsync(loft, 50, loft.Content(2, 50, loft.Swede));
        await loft.ReceiveAsync(1_00, (item, 1_00));
        Task<string> Ask(int customer, int[] items, long seen) =>
            loft.WithAsync<CardRequests, string>(r => r.AskAsync(customer, items, seen, ""));
        (await Should.ThrowAsync<RefusalException>(() => Ask(loft.Yard, [item], 124_00))).Message.ShouldContain(
            "changed while"
        );
        await Should.ThrowAsync<RefusalException>(() => Ask(loft.Yard, [swedish], 124_00));
        (await Should.ThrowAsync<RefusalException>(() => Ask(loft.Swede, [swedish], 124_00))).Message.ShouldContain(
            "cannot be paid by card"
        );
        (await loft.NumberAsync("SELECT COUNT(*) FROM PayRequests")).ShouldBe(0);
    }

    [Fact]
    public async Task A_surcharge_is_a_debit_note_taxed_as_the_invoice_and_the_invoice_stays_as_it_was()
    {
        await using var loft = await OpenAsync(2.5m, 30);
        var reduced = await loft.WithAsync<BooksContext, int>(db =>
            db.TaxCodes.Where(c => c.Id != loft.Std).OrderBy(c => c.Id).Select(c => c.Id).FirstOrDefaultAsync()
        );
        var content = loft.Content() with
        {
            Lines =
            [
                new DraftLine(null, "Repair", 2, "HUR", 50, null, null, loft.Std, loft.Sales),
                new DraftLine(null, "Other", 1, "C62", 20, null, null, reduced, loft.Sales),
            ],
        };
        var invoice = await loft.IssuedAsync(content);
        var item = await loft.ItemOfAsync(invoice.Id);
        var plain = await OwedAsync(loft, 10);
        var offer = await loft.WithAsync<PayOffer, PayOfferMade>(o => o.OfAsync(loft.Yard, [item.Id, plain]));
        offer.Surcharge.ShouldBe(new Surcharge(2.5m, 30).On(item.Amount + 24_80));
        await PayAsync(loft, item.Id, plain);
        var notes = await loft.WithAsync<BooksContext, List<Document>>(db =>
            db.Documents.Include(d => d.Taxes).Where(d => d.Kind == DocumentKind.DebitNote).ToListAsync()
        );
        notes.Count.ShouldBe(2);
        notes.Sum(n => n.Payable).ShouldBe(offer.Surcharge);
        notes.ShouldAllBe(n => n.State == DocumentState.Settled);
        var note = notes.Single(n => n.FromDocumentId == invoice.Id);
        note.Taxes.Select(t => t.Treatment).Distinct().Count().ShouldBe(2);
        (await loft.DocumentAsync(invoice.Id)).Payable.ShouldBe(invoice.Payable);
        (await OpenAsync(loft, item.Id)).ShouldBe(0);
        (await ReceiptsAsync(loft)).Single().Amount.ShouldBe(offer.Total);
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task A_surcharge_bears_the_invoices_rate_also_after_it_changed()
    {
        await using var loft = await OpenAsync(10);
        var item = await OwedAsync(loft);
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", Loft.Today.AddDays(1), 50));
        loft.Clock.Advance(TimeSpan.FromDays(3));
        await PayAsync(loft, item);
        var tax = await loft.NumberAsync("SELECT Tax FROM Documents WHERE Kind = 'DebitNote' AND Payable = 1240");
        tax.ShouldBe(240, "24 percent within 12.40");
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task Consumers_pay_no_surcharge_in_the_union()
    {
        await using var loft = await OpenAsync(2.5m, 30);
        await loft.ExecuteAsync($"UPDATE Customers SET Kind = {(int)CustomerKind.Consumer} WHERE Id = {loft.Yard}");
        var item = await OwedAsync(loft);
        (await loft.WithAsync<PayOffer, PayOfferMade>(o => o.OfAsync(loft.Yard, [item]))).Surcharge.ShouldBe(0);
        (await loft.WithAsync<PayOffer, Surcharge>(o => o.SurchargeOfAsync(loft.Yard))).ShouldBe(Surcharge.None);
    }

    [Fact]
    public async Task A_payout_is_matched_to_its_payments_at_the_bank_and_the_fee_is_booked()
    {
        await using var loft = await OpenAsync();
        var (one, two) = (await OwedAsync(loft), await OwedAsync(loft, 10));
        await PayAsync(loft, one);
        await PayAsync(loft, two);
        (await loft.WithAsync<CardMessages, int>(m => m.CatchUpAsync())).ShouldBe(0, "nothing is paid out yet");
        loft.Clock.Advance(TimeSpan.FromDays(2));
        (await loft.WithAsync<CardMessages, int>(m => m.CatchUpAsync())).ShouldBe(1);
        (await loft.WithAsync<CardMessages, int>(m => m.CatchUpAsync())).ShouldBe(0);
        var payout = (
            await loft.WithAsync<CardPayouts, IReadOnlyList<CardPayout>>(p => p.OnTheWayAsync())
        ).ShouldHaveSingleItem();
        payout.Gross.ShouldBe(148_80);
        payout.Fees.ShouldBe(1_74 + 25 + 35 + 25);
        var line = await BankLineAsync(loft, payout.Net, $"Payout {payout.Reference}");
        var proposal = (
            await loft.WithAsync<MatchingBench, IReadOnlyList<Core.Matching.Proposal>>(b => b.ProposeAsync(line))
        ).ShouldHaveSingleItem();
        proposal.Certainty.ShouldBe(Core.Matching.Certainty.Sure);
        await loft.WithAsync<MatchingBench>(b => b.AcceptAsync(line, proposal));
        var clearing = (await ReceiptsAsync(loft))[0].MoneyAccountId;
        Task<long> On(int account) =>
            loft.NumberAsync($"SELECT SUM(Debit - Credit) FROM JournalLines WHERE AccountId = {account}");
        (await On(clearing)).ShouldBe(0);
        (await On(loft.Bank)).ShouldBe(payout.Net);
        (await loft.WithAsync<CardPayouts, IReadOnlyList<CardPayout>>(p => p.OnTheWayAsync())).ShouldBeEmpty();
        await AgreesAsync(loft);
        // Put back and placed again, it is the same.
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(line));
        (await On(clearing)).ShouldBe(148_80);
        await AgreesAsync(loft);
        (await loft.WithAsync<MatchingBench, PlacedAll>(b => b.AcceptAllSureAsync())).Placed.ShouldBe(1);
        (await On(clearing)).ShouldBe(0);
        await AgreesAsync(loft);
    }

    private static async Task<int> BankLineAsync(Loft loft, long amount, string text)
    {
        await loft.WithAsync<BooksContext>(async db =>
        {
            var euro = Core.Amounts.Currency.Of("EUR");
            var day = Loft.Today.AddDays(2);
            var statement = new BankStatementOf(loft.Bank, euro, day, amount, text).Made;
            db.BankStatements.Add(statement);
            await db.SaveChangesAsync();
        });
        return (int)await loft.NumberAsync("SELECT MAX(Id) FROM BankLines");
    }

    /// <summary>A statement with one line.</summary>
    private sealed record BankStatementOf(
        int Account,
        Core.Amounts.Currency Currency,
        DateOnly Day,
        long Amount,
        string Text
    )
    {
        public Core.Banking.BankStatement Made
        {
            get
            {
                var line = new Core.Banking.StatementLine(Day, Amount, "Card company", "", Text, "", "B1");
                var file = new Core.Banking.StatementFile("", Currency, "1", Day, Day, 0, Amount, [line], []);
                var statement = new Core.Banking.BankStatement(Account, file, "f.xml", Day, "");
                statement.Add(new Core.Banking.BankLine(Account, 1, line, Currency));
                return statement;
            }
        }
    }

    [Fact]
    public async Task A_payout_told_before_its_payment_waits_for_it()
    {
        await using var loft = await OpenAsync();
        var id = await AskAsync(loft, await OwedAsync(loft));
        var paid = (await PlayAsync(loft, id))!;
        var payout = Signed(
            $$"""{"key":"KM9","news":"PaidOut","about":"KM9","amount":12200,"currency":"EUR","day":"2025-09-17","parts":[{"about":"{{id}}","amount":12400,"fee":200}]}"""
        );
        (await TellAsync(loft, payout)).ShouldBe(Taking.Later);
        await TellAsync(loft, paid);
        (await TellAsync(loft, payout)).ShouldBe(Taking.Done);
        await AgreesAsync(loft);
        var again = Signed(
            $$"""{"key":"KM8","news":"PaidOut","about":"KM8","amount":12200,"currency":"EUR","day":"2025-09-17","parts":[{"about":"{{id}}","amount":12400,"fee":200}]}"""
        );
        (await TellAsync(loft, again)).ShouldBe(Taking.Problem);
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task What_goes_back_to_the_card_is_no_more_than_was_paid_and_leaves_the_clearing_account()
    {
        await using var loft = await OpenAsync();
        var item = await OwedAsync(loft);
        var id = await AskAsync(loft, item);
        await loft.ReceiveAsync(124_00, (item, 124_00));
        await TellAsync(loft, (await PlayAsync(loft, id))!);
        var receipt = (await ReceiptsAsync(loft))[^1].Id;
        await loft.WithAsync<CardPayingBack>(p => p.PayAsync(receipt, 24_00));
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<CardPayingBack>(p => p.PayAsync(receipt, 124_00))
        );
        await loft.WithAsync<CardPayingBack>(p => p.PayAsync(receipt, null));
        (await loft.NumberAsync($"SELECT Open FROM AccountItems WHERE ReceiptId = {receipt}")).ShouldBe(0);
        (await loft.WithAsync<CardMessages, int>(m => m.CatchUpAsync())).ShouldBe(2, "the service tells of both");
        (await loft.WithAsync<CardMessages, IReadOnlyList<CardCall>>(m => m.ProblemsAsync())).ShouldBeEmpty();
        await AgreesAsync(loft);
        foreach (var booking in new[] { "Receipts WHERE Id = " + receipt, "Refunds" })
        {
            var id2 = (int)await loft.NumberAsync($"SELECT BookingId FROM {booking} LIMIT 1");
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Undoing>(u => u.UndoAsync(id2)));
        }
    }

    [Fact]
    public async Task What_was_paid_back_before_the_program_stopped_is_booked_as_it_was_and_never_twice()
    {
        await using var loft = await OpenAsync();
        var item = await OwedAsync(loft);
        var id = await AskAsync(loft, item);
        await loft.ReceiveAsync(124_00, (item, 124_00));
        await TellAsync(loft, (await PlayAsync(loft, id))!);
        var receipt = (await ReceiptsAsync(loft))[^1].Id;
        var request = await loft.WithAsync<BooksContext, PayRequest>(db => db.PayRequests.AsNoTracking().SingleAsync());
        // The service did it, and the program ended before it was booked.
        var name = await loft.WithAsync<ICardService, string>(s =>
            s.PayBackAsync(request.ServiceId, 10_00, $"{request.Key}-1", Loft.Today, "", default)
        );
        Task<int> BackAsync(long amount) => loft.WithAsync<CardPayingBack, int>(p => p.PayAsync(receipt, amount));
        (await Should.ThrowAsync<RefusalException>(() => BackAsync(8_00))).Message.ShouldContain(
            "10.00 EUR was paid back"
        );
        (await loft.NumberAsync("SELECT COUNT(*) FROM Refunds")).ShouldBe(0);
        await BackAsync(10_00);
        (
            await loft.WithAsync<BooksContext, string>(async db =>
                (await db.PayRequests.AsNoTracking().Include(r => r.Refunds).SingleAsync()).Refunds.Single().ServiceId
            )
        ).ShouldBe(name);
        await loft.WithAsync<CardMessages, int>(m => m.CatchUpAsync());
        (await loft.WithAsync<CardMessages, IReadOnlyList<CardCall>>(m => m.ProblemsAsync())).ShouldBeEmpty();
        await BackAsync(8_00);
        (await loft.NumberAsync("SELECT SUM(Amount) FROM Refunds")).ShouldBe(18_00);
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task A_cancelled_invoice_that_was_paid_by_card_leaves_credit_and_its_surcharge_can_be_credited()
    {
        await using var loft = await OpenAsync(2.5m, 30);
        var invoice = await loft.IssuedAsync();
        var item = await loft.ItemOfAsync(invoice.Id);
        await PayAsync(loft, item.Id);
        await loft.WithAsync<Credits>(c => c.CancelAsync(invoice.Id, "wrong"));
        await AgreesAsync(loft);
        var note = (int)await loft.NumberAsync("SELECT Id FROM Documents WHERE Kind = 'DebitNote'");
        await loft.WithAsync<Credits>(c => c.CancelAsync(note, "with it"));
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task What_was_cancelled_before_it_was_paid_leaves_all_of_the_money_as_credit_and_says_so()
    {
        await using var loft = await OpenAsync(2.5m, 30);
        var invoice = await loft.IssuedAsync();
        var id = await AskAsync(loft, (await loft.ItemOfAsync(invoice.Id)).Id);
        await loft.WithAsync<Credits>(c => c.CancelAsync(invoice.Id, "wrong"));
        (await TellAsync(loft, (await PlayAsync(loft, id))!)).ShouldBe(Taking.Problem);
        var receipt = (await ReceiptsAsync(loft)).ShouldHaveSingleItem();
        (await loft.NumberAsync("SELECT Open FROM AccountItems WHERE ReceiptId = 1")).ShouldBe(receipt.Amount);
        (await loft.WithAsync<CardMessages, IReadOnlyList<CardCall>>(m => m.ProblemsAsync()))
            .Single()
            .Problem.ShouldContain("Pay it back");
        await AgreesAsync(loft);
        await loft.WithAsync<CardPayingBack>(p => p.PayAsync(receipt.Id, null));
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task What_was_paid_and_cannot_be_booked_is_told_to_somebody()
    {
        await using var loft = await OpenAsync(2.5m, 30);
        var id = await AskAsync(loft, await OwedAsync(loft));
        await loft.ExecuteAsync($"UPDATE Customers SET Inactive = 1 WHERE Id = {loft.Yard}");
        (await TellAsync(loft, (await PlayAsync(loft, id))!)).ShouldBe(Taking.Problem);
        var problem = (await loft.WithAsync<CardMessages, IReadOnlyList<CardCall>>(m => m.ProblemsAsync())).Single();
        problem.Problem.ShouldContain("could not be booked");
        problem.Problem.ShouldContain("inactive");
        (await ReceiptsAsync(loft)).ShouldBeEmpty();
        // Nor does its payout wait for ever without a word.
        var payout = Signed(
            $$"""{"key":"KM7","news":"PaidOut","about":"KM7","amount":12000,"currency":"EUR","day":"2025-09-17","parts":[{"about":"{{id}}","amount":12740,"fee":740}]}"""
        );
        (await TellAsync(loft, payout)).ShouldBe(Taking.Problem);
        (await loft.NumberAsync("SELECT COUNT(*) FROM Documents WHERE Kind = 'DebitNote'")).ShouldBe(
            0,
            "nothing is left half done"
        );
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task Two_customers_who_are_merged_keep_one_page_and_their_payments()
    {
        await using var loft = await OpenAsync();
        var other = await loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(null, 0, new CustomerDetails { Name = "Yard again", Currency = "EUR" })
        );
        var item = await OwedAsync(loft, 50, loft.Content(2, 50, other));
        foreach (var who in new[] { loft.Yard, other })
            await loft.WithAsync<Papers.CustomerLinks, string>(l => l.AccountAddressAsync(who));
        var id = (await loft.WithAsync<CardRequests, string>(r => r.AskAsync(other, [item], 124_00, ""))).Split('/')[
            ^1
        ];
        await loft.WithAsync<CustomersDesk>(c => c.MergeAsync(loft.Yard, other));
        (await loft.NumberAsync("SELECT COUNT(*) FROM AccountLinks")).ShouldBe(1);
        (await TellAsync(loft, (await PlayAsync(loft, id))!)).ShouldBe(Taking.Done);
        (await OpenAsync(loft, item)).ShouldBe(0);
        await AgreesAsync(loft);
    }

    [Fact]
    public async Task Where_cards_are_not_taken_nothing_is_told_and_nothing_taken()
    {
        await using var loft = await Loft.OpenAsync();
        await Should.ThrowAsync<RefusalException>(() => TellAsync(loft, Signed("{}")));
        (await loft.WithAsync<CardMessages, int>(m => m.CatchUpAsync())).ShouldBe(0);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<PaySetup>(s => s.SetAsync(new PayingToSet("", true, null, "short", 20, 0, 999)))
            )
        )
            .Refusals.Select(r => r.Field)
            .ShouldBe(["secret", "surchargeAccount", "surchargePercent"], true);
    }

    /// <summary>Books with a payment of two items, its surcharge, a refund, a payout and its line.</summary>
    private static async Task<Loft> RichAsync()
    {
        var loft = await OpenAsync(2.5m, 30);
        var (one, two) = (await OwedAsync(loft), await OwedAsync(loft, 10));
        var id = await AskAsync(loft, one, two);
        await loft.ReceiveAsync(24_80, (two, 24_80));
        await TellAsync(loft, (await PlayAsync(loft, id))!);
        await TellAsync(loft, (await PlayAsync(loft, await AskAsync(loft, await OwedAsync(loft, 7)), CardNews.Left))!);
        await loft.WithAsync<CardPayingBack>(p => p.PayAsync((int)2, 4_00));
        await TellAsync(
            loft,
            Signed("""{"key":"ODD","news":"Paid","about":"nobody","amount":1,"currency":"EUR","day":"2025-09-17"}""")
        );
        loft.Clock.Advance(TimeSpan.FromDays(2));
        await loft.WithAsync<CardMessages>(m => m.CatchUpAsync());
        var payout = (await loft.WithAsync<CardPayouts, IReadOnlyList<CardPayout>>(p => p.OnTheWayAsync()))[0];
        await BankLineAsync(loft, payout.Net, payout.Reference);
        await loft.WithAsync<MatchingBench>(b => b.AcceptAllSureAsync());
        await AgreesAsync(loft);
        return loft;
    }

    [Fact]
    public async Task Whatever_is_damaged_of_card_payments_is_found()
    {
        await using var loft = await RichAsync();
        (string Damage, string Undo)[] damages =
        [
            Of("PayRequests", "Amount", "Amount + 1"),
            Of("PayRequests", "Surcharge", "Surcharge + 1"),
            Of("PayRequests", "CustomerId", $"{loft.Swede}"),
            Of("PayRequests", "Currency", "'SEK'"),
            Of("PayRequests", "MadeOn", "'2020-01-01'"),
            Of("PayRequests", "State", "'Declined'"),
            Of("PayRequests", "ReceiptId", "NULL"),
            Of("PayRequests", "ReceiptId", "1"),
            Of("PayRequests", "ServiceId", "'another'"),
            Of("PayRequests", "Key", "''"),
            Of("PayRequestParts", "Amount", "Amount + 1"),
            Of("PayRequestParts", "Surcharge", "Surcharge + 1"),
            Of("PayRequestParts", "ChargedOnId", "NULL"),
            Of("PayRequestParts", "ChargedOnId", "1"),
            Of("CardRefunds", "Amount", "Amount - 1"),
            Of("CardRefunds", "BookingId", "1"),
            Of("CardRefunds", "ServiceId", "''"),
            Of("CardPayouts", "Gross", "Gross + 1"),
            Of("CardPayouts", "Fees", "Fees + 1"),
            Of("CardPayouts", "Reference", "'another'"),
            Of("CardPayouts", "BookingId", "1"),
            Of("CardPayouts", "Day", "'2020-01-01'"),
            Of("CardPayoutParts", "Amount", "Amount + 1"),
            Of("CardPayoutParts", "Fee", "Fee + 1"),
            Of("CardPayoutParts", "RequestId", "2"),
            Of("CardCalls", "News", "'nothing'"),
            Of("CardCalls", "About", "'another'"),
            Of("CardCalls", "Key", "''", "Id = 1"),
            Of("CardCalls", "Problem", "'a problem'"),
            Of("CardCalls", "SeenToOn", "'2020-01-01'", "Problem <> ''"),
        ];
        foreach (var (damage, undo) in damages)
        {
            await loft.ExecuteAsync("PRAGMA foreign_keys = OFF; CREATE TABLE Kept AS SELECT * FROM " + undo);
            await loft.ExecuteAsync("PRAGMA foreign_keys = OFF; " + damage);
            (await loft.CheckAsync()).Differences.ShouldNotBeEmpty(damage);
            await loft.ExecuteAsync(
                $"PRAGMA foreign_keys = OFF; DELETE FROM {undo}; INSERT INTO {undo} SELECT * FROM Kept; DROP TABLE Kept"
            );
        }

        await AgreesAsync(loft);
    }

    private static (string Damage, string Undo) Of(string table, string column, string value, string where = "") =>
        (
            $"UPDATE {table} SET {column} = {value} WHERE {(where.Length > 0 ? where : $"rowid = (SELECT MIN(rowid) FROM {table})")}",
            table
        );
}
