using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// Each tax on the account of its authority: a board that is told by invoice, and a harbour office, with a levy of 5 %
/// on lines of its own, that is told by payment.
/// </summary>
public sealed class TaxAccountsTests : IAsyncLifetime
{
    private static readonly DateOnly July = new(2025, 7, 1);
    private Loft _loft = null!;
    private int _levy;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
        var office = await _loft.WithAsync<TaxDesk, int>(t =>
            t.SaveAuthorityAsync(null, new AuthorityDetails { Name = "Harbour office", Basis = TaxBasis.ByPayment })
        );
        await _loft.WithAsync<TaxDesk>(async t =>
        {
            await t.SaveComponentAsync(null, "Levy", office);
            await t.AddRateAsync("Levy", new DateOnly(2020, 1, 1), 5);
            _levy = await t.AddCodeAsync(
                new TaxCodeToAdd("LEVY", "Harbour levy", TaxCategory.Standard, "", [("Levy", false)])
            );
        });
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    /// <summary>A repair of 100.00 with 24.00 of tax, and a berth of 80.00 with a levy of 4.00: 208.00.</summary>
    private async Task<AccountItem> BillAsync(DateOnly day)
    {
        var content = _loft.Content(date: day);
        return await _loft.ItemOfAsync(
            (
                await _loft.IssuedAsync(
                    content with
                    {
                        Lines =
                        [
                            .. content.Lines,
                            new DraftLine(null, "Berth", 1, "C62", 80, null, null, _levy, _loft.Sales),
                        ],
                    }
                )
            ).Id
        );
    }

    /// <summary>What stands on each account of tax at the end of a day: board, levy not due yet, levy owed.</summary>
    private async Task<(long Board, long NotDue, long Owed)> StandAsync(DateOnly day)
    {
        var sums = await _loft.WithAsync<BooksContext, Dictionary<string, long>>(db =>
            (
                from entry in db.Journal
                where entry.Date <= day
                from line in entry.Lines
                join account in db.LedgerAccounts on line.AccountId equals account.Id
                group line by account.Name into one
                select new { one.Key, Amount = one.Sum(l => l.Credit - l.Debit) }
            ).ToDictionaryAsync(a => a.Key, a => a.Amount)
        );
        return (
            sums.GetValueOrDefault("Tax owed"),
            sums.GetValueOrDefault("Tax not due yet, Harbour office"),
            sums.GetValueOrDefault("Tax owed, Harbour office")
        );
    }

