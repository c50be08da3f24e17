using Jugaad.Core;
using Jugaad.Core.Accounts;
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

/// <summary>Refunds on their way to the bank, and money that goes out seen there again.</summary>
public sealed class PaymentFileTests
{
    private const string Theirs = "EE471000001020145685";

    private static async Task<int> RefundAsync(Loft loft, long amount)
    {
        var receipt = await loft.ReceiveAsync(amount);
        var credit = await loft.WithAsync<BooksContext, int>(db =>
            db.AccountItems.Where(i => i.ReceiptId == receipt).Select(i => i.Id).SingleAsync()
        );
        return await loft.WithAsync<Refunds, int>(r =>
            r.PayAsync(
                new RefundToPay(credit, null, loft.Bank, Loft.Today, new Payee("Yard OÜ", Theirs), "what was over")
            )
        );
    }

    private static async Task GiveIbanAsync(Loft loft)
    {
        var account = await loft.WithAsync<BooksContext, LedgerAccount>(db =>
            db.LedgerAccounts.AsNoTracking().SingleAsync(a => a.Id == loft.Bank)
        );
        await loft.WithAsync<AccountsDesk>(a =>
            a.SaveAccountAsync(
                loft.Bank,
                new AccountDetails
                {
                    Code = account.Code,
                    Name = account.Name,
                    Role = account.Role,
                    Kind = account.Kind,
                    Iban = "EE382200221020145685",
                }
            )
        );
    }

    private static Task<int> MakeAsync(Loft loft, params int[] refunds) =>
        loft.WithAsync<PaymentFiles, int>(f => f.MakeAsync(refunds, Loft.Today));

