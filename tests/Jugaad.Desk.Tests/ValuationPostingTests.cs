using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// What is not realised, posted at a period's end. 1240.00 SEK of 1 September are kept at 108.38 and worth 111.72 on the
/// 17th; 500.00 SEK on an account came at 43.70 and are worth 45.05.
/// </summary>
public sealed class ValuationPostingTests : IAsyncLifetime
{
    private static readonly DateOnly Early = new(2025, 9, 1);
    private Loft _loft = null!;
    private int _crowns;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _crowns = await _loft.WithAsync<AccountsDesk, int>(a =>
            a.SaveAccountAsync(
                null,
                new AccountDetails
                {
                    Code = "1110",
                    Name = "Crowns",
                    Role = AccountRole.Money,
                    Currency = "SEK",
                }
            )
        );
        var invoice = await _loft.IssuedAsync(_loft.Content(100, 10, _loft.Swede, Early));
        var other = await _loft.ItemOfAsync((await _loft.IssuedAsync(_loft.Content(100, 10, _loft.Swede, Early))).Id);
        await _loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Swede, Early, _crowns, 50_000, "", [(other.Id, 50_000)]))
        );
        // The other invoice is written off whole again, so that one stays.
        await _loft.WithAsync<Settlements, int>(s => s.WriteOffAsync(other.Id, null, "gone", Early));
        _ = invoice;
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<int> PostAsync(DateOnly? day = null) =>
        _loft.WithAsync<ValuationDesk, int>(v => v.PostAsync(day ?? Loft.Today));

    private Task<long> OnAccountAsync(AccountRole role, DateOnly day) =>
        _loft.WithAsync<BooksContext, long>(db =>
            (
                from entry in db.Journal
                where entry.Date <= day
                from line in entry.Lines
                join account in db.LedgerAccounts on line.AccountId equals account.Id
                where account.Role == role
                select line.Debit - line.Credit
            ).SumAsync()
        );

    private async Task HealthyAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    private async Task<RefusalException> RefusedAsync(DateOnly day) =>
        await Should.ThrowAsync<RefusalException>(() => PostAsync(day));

    [Fact]
    public async Task It_stands_beside_receivables_for_its_day_and_is_taken_back_on_the_next()
    {
        var before = await OnAccountAsync(AccountRole.Receivables, Loft.Today);
        await PostAsync();
        // 3.34 of the invoice and 1.35 of the account.
        (await OnAccountAsync(AccountRole.Valuation, Loft.Today)).ShouldBe(469);
        (await OnAccountAsync(AccountRole.ExchangeDifferences, Loft.Today)).ShouldBe(-469);
        (await OnAccountAsync(AccountRole.Valuation, Loft.Today.AddDays(1))).ShouldBe(0);
        (await OnAccountAsync(AccountRole.ExchangeDifferences, Loft.Today.AddDays(1))).ShouldBe(0);
        (await OnAccountAsync(AccountRole.Receivables, Loft.Today)).ShouldBe(before);
        await HealthyAsync();
    }

    [Fact]
    public async Task Two_hands_at_once_on_money_of_another_currency_leave_it_once()
    {
        // 1240.00 are open; of four who each set 1000.00 against them at once, one is in time.
        var open = await _loft.WithAsync<BooksContext, int>(db =>
            db.AccountItems.Where(i => i.CustomerId == _loft.Swede && i.Open > 0).Select(i => i.Id).SingleAsync()
        );
        var paid = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => InTimeAsync(PayAsync)));
        paid.Count(p => p).ShouldBe(1);
        await HealthyAsync();
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => PostAsync()));
        (await _loft.NumberAsync("SELECT COUNT(*) FROM Valuations")).ShouldBe(1);
        await HealthyAsync();

        Task PayAsync() =>
            _loft.WithAsync<Receipts, int>(r =>
                r.PostAsync(new ReceiptToPost(_loft.Swede, Loft.Today, _crowns, 100_000, "", [(open, 100_000)]))
            );

        static async Task<bool> InTimeAsync(Func<Task> work)
        {
            try
            {
                await Task.Run(work);
                return true;
            }
            catch (RefusalException)
            {
                return false;
            }
        }
    }

    [Fact]
    public async Task Done_twice_it_is_done_once_and_after_a_change_the_new_one_takes_its_place()
    {
        var first = await PostAsync();
        (await PostAsync()).ShouldBe(first);
        (await OnAccountAsync(AccountRole.Valuation, Loft.Today)).ShouldBe(469);
        async Task<PostedValuation> ThereAsync() =>
            (await _loft.WithAsync<ValuationDesk, IReadOnlyList<PostedValuation>>(v => v.PostedAsync())).Single();
        (await ThereAsync()).IsAsNow.ShouldBeTrue();

        await _loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("SEK", Loft.Today, new QuotedRate(11m, true))));
        (await ThereAsync()).IsAsNow.ShouldBeFalse();
        (await PostAsync()).ShouldNotBe(first);
        // 1240.00 ÷ 11 = 112.73, and 500.00 ÷ 11 = 45.45.
        (await OnAccountAsync(AccountRole.Valuation, Loft.Today)).ShouldBe(435 + 175);
        (await OnAccountAsync(AccountRole.Valuation, Loft.Today.AddDays(1))).ShouldBe(0);
        await HealthyAsync();

        await _loft.WithAsync<Undoing>(async u => await u.UndoAsync((await ThereAsync()).BookingId));
        (await OnAccountAsync(AccountRole.Valuation, Loft.Today)).ShouldBe(0);
        await HealthyAsync();
        await PostAsync();
        (await OnAccountAsync(AccountRole.Valuation, Loft.Today)).ShouldBe(610);
        await HealthyAsync();
    }

    [Fact]
    public async Task It_is_not_posted_on_a_day_to_come_a_closed_one_or_where_there_is_nothing()
    {
        (await RefusedAsync(Loft.Today.AddDays(1))).Message.ShouldContain("yet to come");
        (await RefusedAsync(Early)).Message.ShouldContain("nothing to post");
        await _loft.WithAsync<Periods>(p => p.CloseUpToAsync(new DateOnly(2025, 9, 16)));
        (await RefusedAsync(new DateOnly(2025, 9, 16))).Message.ShouldContain("closed");
        await PostAsync();
        await HealthyAsync();
    }

    [Theory]
    [InlineData("UPDATE Valuations SET Day = '2025-09-16'")]
    [InlineData("UPDATE Valuations SET AccountId = 1")]
    [InlineData("UPDATE Valuations SET Parts = replace(Parts, '\"Home\":4505', '\"Home\":4506')")]
    [InlineData("UPDATE Valuations SET Parts = replace(Parts, '\"Kept\":4370', '\"Kept\":4371')")]
    [InlineData("UPDATE Valuations SET BookingId = 1")]
    [InlineData("DELETE FROM Valuations")]
    [InlineData(
        "UPDATE JournalLines SET Debit = Debit + 1 WHERE AccountId IN (SELECT Id FROM LedgerAccounts WHERE Role = 'Valuation') AND Debit > 0"
    )]
    [InlineData("UPDATE Journal SET Date = '2025-09-19' WHERE Event = 'ValuationReversed'")]
    public async Task The_check_finds_what_was_changed_behind_the_books(string sql)
    {
        await PostAsync();
        await _loft.ExecuteAsync("PRAGMA foreign_keys = OFF; " + sql);
        (await _loft.CheckAsync()).Differences.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task The_report_has_the_money_account_with_what_it_is_kept_at()
    {
        var report = await _loft.WithAsync<ValuationReports, Lists.Report>(v => v.ValuationAsync(Loft.Today));
        string Cell(int row, string key) =>
            Lists.Report.Text(report.Rows[row].Cells[report.Columns.ToList().FindIndex(c => c.Key == key)]);
        report.Rows.Count.ShouldBe(2);
        new[] { "kind", "number", "currency", "amount", "rate", "home", "kept", "difference" }
            .Select(k => Cell(0, k))
            .ShouldBe(["money account", "1110", "SEK", "500.00", "0.0901", "45.05", "43.70", "1.35"]);
        new[] { "amount", "home", "kept", "difference" }
            .Select(k => Cell(1, k))
            .ShouldBe(["1240.00", "111.72", "108.38", "3.34"]);
    }
}