    private Task<int> PayAsync(AccountItem bill, DateOnly day, long amount) =>
        _loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Yard, day, _loft.Bank, amount, "", [(bill.Id, amount)]))
        );

    private async Task MustAgreeAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task Each_tax_stands_with_its_authority_and_becomes_due_as_it_is_paid()
    {
        var bill = await BillAsync(July);
        (await StandAsync(Loft.Today)).ShouldBe((2400, 400, 0));
        await PayAsync(bill, July.AddDays(9), 104_00);
        (await StandAsync(July.AddDays(8))).ShouldBe((2400, 400, 0));
        (await StandAsync(July.AddDays(9))).ShouldBe((2400, 200, 200), "half is paid");
        var rest = await PayAsync(bill, July.AddDays(20), 104_00);
        (await StandAsync(Loft.Today)).ShouldBe((2400, 0, 400));
        await MustAgreeAsync();
        await _loft.WithAsync<Undoing>(async u =>
            await u.UndoAsync((int)await _loft.NumberAsync($"SELECT BookingId FROM Receipts WHERE Id = {rest}"))
        );
        (await StandAsync(Loft.Today)).ShouldBe((2400, 200, 200));
        await MustAgreeAsync();
    }

    [Fact]
    public async Task What_is_credited_given_up_and_taken_apart_moves_its_share_back()
    {
        var bill = await BillAsync(July);
        await PayAsync(bill, July.AddDays(9), 104_00);
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(bill.Id, null, "gone", lowersTax: true));
        (await StandAsync(Loft.Today)).ShouldBe((1200, 0, 200), "half was given up with its tax");
        await MustAgreeAsync();
        await _loft.WithAsync<Undoing>(async u =>
            await u.UndoAsync((int)await _loft.NumberAsync("SELECT MAX(BookingId) FROM Settlements"))
        );
        (await StandAsync(Loft.Today)).ShouldBe((2400, 200, 200));
        await _loft.WithAsync<Issuing.Credits>(c => c.CancelAsync(bill.DocumentId!.Value, "wrong boat"));
        (await StandAsync(Loft.Today)).ShouldBe((0, 0, 0), "both count as a whole, which is nothing");
        await MustAgreeAsync();
    }

    [Fact]
    public async Task A_return_is_paid_on_its_own_authoritys_account_and_agrees_with_it()
    {
        var bill = await BillAsync(July);
        await PayAsync(bill, July.AddDays(9), 208_00);
        var office = await _loft.WithAsync<TaxReturns, TaxAuthority>(r => r.AuthorityAsync("harbour office"));
        var last = July.AddMonths(1).AddDays(-1);
        var look = await _loft.WithAsync<ReturnLooks, ReturnLook?>(l => l.LookAsync(office.Id, July, last));
        (look!.Then.Tax, look.Journal.Posted, look.Journal.Apart.Count).ShouldBe((400, 400, 0));
        var id = await _loft.WithAsync<ReturnFiling, int>(f =>
            f.FileAsync(new ReturnToFile(office.Id, July, last, 400, ""))
        );
        await _loft.WithAsync<ReturnPaying>(p => p.PayAsync(new ReturnToPay(id, Loft.Today, _loft.Bank, 3_00)));
        (await StandAsync(Loft.Today)).ShouldBe((2400, 0, 100));
        await MustAgreeAsync();
        await _loft.ExecuteAsync(
            "UPDATE OtherMoney SET LedgerAccountId = (SELECT Id FROM LedgerAccounts WHERE Name = 'Tax owed')"
        );
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains("another authority's account"));
    }

    [Fact]
    public async Task What_waits_for_too_long_becomes_due_and_a_change_to_by_invoice_makes_all_due()
    {
        var office = await _loft.WithAsync<TaxReturns, TaxAuthority>(r => r.AuthorityAsync("Harbour office"));
        await BillAsync(July);
        await _loft.WithAsync<TaxDesk>(t => t.SaveAuthorityAsync(office.Id, office.Details() with { MostMonths = 2 }));
        (await StandAsync(July.AddMonths(2).AddDays(-1))).ShouldBe((2400, 400, 0));
        (await StandAsync(July.AddMonths(2))).ShouldBe((2400, 0, 400));
        await _loft.WithAsync<TaxDesk>(t => t.SaveAuthorityAsync(office.Id, office.Details()));
        (await StandAsync(July.AddMonths(2))).ShouldBe((2400, 400, 0));
        await _loft.WithAsync<TaxDesk>(t =>
            t.SaveAuthorityAsync(
                office.Id,
                office.Details() with
                {
                    Basis = TaxBasis.ByInvoice,
                },
                new DateOnly(2025, 10, 1)
            )
        );
        (await StandAsync(new DateOnly(2025, 9, 30))).ShouldBe((2400, 400, 0));
        (await StandAsync(new DateOnly(2025, 10, 1))).ShouldBe((2400, 0, 400));
        await MustAgreeAsync();
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task Books_that_knew_one_account_are_carried_over_with_entries_that_say_so(bool closed)
    {
        var bill = await BillAsync(July);
        await PayAsync(bill, July.AddDays(9), 104_00);
        await _loft.ExecuteAsync(
            """
            DELETE FROM JournalLines WHERE EntryId IN (SELECT Id FROM Journal WHERE Event = 'TaxMoved');
            DELETE FROM Journal WHERE Event = 'TaxMoved';
            UPDATE JournalLines SET AccountId = (SELECT Id FROM LedgerAccounts WHERE Name = 'Tax owed')
                WHERE AccountId IN (SELECT Id FROM LedgerAccounts WHERE Name LIKE 'Tax %, Harbour office');
            UPDATE TaxAuthorities SET OwedAccountId = NULL, NotDueAccountId = NULL;
            DELETE FROM LedgerAccounts WHERE Name LIKE 'Tax %, Harbour office'
            """
        );
        if (closed)
            await _loft.ExecuteAsync("UPDATE Businesses SET ClosedUpTo = '2025-07-31'");
        await _loft.WithAsync<BooksContext>(async db =>
        {
            var places = new TaxPlaces(db);
            (await places.EnsureAsync()).ShouldBeTrue();
            await places.PlaceAsync(db.TaxFigures, default);
            (await places.EnsureAsync()).ShouldBeFalse();
        });
        (await StandAsync(July.AddDays(9))).ShouldBe(closed ? (2800, 0, 0) : (2400, 200, 200));
        (await StandAsync(Loft.Today)).ShouldBe((2400, 200, 200));
        await MustAgreeAsync();
        var entries = await _loft.NumberAsync("SELECT COUNT(*) FROM Journal WHERE Event = 'TaxMoved'");
        await _loft.WithAsync<BooksContext>(db => new TaxPlaces(db).PlaceAsync(db.TaxFigures, default));
        (await _loft.NumberAsync("SELECT COUNT(*) FROM Journal WHERE Event = 'TaxMoved'")).ShouldBe(entries);
    }

    [Theory]
    [InlineData(
        "DELETE FROM JournalLines WHERE EntryId IN (SELECT Id FROM Journal WHERE Event = 'TaxMoved'); DELETE FROM Journal WHERE Event = 'TaxMoved'",
        "not on the accounts of its authorities"
    )]
    [InlineData(
        "UPDATE JournalLines SET AccountId = (SELECT OwedAccountId FROM TaxAuthorities WHERE Id = 1) WHERE AccountId = (SELECT NotDueAccountId FROM TaxAuthorities WHERE Id = 2)",
        "not on the accounts of its authorities"
    )]
    [InlineData("UPDATE Journal SET Date = '2025-07-02' WHERE Event = 'TaxMoved'", "not on the accounts of its")]
    [InlineData("UPDATE TaxAuthorities SET OwedAccountId = 1 WHERE Id = 2", "has not its own accounts")]
    [InlineData(
        "UPDATE TaxAuthorities SET OwedAccountId = (SELECT OwedAccountId FROM TaxAuthorities WHERE Id = 1)",
        "share"
    )]
    [InlineData("UPDATE TaxFigures SET AuthorityId = 1", "not on the accounts of its authorities")]
    [InlineData(
        "UPDATE JournalLines SET AccountId = 1 WHERE Id = (SELECT MAX(l.Id) FROM JournalLines l JOIN Journal e ON e.Id = l.EntryId WHERE e.Event = 'TaxMoved')",
        "is none of tax"
    )]
    public async Task A_tax_on_a_wrong_account_is_found(string damage, string found)
    {
        var bill = await BillAsync(July);
        await PayAsync(bill, July.AddDays(9), 104_00);
        await MustAgreeAsync();
        await _loft.ExecuteAsync(damage);
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(found));
    }

    [Fact]
    public async Task Nothing_else_is_booked_against_what_waits()
    {
        var account = (int)await _loft.NumberAsync("SELECT NotDueAccountId FROM TaxAuthorities WHERE Id = 2");
        await Should.ThrowAsync<Core.RefusalException>(() =>
            _loft.WithAsync<OtherMoneyDesk>(o =>
                o.PostAsync(new OtherMoneyToPost(Loft.Today, _loft.Bank, account, 100, null, "odd"))
            )
        );
        var kept = await _loft.WithAsync<BooksContext, LedgerAccount>(db =>
            db.LedgerAccounts.SingleAsync(a => a.Id == account)
        );
        Should.Throw<Core.RefusalException>(() => kept.Retire(true));
    }
}