    [Fact]
    public async Task Refunds_go_into_one_file_once_and_wait_again_when_it_is_taken_back()
    {
        await using var loft = await Loft.OpenAsync();
        int[] refunds = [await RefundAsync(loft, 5_000), await RefundAsync(loft, 7_001)];
        (await Should.ThrowAsync<RefusalException>(() => MakeAsync(loft, refunds))).Message.ShouldContain(
            "has no IBAN"
        );
        await GiveIbanAsync(loft);
        var file = await loft.WithAsync<PaymentFiles, PaymentFile?>(async f =>
            await f.FindAsync(await f.MakeAsync(refunds, Loft.Today))
        );
        (file!.Count, file.Total, file.Reference).ShouldBe((2, 12_001, "PAY-20250917-1"));
        System.Text.Encoding.UTF8.GetString(file.Content).ShouldContain("<CtrlSum>120.01</CtrlSum>");
        (await loft.WithAsync<PaymentFiles, IReadOnlyList<RefundWaiting>>(f => f.WaitingAsync())).ShouldBeEmpty();
        (await Should.ThrowAsync<RefusalException>(() => MakeAsync(loft, refunds))).Message.ShouldContain(
            "in a file already"
        );
        var booking = await loft.WithAsync<BooksContext, int>(db =>
            db.Refunds.OrderBy(r => r.Id).Select(r => r.BookingId).FirstAsync()
        );
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Undoing>(u => u.UndoAsync(booking)))
        ).Message.ShouldContain("PAY-20250917-1");
        await loft.WithAsync<PaymentFiles>(f => f.TakeBackAsync(file.Id));
        (await loft.WithAsync<PaymentFiles, IReadOnlyList<RefundWaiting>>(f => f.WaitingAsync())).Count.ShouldBe(2);
        await loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
        (await MakeAsync(loft, refunds[1])).ShouldBeGreaterThan(file.Id);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Nothing_and_a_day_that_has_gone_are_refused()
    {
        await using var loft = await Loft.OpenAsync();
        await GiveIbanAsync(loft);
        (await Should.ThrowAsync<RefusalException>(() => MakeAsync(loft))).Message.ShouldContain("Tick");
        var refund = await RefundAsync(loft, 100);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<PaymentFiles>(f => f.MakeAsync([refund], Loft.Today.AddDays(-1)))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("payOn");
    }

    private static async Task<BankLine> LineAsync(Loft loft, long amount, string text)
    {
        var file = CamtWriter.Write(
            "EE030099220012345678",
            Core.Amounts.Currency.Of("EUR"),
            "009",
            Loft.Today.AddDays(-3),
            Loft.Today,
            0,
            [new StatementLine(Loft.Today, amount, "Yard OÜ", Theirs, text, "", $"B{amount}")]
        );
        await loft.WithAsync<Statements>(s => s.ReadInAsync(file, "s.xml", loft.Bank));
        return await loft.WithAsync<BooksContext, BankLine>(db =>
            db.BankLines.AsNoTracking().OrderByDescending(l => l.Id).FirstAsync()
        );
    }

    [Fact]
    public async Task A_refund_seen_at_the_bank_is_joined_and_nothing_is_booked_twice()
    {
        await using var loft = await Loft.OpenAsync();
        var refund = await RefundAsync(loft, 5_000);
        var line = await LineAsync(loft, -5_000, "REF-2025-0001");
        var entries = await loft.WithAsync<BooksContext, int>(db => db.Journal.CountAsync());
        var best = (await loft.WithAsync<MatchingBench, IReadOnlyList<BenchLine>>(b => b.ToPlaceAsync()))
            .Single()
            .Proposals[0];
        (best.Certainty, best.JoinsBookingId is not null).ShouldBe((Certainty.Sure, true));
        (await loft.WithAsync<MatchingBench, PlacedAll>(b => b.AcceptAllSureAsync())).Placed.ShouldBe(1);
        (await loft.WithAsync<BooksContext, int>(db => db.Journal.CountAsync())).ShouldBe(entries);
        (
            await loft.WithAsync<BooksContext, long>(db =>
                db.BankLines.Where(l => l.Id == line.Id).Select(l => l.Placed).SingleAsync()
            )
        ).ShouldBe(-5_000);
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<MatchingBench>(b => b.JoinGoneAsync(line.Id, best.JoinsBookingId!.Value))
        );
        // Put back, it is to be placed again, and the refund stands.
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(line.Id));
        (
            await loft.WithAsync<BooksContext, bool>(db =>
                db.Refunds.AnyAsync(r => r.Id == refund && r.Booking!.UndoneOn == null)
            )
        ).ShouldBeTrue();
        await loft.WithAsync<MatchingBench>(b => b.AcceptAllSureAsync());
        await loft.WithAsync<Undoing>(u => u.UndoAsync(best.JoinsBookingId!.Value));
        (
            await loft.WithAsync<BooksContext, long>(db =>
                db.BankLines.Where(l => l.Id == line.Id).Select(l => l.Placed).SingleAsync()
            )
        ).ShouldBe(0, "what was undone is to be placed anew");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_file_whose_money_was_seen_at_the_bank_is_not_taken_back()
    {
        await using var loft = await Loft.OpenAsync();
        await GiveIbanAsync(loft);
        var file = await MakeAsync(loft, await RefundAsync(loft, 5_000));
        var statement = CamtWriter.Write(
            "EE382200221020145685",
            Core.Amounts.Currency.Of("EUR"),
            "009",
            Loft.Today.AddDays(-3),
            Loft.Today,
            0,
            [new StatementLine(Loft.Today, -5_000, "Yard OÜ", Theirs, "REF-2025-0001", "", "B1")]
        );
        await loft.WithAsync<Statements>(s => s.ReadInAsync(statement, "s.xml", loft.Bank));
        (await loft.WithAsync<MatchingBench, PlacedAll>(b => b.AcceptAllSureAsync())).Placed.ShouldBe(1);
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<PaymentFiles>(f => f.TakeBackAsync(file)))
        ).Message.ShouldContain("REF-2025-0001");
    }

    [Fact]
    public async Task A_refund_in_another_currency_is_known_again_by_what_it_is_worth_at_home()
    {
        await using var loft = await Loft.OpenAsync();
        var receipt = await loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(loft.Swede, Loft.Today, loft.Bank, 10_000, "", []))
        );
        var credit = await loft.WithAsync<BooksContext, int>(db =>
            db.AccountItems.Where(i => i.ReceiptId == receipt).Select(i => i.Id).SingleAsync()
        );
        await loft.WithAsync<Refunds>(r =>
            r.PayAsync(new RefundToPay(credit, null, loft.Bank, Loft.Today, new Payee("Varv AB", Theirs), "back"))
        );
        // 100.00 SEK at 0.0901 is 9.01 EUR.
        await LineAsync(loft, -901, "REF-2025-0001");
        (await loft.WithAsync<MatchingBench, PlacedAll>(b => b.AcceptAllSureAsync())).Placed.ShouldBe(1);
    }

    [Fact]
    public async Task A_returned_payment_seen_at_the_bank_is_joined()
    {
        await using var loft = await Loft.OpenAsync();
        var receipt = await loft.ReceiveAsync(4_000);
        await loft.WithAsync<Returns>(r => r.ReturnAsync(receipt, Loft.Today, "no cover"));
        await LineAsync(loft, -4_000, "RCT-2025-0001 returned");
        (await loft.WithAsync<MatchingBench, PlacedAll>(b => b.AcceptAllSureAsync())).Placed.ShouldBe(1);
    }

    [Fact]
    public async Task A_fee_kept_of_the_money_is_booked_and_put_back_with_it()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
        var line = await LineAsync(loft, 12_226, invoice.Number);
        var before = await loft.PictureAsync();
        var proposal = (
            await loft.WithAsync<MatchingBench, IReadOnlyList<Proposal>>(b => b.ProposeAsync(line.Id))
        ).First(p => p.Fee == 174);
        await loft.WithAsync<MatchingBench>(b => b.AcceptAsync(line.Id, proposal));
        (await loft.ItemOfAsync(invoice.DocumentId!.Value)).Open.ShouldBe(0);
        var sums = await loft.WithAsync<BooksContext, Dictionary<string, long>>(async db =>
            await (
                from l in db.Set<JournalLine>()
                join a in db.LedgerAccounts on l.AccountId equals a.Id
                group l by a.Code into g
                select new { g.Key, Sum = g.Sum(x => x.Debit - x.Credit) }
            ).ToDictionaryAsync(g => g.Key, g => g.Sum)
        );
        (sums["1000"], sums["4950"], sums["1200"]).ShouldBe((12_226, 174, 0));
        var fee = await loft.WithAsync<BooksContext, int>(db =>
            db.Bookings.Where(b => b.Kind == BookingKind.OtherMoney).Select(b => b.Id).SingleAsync()
        );
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Undoing>(u => u.UndoAsync(fee)))
        ).Message.ShouldContain("Put the line back");
        await loft.WithAsync<MatchingBench>(b => b.PutBackAsync(line.Id));
        (await loft.PictureAsync()).ShouldBe(before);
        await loft.WithAsync<Periods>(p => p.SettleAsync(false, 100, null));
        (await loft.WithAsync<MatchingBench, IReadOnlyList<Proposal>>(b => b.ProposeAsync(line.Id))).ShouldAllBe(
            p => p.Fee == 0,
            "without an account for fees none is proposed"
        );
    }
}
