using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// What goes wrong with money, one action each: it leaves balanced entries, and undoing it gives back what was before.
/// </summary>
public sealed class MishapTests
{
    private static readonly Payee Back = new("Yard OÜ", "EE471000001020145685");

    private static Task<int> RefundAsync(Loft loft, int credit, long? amount, Payee? payee = null, int? from = null) =>
        loft.WithAsync<Refunds, int>(r =>
            r.PayAsync(new RefundToPay(credit, amount, from ?? loft.Bank, Loft.Today, payee ?? Back, "what was over"))
        );

    private static Task<long> PostedAsync(Loft loft, string code) =>
        loft.WithAsync<BooksContext, long>(db =>
            (
                from entry in db.Journal
                from line in entry.Lines
                join account in db.LedgerAccounts on line.AccountId equals account.Id
                where account.Code == code
                select line.Debit - line.Credit
            ).SumAsync()
        );

    private static async Task<AccountItem> ReceiptItemAsync(Loft loft, int receipt) =>
        await loft.WithAsync<BooksContext, AccountItem>(db =>
            db.AccountItems.AsNoTracking().SingleAsync(i => i.ReceiptId == receipt)
        );

    private static Task<int> LastBookingAsync(Loft loft) =>
        loft.WithAsync<BooksContext, int>(db => db.Bookings.MaxAsync(b => b.Id));

