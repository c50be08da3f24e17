using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Aged balances, open items, statements, the journals, and what paid what.</summary>
public sealed class ReportTests
{
    private static Task<AgedBalances> AgedAsync(Loft loft, DateOnly day) =>
        loft.WithAsync<AgedReports, AgedBalances>(r => r.AgedAsync(day));

    [Fact]
    public async Task A_day_in_the_past_shows_what_was_open_then()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.ItemOfAsync((await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-40)))).Id);
        await loft.WithAsync<Receipts>(r =>
            r.PostAsync(
                new ReceiptToPost(loft.Yard, Loft.Today.AddDays(-5), loft.Bank, 10_000, "", [(invoice.Id, 10_000)])
            )
        );
        // Due after 14 days: 26 days late today, 20 days late a week ago; paid in part five days ago.
        var (now, then, before) = (
            await AgedAsync(loft, Loft.Today),
            await AgedAsync(loft, Loft.Today.AddDays(-6)),
            await AgedAsync(loft, Loft.Today.AddDays(-30))
        );
        now.Rows.Single().Aged.Late.ShouldBe([2_400L, 0, 0, 0]);
        then.Rows.Single().Aged.Late.ShouldBe([12_400L, 0, 0, 0]);
        (before.Rows.Single().Aged.NotYetDue, before.Rows.Single().Aged.Overdue).ShouldBe((12_400, 0));
        (await AgedAsync(loft, Loft.Today.AddDays(-41))).Rows.ShouldBeEmpty();
        foreach (var aged in new[] { now, then, before })
            aged.HomeBalance.ShouldBe(aged.Receivables);
    }

    [Fact]
    public async Task Edges_and_basis_are_as_set()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-40)));
        await loft.WithAsync<Periods>(p => p.AgeAsync("10, 20", true));
        var aged = await AgedAsync(loft, Loft.Today);
        aged.Edges.ShouldBe([10, 20]);
        aged.ByDate.ShouldBeTrue();
        aged.Rows.Single().Aged.Late.ShouldBe([0L, 0, 12_400], "40 days after its date");
        var report = await loft.WithAsync<AgedReports, Report>(r => r.AgedReportAsync(Loft.Today));
        report
            .Columns.Select(c => c.Head)
            .ShouldBe(["Customer", "Name", "Currency", "Of that day", "1–10", "11–20", "over 20", "Credit", "Balance"]);
        report
            .ToTable()
            .Rows.Single()
            .ShouldBe([(await CodeAsync(loft)), "Yard", "EUR", "0.00", "0.00", "0.00", "124.00", "0.00", "124.00"]);
    }

    private static Task<string> CodeAsync(Loft loft) =>
        loft.WithAsync<BooksContext, string>(db =>
            db.Customers.Where(c => c.Id == loft.Yard).Select(c => c.Code).SingleAsync()
        );

    [Fact]
    public async Task Unallocated_credit_stands_apart_and_a_statement_sums_up()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        await loft.ReceiveAsync(5_000);
        var row = (await AgedAsync(loft, Loft.Today)).Rows.Single().Aged;
        (row.NotYetDue, row.Credit, row.Balance).ShouldBe((12_400, 5_000, 7_400));
        var statement = await loft.WithAsync<AgedReports, Report>(async r =>
            await r.StatementAsync(await CodeAsync(loft), Loft.Today)
        );
        statement.Rows.Count(r => !r.IsSum).ShouldBe(2);
        ((Money)statement.Rows.Single(r => r.IsSum).Cells[^1]!).Minor.ShouldBe(7_400);
        var items = await loft.WithAsync<AgedReports, Report>(r => r.OpenItemsAsync(Loft.Today));
        items.ToTable().Rows.Select(r => r[9]).Order().ShouldBe(["-50.00", "124.00"]);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<AgedReports>(r => r.StatementAsync("NOBODY", Loft.Today))
            )
        ).Message.ShouldContain("NOBODY");
    }

    [Fact]
    public async Task The_journals_come_to_what_was_billed_and_received()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        await loft.IssuedAsync(loft.Content(customer: loft.Swede));
        await loft.ReceiveAsync(5_000, ((await loft.ItemOfAsync(invoice.Id)).Id, 5_000));
        var (from, until) = (Loft.Today.AddDays(-1), Loft.Today);
        var sales = await loft.WithAsync<JournalReports, Report>(j => j.SalesAsync(new ReportAsk(from, until)));
        // 124.00 EUR, and 124.00 SEK at 0.0901: 11.17 EUR.
        sales
            .Rows.Single(r => r.IsSum)
            .Cells.TakeLast(3)
            .Cast<Money>()
            .Select(m => m.Minor)
            .ShouldBe([10_901L, 2_616, 13_517]);
        var receipts = await loft.WithAsync<JournalReports, Report>(j => j.ReceiptsAsync(new ReportAsk(from, until)));
        receipts.ToTable().Rows.Single()[8].ShouldBe("50.00");
        var book = await loft.WithAsync<JournalReports, Report>(j =>
            j.AccountBookAsync(loft.Bank, new ReportAsk(from, until))
        );
        ((Money)book.Rows[0].Cells[^1]!).Minor.ShouldBe(0);
        ((Money)book.Rows[^1].Cells[^1]!).Minor.ShouldBe(5_000);
        var journal = (await loft.WithAsync<JournalReports, Report>(j => j.JournalAsync(from, until))).Rows;
        journal
            .Sum(r => r.Cells[6] is Money d ? d.Minor : 0)
            .ShouldBe(journal.Sum(r => r.Cells[7] is Money c ? c.Minor : 0));
        var entries = await loft.WithAsync<JournalReports, ListPage<EntryView>>(j =>
            j.EntriesAsync(new EntryFilter(from, until, DocumentId: invoice.Id), 1)
        );
        entries.Rows.Single().Lines.Select(l => l.Debit - l.Credit).Order().ShouldBe([-10_000L, -2_400, 12_400]);
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<JournalReports>(j => j.SalesAsync(new ReportAsk(until, from)))
        );
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<JournalReports>(j => j.AccountBookAsync(9_999, new ReportAsk(from, until)))
        );
    }

    [Fact]
    public async Task The_map_draws_what_is_set_against_each_other_and_habits_read_it()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.ItemOfAsync((await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-30)))).Id);
        await loft.ReceiveAsync(15_000, (invoice.Id, 12_400));
        var view = await loft.WithAsync<SettlementScreens, MapView>(s =>
            s.MapAsync(loft.Yard, new AccountSide(Currency.Of("EUR")))
        );
        (
            view.Map.Bands.Single().Tie.Amount,
            view.Map.Debits.Single().Open,
            view.Map.Credits.Single().Open,
            view.LeftOut
        ).ShouldBe((12_400, 0, 2_600, 0));
        view.Items[invoice.Id].Address.ShouldBe($"/papers/{invoice.DocumentId}");
        var habits = await loft.WithAsync<SettlementScreens, PaymentHabits?>(s =>
            s.HabitsAsync(loft.Yard, new AccountSide(Currency.Of("EUR")))
        );
        (habits!.DaysLate, habits.Paid, habits.PercentOnTime).ShouldBe((16m, 12_400, 0));
        var against = await loft.WithAsync<SettlementScreens, ILookup<int, SetAgainstRow>>(s =>
            s.SetAgainstAsync([invoice.Id])
        );
        against[invoice.Id].Single().Amount.ShouldBe(12_400);
    }

    [Fact]
    public async Task What_is_tied_to_something_too_old_to_be_drawn_is_not_drawn_as_open()
    {
        await using var loft = await Loft.OpenAsync();
        for (var i = 0; i < 24; i++)
        {
            var item = await loft.ItemOfAsync(
                (await loft.IssuedAsync(loft.Content(1, 10 + i, date: Loft.Today.AddDays(-60 + i)))).Id
            );
            await loft.WithAsync<Receipts>(r =>
                r.PostAsync(
                    new ReceiptToPost(
                        loft.Yard,
                        Loft.Today.AddDays(-30 + i),
                        loft.Bank,
                        item.Amount,
                        "",
                        [(item.Id, item.Amount)]
                    )
                )
            );
        }

        var view = await loft.WithAsync<SettlementScreens, MapView>(s =>
            s.MapAsync(loft.Yard, new AccountSide(Currency.Of("EUR")))
        );
        view.LeftOut.ShouldBe(12);
        view.Map.Debits.Concat(view.Map.Credits).ShouldAllBe(b => b.Open == 0);
    }

    /// <summary>
    /// A month of mishaps made on purpose: at its end, aged balances, the journal and the check agree, on every day of
    /// it.
    /// </summary>
    [Fact]
    public async Task After_a_month_of_mishaps_everything_agrees_to_the_cent()
    {
        await using var loft = await Loft.OpenAsync();
        var cash = await loft.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Kind == MoneyKind.Cash).Select(a => a.Id).SingleAsync()
        );
        var invoices = new List<AccountItem>();
        for (var i = 0; i < 10; i++)
            invoices.Add(
                await loft.ItemOfAsync(
                    (
                        await loft.IssuedAsync(
                            loft.Content(
                                1 + i,
                                33.33m,
                                i % 3 == 2 ? loft.Swede : loft.Yard,
                                Loft.Today.AddDays(-30 + i)
                            )
                        )
                    ).Id
                )
            );
        async Task<int> Receive(AccountItem item, int day, long amount, bool place = true) =>
            await loft.WithAsync<Receipts, int>(r =>
                r.PostAsync(
                    new ReceiptToPost(
                        item.CustomerId,
                        Loft.Today.AddDays(-30 + day),
                        loft.Bank,
                        amount,
                        "",
                        place ? [(item.Id, Math.Min(amount, item.Open))] : []
                    )
                )
            );
        Task<int> CreditOf(int receipt) =>
            loft.WithAsync<BooksContext, int>(db =>
                db.AccountItems.Where(i => i.ReceiptId == receipt).Select(i => i.Id).SingleAsync()
            );

        // Too much, kept and paid back; a wrong allocation; the wrong customer; returned; given up and paid after all;
        // a small rest.
        var over = await Receive(invoices[0], 3, invoices[0].Open + 5_000);
        await loft.WithAsync<Refunds>(async r =>
            await r.PayAsync(new RefundToPay(await CreditOf(over), 2_000, cash, Loft.Today.AddDays(-20), null, ""))
        );
        var wrong = await Receive(invoices[1], 6, invoices[1].Open);
        await loft.WithAsync<Receipts>(async r =>
            await r.TakeAwayAsync(
                await loft.WithAsync<BooksContext, int>(db =>
                    db.Allocations.Where(a => a.Lowering.ReceiptId == wrong).Select(a => a.Id).SingleAsync()
                )
            )
        );
        await loft.WithAsync<Receipts>(async r =>
            await r.SetAgainstAsync(await CreditOf(wrong), invoices[3].Id, 2_500)
        );
        var second = await loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(null, 0, new Core.Trade.CustomerDetails { Name = "Second yard", Currency = "EUR" })
        );
        await loft.WithAsync<Transfers>(async t => await t.MoveAsync(await Receive(invoices[4], 9, 7_777), second));
        await loft.WithAsync<Returns>(async r =>
            await r.ReturnAsync(
                await Receive(invoices[6], 12, invoices[6].Open),
                Loft.Today.AddDays(-10),
                "no cover",
                9.5m
            )
        );
        await loft.WithAsync<Settlements>(s => s.WriteOffAsync(invoices[7].Id, null, "gone", Loft.Today.AddDays(-8)));
        var settlement = await loft.WithAsync<BooksContext, int>(db =>
            db.Settlements.Where(s => s.Kind == SettlementKind.BadDebt).Select(s => s.Id).SingleAsync()
        );
        await loft.WithAsync<Settlements>(s => s.RecoverAsync(settlement, 5_000, Loft.Today.AddDays(-4)));
        await Receive(invoices[2], 15, invoices[2].Open - 60);
        await loft.WithAsync<Settlements>(s => s.GiveUpRestAsync(invoices[2].Id));
        var credit = await loft.WithAsync<Credits, int>(c => c.DraftAsync(invoices[9].DocumentId!.Value, "came torn"));
        await loft.WithAsync<IssuingDesk>(async i =>
            await i.IssueAsync(credit, (await loft.DocumentAsync(credit)).Version)
        );
        await loft.WithAsync<Credits>(async c => await c.SetAgainstAsync(await loft.DocumentAsync(credit)));

        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        for (var day = -31; day <= 0; day++)
        {
            var aged = await AgedAsync(loft, Loft.Today.AddDays(day));
            aged.HomeBalance.ShouldBe(aged.Receivables, $"on {aged.Day:O}");
        }

        await loft.AgreesOnAsync(Enumerable.Range(0, 32).Select(d => Loft.Today.AddDays(-d)));
    }
}
