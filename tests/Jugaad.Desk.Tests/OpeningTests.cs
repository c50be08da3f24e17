using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>What was taken over from other books: put right, taken out, and never dated into closed books.</summary>
public sealed class OpeningTests
{
    private static async Task<AccountItem> ItemAsync(Loft loft, string number = "A-1")
    {
        await MovingTests.TakeAsync(
            loft,
            MovingKind.OpenItems,
            $"customer;number;date;open\nYard;{number};01.08.2025;1.200,00\n"
        );
        return await loft.WithAsync<BooksContext, AccountItem>(db =>
            db.AccountItems.AsNoTracking().SingleAsync(i => i.Number == number)
        );
    }

    private static Task<long> BalanceAsync(Loft loft, AccountRole role) =>
        loft.WithAsync<BooksContext, long>(db =>
            (
                from line in db.Set<JournalLine>()
                join account in db.LedgerAccounts on line.AccountId equals account.Id
                where account.Role == role
                select line.Debit - line.Credit
            ).SumAsync()
        );

    [Fact]
    public async Task An_item_is_put_right_with_its_entry_and_its_trail()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await ItemAsync(loft);
        await loft.WithAsync<OpeningDesk>(o =>
            o.PutItemRightAsync(
                new OpeningItemToPutRight(
                    item.Id,
                    "A-2",
                    new DateOnly(2025, 7, 1),
                    new DateOnly(2025, 7, 15),
                    130_000,
                    null,
                    "mistyped"
                )
            )
        );
        var now = await loft.WithAsync<BooksContext, AccountItem>(db => db.AccountItems.AsNoTracking().SingleAsync());
        (now.Id, now.Number, now.Amount, now.Open, now.HomeAmount, now.Due).ShouldBe(
            (item.Id, "A-2", 130_000, 130_000, 130_000, new DateOnly(2025, 7, 15))
        );
        (
            await BalanceAsync(loft, AccountRole.Receivables),
            await BalanceAsync(loft, AccountRole.OpeningBalances)
        ).ShouldBe((130_000, -130_000));
        (
            await loft.WithAsync<BooksContext, List<string>>(db => db.Trail.Select(t => t.Text).ToListAsync())
        ).ShouldContain(t =>
            t.Contains("A-1 of 1 Aug 2025, 1\u202f200.00 EUR → A-2 of 1 Jul 2025, 1\u202f300.00 EUR: mistyped")
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_something_is_set_against_stays_until_that_is_taken_away()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await ItemAsync(loft);
        await loft.ReceiveAsync(500, (item.Id, 500));
        Task PutRight(string number = "A-1", string reason = "mistyped") =>
            loft.WithAsync<OpeningDesk>(o =>
                o.PutItemRightAsync(new OpeningItemToPutRight(item.Id, number, item.Date, item.Due, 100, null, reason))
            );
        (await Should.ThrowAsync<RefusalException>(() => PutRight())).Message.ShouldContain("set against");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<OpeningDesk>(o => o.TakeItemOutAsync(item.Id, "not ours"))
            )
        ).Message.ShouldContain("set against");
        await loft.WithAsync<Receipts>(async r =>
            await r.TakeAwayAsync(
                await loft.WithAsync<BooksContext, int>(db => db.Allocations.Select(a => a.Id).SingleAsync())
            )
        );
        (await Should.ThrowAsync<RefusalException>(() => PutRight(reason: ""))).Refusals[0].Field.ShouldBe("reason");
        await ItemAsync(loft, "B-1");
        (await Should.ThrowAsync<RefusalException>(() => PutRight("B-1"))).Refusals[0].Field.ShouldBe("number");
        await PutRight();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        var invoice = await loft.IssuedAsync();
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<OpeningDesk>(async o =>
                    await o.TakeItemOutAsync((await loft.ItemOfAsync(invoice.Id)).Id, "x")
                )
            )
        ).Message.ShouldContain("not taken over");
    }

    [Fact]
    public async Task A_money_account_in_another_currency_is_taken_over_in_both()
    {
        await using var loft = await Loft.OpenAsync();
        var crowns = await loft.WithAsync<AccountsDesk, int>(a =>
            a.SaveAccountAsync(
                null,
                new AccountDetails
                {
                    Code = "1710",
                    Name = "Crowns",
                    Role = AccountRole.Money,
                    Currency = "SEK",
                }
            )
        );
        // At the rate of its day, 0.0874: 10 000.00 crowns are 874.00.
        await MovingTests.TakeAsync(loft, MovingKind.Balances, "account;date;debit\n1710;01.08.2025;10.000,00\n");
        (await loft.NumberAsync($"SELECT Debit FROM JournalLines WHERE AccountId = {crowns}")).ShouldBe(874_00);
        (await loft.NumberAsync($"SELECT OriginalAmount FROM JournalLines WHERE AccountId = {crowns}")).ShouldBe(
            10_000_00
        );
        (await BalanceAsync(loft, AccountRole.OpeningBalances)).ShouldBe(-874_00);
        var worth = await loft.WithAsync<Reports.ValuationReports, Lists.Report>(v => v.ValuationAsync(Loft.Today));
        // Of today at 0.0901: 901.00, so 27.00 are gained and not realised.
        worth.Rows.Where(r => !r.IsSum).SelectMany(r => r.Cells).ShouldContain(new Money(27_00, Currency.Of("EUR")));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task An_item_and_a_balance_are_taken_out_and_can_be_taken_over_again()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await ItemAsync(loft);
        const string balances = "account;date;debit\n1000;01.08.2025;5.000,00\n";
        await MovingTests.TakeAsync(loft, MovingKind.Balances, balances);
        await loft.WithAsync<OpeningDesk>(o => o.TakeItemOutAsync(item.Id, "not ours"));
        var balance = (
            await loft.WithAsync<OpeningDesk, IReadOnlyList<OpeningBalanceRow>>(o => o.BalancesAsync())
        ).Single();
        await loft.WithAsync<OpeningDesk>(o =>
            o.PutBalanceRightAsync(balance.EntryId, balance.Date, 510_000, "a statement was overlooked")
        );
        (await BalanceAsync(loft, AccountRole.OpeningBalances)).ShouldBe(-510_000);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<OpeningDesk>(o => o.PutBalanceRightAsync(balance.EntryId, balance.Date, 1, "x"))
            )
        ).Message.ShouldContain("put right already");
        var right = (
            await loft.WithAsync<OpeningDesk, IReadOnlyList<OpeningBalanceRow>>(o => o.BalancesAsync())
        ).Single();
        await loft.WithAsync<OpeningDesk>(o => o.PutBalanceRightAsync(right.EntryId, right.Date, 0, "not ours"));
        (await BalanceAsync(loft, AccountRole.OpeningBalances)).ShouldBe(0);
        await ItemAsync(loft);
        (await MovingTests.TakeAsync(loft, MovingKind.Balances, balances)).New.ShouldBe(1);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Nothing_is_moved_into_closed_books_nor_put_right_there()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await ItemAsync(loft);
        await loft.WithAsync<Periods>(p => p.CloseUpToAsync(new DateOnly(2025, 8, 31)));
        (
            await MovingTests.TakeAsync(
                loft,
                MovingKind.OpenItems,
                "customer;number;date;open\nYard;C-1;31.08.2025;10,00\nYard;C-2;01.09.2025;10,00\n"
            )
        )
            .Refused.Single()
            .Why.ShouldContain("closed up to 31 Aug 2025");
        (await MovingTests.TakeAsync(loft, MovingKind.Balances, "account;date;debit\n1000;31.08.2025;5.000,00\n"))
            .Refused.Single()
            .Why.ShouldContain("closed up to 31 Aug 2025");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<OpeningDesk>(o =>
                    o.PutItemRightAsync(
                        new OpeningItemToPutRight(item.Id, "A-1", new DateOnly(2025, 9, 2), null, 100, null, "late")
                    )
                )
            )
        ).Message.ShouldContain("closed up to");
        var late = await loft.WithAsync<BooksContext, int>(db =>
            db.AccountItems.Where(i => i.Number == "C-2").Select(i => i.Id).SingleAsync()
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<OpeningDesk>(o =>
                    o.PutItemRightAsync(
                        new OpeningItemToPutRight(late, "C-2", new DateOnly(2025, 8, 2), null, 100, null, "early")
                    )
                )
            )
        ).Message.ShouldContain("closed up to");
        await loft.WithAsync<OpeningDesk>(o => o.TakeItemOutAsync(late, "not ours"));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_spoken_of_stays_and_may_be_put_right()
    {
        await using var loft = await Loft.OpenAsync();
        var item = await ItemAsync(loft);
        await loft.WithAsync<Contacts>(c =>
            c.NoteAsync(
                loft.Yard,
                new ContactSaid(ContactWay.Call, "", "", null),
                new PromiseHeard(1_000_00, Loft.Today.AddDays(3), [item.Id]),
                new DisputeHeard(item.Id, 200_00, "Paid before the books began", null)
            )
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<OpeningDesk>(o => o.TakeItemOutAsync(item.Id, "not ours"))
            )
        ).Message.ShouldContain("disputed, written about");
        await loft.WithAsync<OpeningDesk>(o =>
            o.PutItemRightAsync(
                new OpeningItemToPutRight(item.Id, "A-1", Loft.Today, Loft.Today, 150_00, null, "mistyped")
            )
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        var run = (int)await loft.NumberAsync("SELECT MAX(Id) FROM ImportRuns");
        var outlook = await loft.WithAsync<ImportUndo, TakenBackReport>(u => u.OutlookAsync(run));
        outlook.Gone.ShouldBe(0);
    }

    [Fact]
    public async Task Whatever_points_to_an_item_on_an_account_is_known()
    {
        // What is new here keeps items from being taken out of the books: SpokenOf has to know of it.
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<BooksContext>(db =>
        {
            db.Model.GetEntityTypes()
                .SelectMany(t => t.GetForeignKeys())
                .Where(k => k.PrincipalEntityType.ClrType == typeof(AccountItem))
                .Select(k => k.DeclaringEntityType.ClrType.Name)
                .Distinct()
                .Order()
                .ShouldBe([
                    "Allocation",
                    "ChaseLetterItem",
                    "Dispute",
                    "JournalEntry",
                    "LateCharge",
                    "LeftOut",
                    "PayRequestPart",
                    "PlanItem",
                    "PromiseItem",
                    "TaxFigure",
                ]);
            return Task.CompletedTask;
        });
    }
}