    /// <summary>Does something, checks the books, undoes it, and finds them as they were.</summary>
    private static async Task ThereAndBackAsync(Loft loft, Func<Task> act, Func<Task>? then = null)
    {
        var before = await loft.PictureAsync();
        await act();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        (await loft.PictureAsync()).ShouldNotBe(before);
        if (then is not null)
            await then();
        await loft.AgreesOnAsync([Loft.Today.AddDays(-1), Loft.Today]);
        var booking = await LastBookingAsync(loft);
        await loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
        (await loft.PictureAsync()).ShouldBe(before);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Undoing>(u => u.UndoAsync(booking)))
        ).Message.ShouldContain("undone already");
    }

    [Fact]
    public async Task Too_much_money_is_paid_back_and_never_more_than_there_is()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
        var credit = await ReceiptItemAsync(loft, await loft.ReceiveAsync(15_000, (invoice.Id, 12_400)));
        (await Should.ThrowAsync<RefusalException>(() => RefundAsync(loft, credit.Id, 2_601)))
            .Refusals[0]
            .Field.ShouldBe("amount");
        (await Should.ThrowAsync<RefusalException>(() => RefundAsync(loft, credit.Id, null, new Payee("Yard", "EE00"))))
            .Refusals[0]
            .Field.ShouldBe("iban");
        (await Should.ThrowAsync<RefusalException>(() => RefundAsync(loft, invoice.Id, 1))).Message.ShouldContain(
            "no credit"
        );
        await ThereAndBackAsync(
            loft,
            () => RefundAsync(loft, credit.Id, null),
            async () =>
            {
                (await ReceiptItemAsync(loft, credit.ReceiptId!.Value)).Open.ShouldBe(0);
                (await PostedAsync(loft, "1000")).ShouldBe(12_400);
                (
                    await Should.ThrowAsync<RefusalException>(() => RefundAsync(loft, credit.Id, null))
                ).Message.ShouldContain("Nothing is left");
            }
        );
    }

    [Fact]
    public async Task A_credit_note_on_a_paid_invoice_is_paid_back_in_cash()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        await loft.ReceiveAsync(12_400, ((await loft.ItemOfAsync(invoice.Id)).Id, 12_400));
        var draft = await loft.WithAsync<Credits, int>(c => c.DraftAsync(invoice.Id, "came torn"));
        await loft.WithAsync<IssuingDesk>(async i =>
            await i.IssueAsync(draft, (await loft.DocumentAsync(draft)).Version)
        );
        var credit = await loft.ItemOfAsync(draft);
        credit.Open.ShouldBe(12_400);
        var box = await loft.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Kind == MoneyKind.Cash).Select(a => a.Id).SingleAsync()
        );
        (await Should.ThrowAsync<RefusalException>(() => RefundAsync(loft, credit.Id, null, Back, box)))
            .Refusals[0]
            .Field.ShouldBe("moneyAccountId");
        await ThereAndBackAsync(
            loft,
            () => loft.WithAsync<Refunds>(r => r.PayAsync(new RefundToPay(credit.Id, null, box, Loft.Today, null, "")))
        );
    }

    [Fact]
    public async Task A_returned_payment_opens_the_invoices_again_from_that_day_with_their_history()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-30)));
        var item = await loft.ItemOfAsync(invoice.Id);
        var receipt = await loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(
                new ReceiptToPost(
                    loft.Yard,
                    Loft.Today.AddDays(-10),
                    loft.Bank,
                    12_400,
                    "direct debit",
                    [(item.Id, 12_400)]
                )
            )
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Returns>(r => r.ReturnAsync(receipt, Loft.Today.AddDays(-11), "no cover"))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("date");
        await ThereAndBackAsync(
            loft,
            () => loft.WithAsync<Returns>(r => r.ReturnAsync(receipt, Loft.Today.AddDays(-3), "no cover")),
            async () =>
            {
                (await loft.DocumentAsync(invoice.Id)).State.ShouldBe(DocumentState.Issued);
                var history = await loft.WithAsync<BooksContext, List<Allocation>>(db =>
                    db.Allocations.IgnoreQueryFilters().AsNoTracking().Where(a => a.RaisingId == item.Id).ToListAsync()
                );
                var ended = history.ShouldHaveSingleItem();
                (ended.CountsOn(Loft.Today.AddDays(-4)), ended.CountsOn(Loft.Today.AddDays(-3))).ShouldBe(
                    (true, false)
                );
                await loft.AgreesOnAsync(Enumerable.Range(0, 35).Select(d => Loft.Today.AddDays(-d)));
                (await PostedAsync(loft, "1000")).ShouldBe(0);
            }
        );
        (await loft.DocumentAsync(invoice.Id)).State.ShouldBe(DocumentState.Settled);
        var charged = await loft.WithAsync<Returns, Returned>(r =>
            r.ReturnAsync(receipt, Loft.Today, "no cover", 7.5m)
        );
        (await loft.DocumentAsync(charged.ChargeDraftId!.Value)).Net.ShouldBe(750);
    }

    [Fact]
    public async Task A_receipt_at_the_wrong_customer_is_moved_and_placed_there()
    {
        await using var loft = await Loft.OpenAsync();
        var other = await loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(null, 0, new CustomerDetails { Name = "Other yard", Currency = "EUR" })
        );
        var (mine, theirs) = (
            await loft.ItemOfAsync((await loft.IssuedAsync()).Id),
            await loft.ItemOfAsync((await loft.IssuedAsync(loft.Content(customer: other))).Id)
        );
        var receipt = await loft.ReceiveAsync(12_400, (mine.Id, 12_400));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Transfers>(t => t.MoveAsync(receipt, loft.Swede))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("to");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Transfers>(t => t.MoveAsync(receipt, loft.Yard))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("to");
        await ThereAndBackAsync(
            loft,
            () => loft.WithAsync<Transfers>(t => t.MoveAsync(receipt, other)),
            async () =>
            {
                (await loft.DocumentAsync(mine.DocumentId!.Value)).State.ShouldBe(DocumentState.Issued);
                var moved = await loft.WithAsync<BooksContext, AccountItem>(db =>
                    db.AccountItems.SingleAsync(i => i.Kind == AccountItemKind.MovedIn)
                );
                (moved.CustomerId, moved.Open).ShouldBe((other, 12_400));
            }
        );
        await loft.WithAsync<Transfers>(t => t.MoveAsync(receipt, other));
        var transfer = await LastBookingAsync(loft);
        var there = await loft.WithAsync<BooksContext, int>(db =>
            db.AccountItems.Where(i => i.Kind == AccountItemKind.MovedIn).Select(i => i.Id).SingleAsync()
        );
        await loft.WithAsync<Receipts>(r => r.SetAgainstAsync(there, theirs.Id, 12_400));
        (await loft.DocumentAsync(theirs.DocumentId!.Value)).State.ShouldBe(DocumentState.Settled);
        // Undoing takes what it was set against since apart as well.
        await loft.WithAsync<Undoing>(u => u.UndoAsync(transfer));
        (await loft.DocumentAsync(theirs.DocumentId!.Value)).State.ShouldBe(DocumentState.Issued);
        (await loft.DocumentAsync(mine.DocumentId!.Value)).State.ShouldBe(DocumentState.Settled);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_bad_debt_goes_with_its_tax_and_comes_back_with_it()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Settlements>(s => s.WriteOffAsync(item.Id, null, " "))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("reason");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Settlements>(s => s.WriteOffAsync(item.Id, 12_401, "gone"))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("amount");
        await ThereAndBackAsync(
            loft,
            () => loft.WithAsync<Settlements>(s => s.WriteOffAsync(item.Id, null, "bankrupt")),
            async () =>
            {
                (
                    (await PostedAsync(loft, "4930")),
                    (await PostedAsync(loft, "2200")),
                    (await PostedAsync(loft, "1200"))
                ).ShouldBe((10_000, 0, 0));
                (await loft.DocumentAsync(item.DocumentId!.Value)).State.ShouldBe(DocumentState.Settled);
            }
        );
        await loft.WithAsync<Settlements>(s => s.WriteOffAsync(item.Id, null, "bankrupt"));
        var (writtenOff, settlement) = (
            await LastBookingAsync(loft),
            await loft.WithAsync<BooksContext, int>(db => db.Settlements.MaxAsync(s => s.Id))
        );
        await ThereAndBackAsync(
            loft,
            () => loft.WithAsync<Settlements>(s => s.RecoverAsync(settlement, 3_100)),
            async () =>
            {
                (await PostedAsync(loft, "4930"), await PostedAsync(loft, "2200")).ShouldBe((7_500, -600));
                (await loft.ItemOfAsync(item.DocumentId!.Value)).Open.ShouldBe(3_100);
                (
                    await Should.ThrowAsync<RefusalException>(() =>
                        loft.WithAsync<Undoing>(u => u.UndoAsync(writtenOff))
                    )
                ).Message.ShouldContain("owed after all");
                (
                    await Should.ThrowAsync<RefusalException>(() =>
                        loft.WithAsync<Settlements>(s => s.RecoverAsync(settlement, 9_301))
                    )
                )
                    .Refusals[0]
                    .Field.ShouldBe("amount");
            }
        );
        await loft.WithAsync<Settlements>(s => s.RecoverAsync(settlement, 3_100));
        await loft.WithAsync<Settlements>(s => s.RecoverAsync(settlement, 9_300));
        await loft.ReceiveAsync(12_400, (item.Id, 12_400));
        (
            await PostedAsync(loft, "4930"),
            await PostedAsync(loft, "2200"),
            (await loft.DocumentAsync(item.DocumentId!.Value)).State
        ).ShouldBe((0, -2_400, DocumentState.Settled));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_early_payment_discount_is_given_with_the_money_and_lowers_the_tax()
    {
        await using var loft = await Loft.OpenAsync();
        var terms = await loft.WithAsync<BooksContext, int>(async db =>
        {
            var early = new PaymentTerms("14 days, 2 % in 7", DueRule.DaysAfter, 14, earlyPercent: 2, earlyDays: 7);
            db.Terms.Add(early);
            await db.SaveChangesAsync();
            return early.Id;
        });
        var invoice = await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-5)) with { TermsId = terms });
        var item = await loft.ItemOfAsync(invoice.Id);
        Task ReceiveAsync(int daysAgo, string reason) =>
            loft.WithAsync<Receipts>(r =>
                r.PostAsync(
                    new ReceiptToPost(
                        loft.Yard,
                        Loft.Today.AddDays(-daysAgo),
                        loft.Bank,
                        12_152,
                        "",
                        [(item.Id, 12_152)]
                    )
                    {
                        Early = [(item.Id, reason)],
                    }
                )
            );
        await ThereAndBackAsync(
            loft,
            () => ReceiveAsync(0, ""),
            async () =>
            {
                (
                    await PostedAsync(loft, "4920"),
                    await PostedAsync(loft, "2200"),
                    (await loft.DocumentAsync(invoice.Id)).State
                ).ShouldBe((200, -2_352, DocumentState.Settled));
            }
        );
        var late = await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-9)) with { TermsId = terms });
        item = await loft.ItemOfAsync(late.Id);
        var refused = (await Should.ThrowAsync<RefusalException>(() => ReceiveAsync(0, ""))).Refusals[0];
        (refused.Field, refused.Message.Contains("offered until", StringComparison.Ordinal)).ShouldBe(
            ($"early[{item.Id}]", true)
        );
        await ReceiveAsync(0, "the post was slow");
        (await loft.DocumentAsync(late.Id)).State.ShouldBe(DocumentState.Settled);
    }

    [Fact]
    public async Task A_small_rest_is_given_up_or_kept_and_a_large_one_is_not()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
        await ThereAndBackAsync(
            loft,
            () =>
                loft.WithAsync<Receipts>(r =>
                    r.PostAsync(
                        new ReceiptToPost(loft.Yard, Loft.Today, loft.Bank, 12_398, "", [(item.Id, 12_398)])
                        {
                            GiveUp = [item.Id],
                        }
                    )
                ),
            async () =>
                (await PostedAsync(loft, "4910"), (await loft.DocumentAsync(item.DocumentId!.Value)).State).ShouldBe(
                    (2, DocumentState.Settled)
                )
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Settlements>(s => s.GiveUpRestAsync(item.Id))
            )
        ).Message.ShouldContain("counts as small");
        var over = await ReceiptItemAsync(loft, await loft.ReceiveAsync(12_403, (item.Id, 12_400)));
        await ThereAndBackAsync(
            loft,
            () => loft.WithAsync<Settlements>(s => s.GiveUpRestAsync(over.Id)),
            async () => (await PostedAsync(loft, "4910")).ShouldBe(-3)
        );
    }

    [Fact]
    public async Task Credit_is_used_in_the_same_go_before_the_money()
    {
        await using var loft = await Loft.OpenAsync();
        var credit = await ReceiptItemAsync(loft, await loft.ReceiveAsync(5_000));
        var item = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
        await ThereAndBackAsync(
            loft,
            () =>
                loft.WithAsync<Receipts>(r =>
                    r.PostAsync(
                        new ReceiptToPost(loft.Yard, Loft.Today, loft.Bank, 7_400, "", [(item.Id, 12_400)])
                        {
                            Credits = [credit.Id],
                        }
                    )
                ),
            async () => (await loft.DocumentAsync(item.DocumentId!.Value)).State.ShouldBe(DocumentState.Settled)
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Receipts>(r =>
                    r.PostAsync(
                        new ReceiptToPost(loft.Yard, Loft.Today, loft.Bank, 7_399, "", [(item.Id, 12_400)])
                        {
                            Credits = [credit.Id],
                        }
                    )
                )
            )
        )
            .Refusals[0]
            .Field.ShouldBe("against");
    }

    [Fact]
    public async Task A_wrong_allocation_is_taken_away_and_that_is_undone_too()
    {
        await using var loft = await Loft.OpenAsync();
        var (first, second) = (
            await loft.ItemOfAsync((await loft.IssuedAsync()).Id),
            await loft.ItemOfAsync((await loft.IssuedAsync()).Id)
        );
        await loft.ReceiveAsync(12_400, (first.Id, 12_400));
        var allocation = await loft.WithAsync<BooksContext, int>(db => db.Allocations.Select(a => a.Id).SingleAsync());
        await ThereAndBackAsync(loft, () => loft.WithAsync<Receipts>(r => r.TakeAwayAsync(allocation)));
        allocation = await loft.WithAsync<BooksContext, int>(db => db.Allocations.Select(a => a.Id).SingleAsync());
        await loft.WithAsync<Receipts>(r => r.TakeAwayAsync(allocation));
        var taken = await LastBookingAsync(loft);
        await loft.ReceiveAsync(12_400, (first.Id, 12_400));
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Undoing>(u => u.UndoAsync(taken)))
        ).Message.ShouldContain("paid otherwise since");
        (await loft.ItemOfAsync(second.DocumentId!.Value)).Open.ShouldBe(12_400);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Money_that_belongs_to_nobody_is_split_from_its_tax()
    {
        await using var loft = await Loft.OpenAsync();
        var charges = await loft.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Code == "4950").Select(a => a.Id).SingleAsync()
        );
        Task PostAsync(int account, long amount, int? code) =>
            loft.WithAsync<OtherMoneyDesk>(o =>
                o.PostAsync(new OtherMoneyToPost(Loft.Today, loft.Bank, account, amount, code, "At the quay"))
            );
        await ThereAndBackAsync(
            loft,
            () => PostAsync(loft.Sales, 6_200, loft.Std),
            async () => (await PostedAsync(loft, "3000"), await PostedAsync(loft, "2200")).ShouldBe((-5_000, -1_200))
        );
        await ThereAndBackAsync(
            loft,
            () => PostAsync(charges, -350, null),
            async () => (await PostedAsync(loft, "4950"), await PostedAsync(loft, "1000")).ShouldBe((350, -350))
        );
        (await Should.ThrowAsync<RefusalException>(() => PostAsync(charges, -350, loft.Std)))
            .Refusals[0]
            .Field.ShouldBe("taxCodeId");
        (await Should.ThrowAsync<RefusalException>(() => PostAsync(loft.Bank, 5, null)))
            .Refusals[0]
            .Field.ShouldBe("ledgerAccountId");
        (await Should.ThrowAsync<RefusalException>(() => PostAsync(charges, 0, null)))
            .Refusals[0]
            .Field.ShouldBe("amount");
    }

    [Fact]
    public async Task An_undone_receipt_keeps_its_number_and_what_was_built_on_it_holds_it()
    {
        await using var loft = await Loft.OpenAsync();
        var receipt = await loft.ReceiveAsync(5_000);
        var (booking, credit) = (await LastBookingAsync(loft), await ReceiptItemAsync(loft, receipt));
        await RefundAsync(loft, credit.Id, 1_000);
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Undoing>(u => u.UndoAsync(booking)))
        ).Message.ShouldContain("paid back");
        await loft.WithAsync<Undoing>(async u => await u.UndoAsync(await LastBookingAsync(loft)));
        await loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
        await loft.ReceiveAsync(100);
        (
            await loft.WithAsync<BooksContext, List<string>>(db =>
                db.Receipts.OrderBy(r => r.Id).Select(r => r.Number + (r.IsUndone ? " undone" : "")).ToListAsync()
            )
        ).ShouldBe(["RCT-2025-0001 undone", "RCT-2025-0002"]);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Nothing_is_posted_into_what_is_closed_and_the_day_that_is_taken_instead_is_said()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.ItemOfAsync((await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-40)))).Id);
        await loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(loft.Yard, Loft.Today.AddDays(-30), loft.Bank, 5_000, "", [(item.Id, 5_000)]))
        );
        var early = await LastBookingAsync(loft);
        var closed = Loft.Today.AddDays(-20);
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Periods>(p => p.CloseUpToAsync(Loft.Today)));
        await loft.WithAsync<Periods>(p => p.CloseUpToAsync(closed));
        var picture = await loft.PictureAsync();
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Undoing>(u => u.UndoAsync(early)))
        ).Message.ShouldContain("closed up to");
        (
            await Should.ThrowAsync<RefusalException>(() => loft.IssuedAsync(loft.Content(date: closed)))
        ).Message.ShouldContain($"{closed.AddDays(1):yyyy-MM-dd}");
        (await loft.PictureAsync())
            .Split('\n')
            .Where(l => !l.StartsWith("paper", StringComparison.Ordinal))
            .ShouldBe(picture.Split('\n').Where(l => !l.StartsWith("paper", StringComparison.Ordinal)));
        var late = await loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(loft.Yard, closed.AddDays(-3), loft.Bank, 1_000, "", [(item.Id, 1_000)]))
        );
        await loft.WithAsync<BooksContext>(async db =>
        {
            var receipt = await db.Receipts.SingleAsync(r => r.Id == late);
            (receipt.Date, receipt.CameOn).ShouldBe((closed.AddDays(1), closed.AddDays(-3)));
        });
        var allocation = await loft.WithAsync<BooksContext, int>(db =>
            db.Allocations.OrderBy(a => a.Id).Select(a => a.Id).FirstAsync()
        );
        await loft.WithAsync<Receipts>(r => r.TakeAwayAsync(allocation));
        await loft.WithAsync<BooksContext>(async db =>
            (await db.Allocations.IgnoreQueryFilters().SingleAsync(a => a.Id == allocation)).Until.ShouldBe(
                closed.AddDays(1)
            )
        );
        await loft.AgreesOnAsync(Enumerable.Range(0, 45).Select(d => Loft.Today.AddDays(-d)));
        await loft.WithAsync<Periods>(p => p.CloseUpToAsync(null));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }
}
