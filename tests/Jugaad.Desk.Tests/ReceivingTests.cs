using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

public sealed class ReceivingTests
{
    [Fact]
    public async Task A_part_payment_leaves_the_rest_open_and_the_last_settles()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        var item = await loft.ItemOfAsync(invoice.Id);
        await loft.ReceiveAsync(5_000, (item.Id, 5_000));
        (await loft.ItemOfAsync(invoice.Id)).Open.ShouldBe(7_400);
        (await loft.DocumentAsync(invoice.Id)).State.ShouldBe(DocumentState.Issued);
        await loft.ReceiveAsync(9_000, (item.Id, 7_400));
        (await loft.DocumentAsync(invoice.Id)).State.ShouldBe(DocumentState.Settled);
        var account = await loft.WithAsync<AccountScreens, AccountView?>(a => a.AccountAsync(loft.Yard, 1));
        (account!.Balance, account.Aged.Credit).ShouldBe((-1_600, 1_600));
        account.Movement.Rows[0].Running.ShouldBe(-1_600);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task More_than_is_open_or_more_than_came_in_is_refused_and_nothing_is_posted()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
        var over = await Should.ThrowAsync<RefusalException>(() => loft.ReceiveAsync(20_000, (item.Id, 13_000)));
        over.Refusals[0].Field.ShouldBe($"against[{item.Id}]");
        over.Message.ShouldContain("6.00 more than is open on INV-2025-0001");
        (await Should.ThrowAsync<RefusalException>(() => loft.ReceiveAsync(1_000, (item.Id, 1_001))))
            .Refusals[0]
            .Field.ShouldBe("against");
        (await Should.ThrowAsync<RefusalException>(() => loft.ReceiveAsync(0))).Refusals[0].Field.ShouldBe("amount");
        (await Should.ThrowAsync<RefusalException>(() => loft.ReceiveAsync(5, (999, 5))))
            .Refusals[0]
            .Field.ShouldBe("against[999]");
        (await loft.WithAsync<BooksContext, int>(db => db.Receipts.CountAsync())).ShouldBe(0);
        await loft.ReceiveAsync(100);
        (await loft.WithAsync<BooksContext, string>(db => db.Receipts.Select(r => r.Number).SingleAsync())).ShouldBe(
            "RCT-2025-0001"
        );
    }

    [Fact]
    public async Task A_day_to_come_or_an_account_that_takes_no_money_is_refused()
    {
        await using var loft = await Loft.OpenAsync();
        var refused = await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<Receipts>(r =>
                r.PostAsync(new ReceiptToPost(loft.Yard, Loft.Today.AddDays(1), loft.Sales, 5, "", []))
            )
        );
        refused.Refusals.Select(r => r.Field).ShouldBe(["date", "moneyAccountId"]);
    }

    [Fact]
    public async Task Taking_an_allocation_away_opens_the_invoice_again_and_keeps_the_receipt()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        var item = await loft.ItemOfAsync(invoice.Id);
        var receipt = await loft.ReceiveAsync(12_400, (item.Id, 12_400));
        var allocation = await loft.WithAsync<BooksContext, int>(db => db.Allocations.Select(a => a.Id).SingleAsync());
        await loft.WithAsync<Receipts>(r => r.TakeAwayAsync(allocation));
        (await loft.DocumentAsync(invoice.Id)).State.ShouldBe(DocumentState.Issued);
        var view = await loft.WithAsync<ReceiveScreens, ReceiptView?>(s => s.ReceiptAsync(receipt));
        (view!.Item!.Open, view.CouldPay.Single().Number).ShouldBe((12_400, "INV-2025-0001"));
        await loft.WithAsync<Receipts>(r => r.SetAgainstAsync(view.Item.Id, item.Id, 400));
        (await loft.ItemOfAsync(invoice.Id)).Open.ShouldBe(12_000);
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Receipts>(r => r.TakeAwayAsync(allocation)));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task An_exchange_difference_is_posted_with_the_allocation_and_taken_back_with_it()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync(
            loft.Content(customer: loft.Swede, price: 1000, date: new DateOnly(2025, 9, 1))
        );
        var item = await loft.ItemOfAsync(invoice.Id);
        await loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(loft.Swede, Loft.Today, loft.Bank, item.Amount, "", [(item.Id, item.Amount)]))
        );
        async Task<long> Gain() =>
            await loft.WithAsync<BooksContext, long>(db =>
                db.Set<Core.Journal.JournalLine>()
                    .Where(l =>
                        db.LedgerAccounts.Any(a =>
                            a.Id == l.AccountId && a.Role == Core.Journal.AccountRole.ExchangeDifferences
                        )
                    )
                    .SumAsync(l => l.Credit - l.Debit)
            );
        (await Gain()).ShouldBe(22_345 - 21_675);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        var allocation = await loft.WithAsync<BooksContext, int>(db => db.Allocations.Select(a => a.Id).SingleAsync());
        await loft.WithAsync<Receipts>(r => r.TakeAwayAsync(allocation));
        (await Gain()).ShouldBe(0);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_random_month_of_business_stays_healthy_and_aged_balances_look_back()
    {
        await using var loft = await Loft.OpenAsync();
        var dice = new Random(7);
        for (var i = 0; i < 40; i++)
        {
            var day = Loft.Today.AddDays(-dice.Next(0, 120));
            if (dice.Next(3) > 0)
                await loft.IssuedAsync(loft.Content(dice.Next(1, 9), dice.Next(1, 90), date: day));
            var open = await loft.WithAsync<ReceiveScreens, IReadOnlyList<AccountItem>>(r => r.OpenAsync(loft.Yard));
            if (open.Count > 0 && dice.Next(2) == 0)
            {
                var amount = dice.Next(1, 30_000);
                await loft.ReceiveAsync(
                    amount,
                    OldestFirst.Propose(amount, open).Select(p => (p.Item.Id, p.Amount)).ToArray()
                );
            }
        }

        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        foreach (var day in new[] { Loft.Today, Loft.Today.AddDays(-30), Loft.Today.AddDays(-90) })
        {
            var aged = (
                await loft.WithAsync<Jugaad.Desk.Reports.AgedReports, Jugaad.Desk.Reports.AgedBalances>(a =>
                    a.AgedAsync(day)
                )
            ).Rows.Sum(r => r.Aged.Balance);
            var balance = await loft.WithAsync<BooksContext, long>(db =>
                db.AccountItems.Where(i => i.Date <= day)
                    .SumAsync(i => i.Kind == AccountItemKind.Invoice ? i.Amount : -i.Amount)
            );
            aged.ShouldBe(balance);
        }
    }

    [Fact]
    public async Task What_cancels_an_invoice_is_not_undone_apart_from_it_and_the_money_is()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.ItemOfAsync((await loft.IssuedAsync()).Id);
        await loft.ReceiveAsync(24_00, (invoice.Id, 24_00));
        var paid = (int)await loft.NumberAsync("SELECT MAX(Id) FROM Bookings");
        await loft.WithAsync<Issuing.Credits>(c => c.CancelAsync(invoice.DocumentId!.Value, "wrong boat"));
        var cancelled = (int)await loft.NumberAsync("SELECT MAX(Id) FROM Bookings");
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Undoing>(u => u.UndoAsync(cancelled)))
        ).Message.ShouldContain("the two stay together");
        await loft.WithAsync<Undoing>(u => u.UndoAsync(paid));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }
}
