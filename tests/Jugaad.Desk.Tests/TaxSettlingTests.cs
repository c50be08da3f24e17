using Jugaad.Core;
using Jugaad.Core.Banking;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Jugaad.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>What becomes of what a return asks for, besides what is simply paid, and how the last one ends.</summary>
public sealed class TaxSettlingTests : IAsyncLifetime
{
    private static readonly DateOnly July = new(2025, 7, 1);
    private static readonly DateOnly August = new(2025, 8, 1);
    private Loft _loft = null!;
    private int _fees;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
        _fees = await _loft.WithAsync<AccountsDesk, int>(l =>
            l.AddAccountAsync("5300", "Charges of authorities", Core.Journal.AccountRole.Other)
        );
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private static DateOnly Last(DateOnly first) => first.AddMonths(1).AddDays(-1);

    private Task<TaxAuthority> BoardAsync() =>
        _loft.WithAsync<BooksContext, TaxAuthority>(db => db.TaxAuthorities.SingleAsync());

    private async Task SetAsync(Func<AuthorityDetails, AuthorityDetails> change)
    {
        var board = await BoardAsync();
        await _loft.WithAsync<TaxDesk>(t => t.SaveAuthorityAsync(board.Id, change(board.Details())));
    }

    private Task<Core.Documents.Document> BillAsync(DateOnly day, decimal price = 50) =>
        _loft.IssuedAsync(_loft.Content(2, price, date: day));

    private async Task<int> FileAsync(DateOnly first, DateOnly? last = null)
    {
        var board = await BoardAsync();
        var then = await _loft.WithAsync<TaxReturns, ReturnThen>(r =>
            r.ComputeAsync(board, first, last ?? Last(first))
        );
        return await _loft.WithAsync<ReturnFiling, int>(f =>
            f.FileAsync(new ReturnToFile(board.Id, first, last ?? Last(first), then.Tax, ""))
        );
    }

    private Task<int> PayAsync(int id, long amount, bool over = false) =>
        _loft.WithAsync<ReturnPaying, int>(p => p.PayAsync(new ReturnToPay(id, Loft.Today, _loft.Bank, amount, over)));

    private Task<int> ChargeAsync(int id, long amount, DateOnly? day = null, int? account = null) =>
        _loft.WithAsync<ReturnCharges, int>(c =>
            c.ChargeAsync(id, TaxChargeKind.LateFiling, day ?? Loft.Today, amount, account ?? _fees, "letter 7")
        );

    private async Task<ReturnBalance> BalanceAsync(int id) =>
        (await _loft.WithAsync<ReturnBalances, IReadOnlyDictionary<int, ReturnBalance>>(b => b.BalancesAsync([id])))[
            id
        ];

    private Task<long> OwedAsync() =>
        _loft.NumberAsync(
            "SELECT COALESCE(SUM(l.Credit - l.Debit), 0) FROM JournalLines l JOIN LedgerAccounts a ON a.Id = l.AccountId WHERE a.Role = 'TaxOwed'"
        );

    private static async Task<string> RefusedAsync(Func<Task> work) =>
        (await Should.ThrowAsync<RefusalException>(work)).Message;

    private async Task MustAgreeAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task What_an_authority_charges_is_owed_with_the_return_and_goes_back_whence_it_came()
    {
        await BillAsync(July);
        var id = await FileAsync(July);
        (await RefusedAsync(() => ChargeAsync(id, 0))).ShouldContain("above zero");
        (await RefusedAsync(() => ChargeAsync(id, 5_00, Last(July)))).ShouldContain("after the period");
        (await RefusedAsync(() => ChargeAsync(id, 5_00, Loft.Today.AddDays(1)))).ShouldContain("still to come");
        (await RefusedAsync(() => ChargeAsync(id, 5_00, account: _loft.Bank))).ShouldContain("other ledger accounts");
        var charge = await ChargeAsync(id, 5_00);
        (await BalanceAsync(id)).Left.ShouldBe(29_00);
        (await OwedAsync()).ShouldBe(29_00);
        await MustAgreeAsync();
        (await RefusedAsync(() => PayAsync(id, 29_01))).ShouldContain("29.00 is left");
        await PayAsync(id, 29_00);
        (await OwedAsync()).ShouldBe(0);
        await MustAgreeAsync();
        await _loft.WithAsync<ReturnCharges>(c => c.UnchargeAsync(charge));
        (await RefusedAsync(() => _loft.WithAsync<ReturnCharges>(c => c.UnchargeAsync(charge)))).ShouldContain(
            "was taken back on"
        );
        var balance = await BalanceAsync(id);
        (balance.Left, balance.IsOverpaid).ShouldBe((-5_00, true));
        (await OwedAsync()).ShouldBe(-5_00, "they owe it to us");
        await MustAgreeAsync();
        await PayAsync(id, 5_00);
        (await BalanceAsync(id)).Left.ShouldBe(0, "it came back");
        await MustAgreeAsync();
    }

    [Fact]
    public async Task A_return_with_a_charge_stays_filed_until_that_is_taken_back()
    {
        await BillAsync(July);
        var id = await FileAsync(July);
        var charge = await ChargeAsync(id, 5_00);
        (await RefusedAsync(() => _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(id, "wrong")))).ShouldContain(
            "charge"
        );
        await _loft.WithAsync<ReturnCharges>(c => c.UnchargeAsync(charge));
        await _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(id, "wrong"));
        (await OwedAsync()).ShouldBe(24_00);
        await MustAgreeAsync();
    }

    [Theory]
    [InlineData("UPDATE TaxCharges SET Amount = 600")]
    [InlineData("UPDATE TaxCharges SET Date = '2025-09-01'")]
    [InlineData("UPDATE TaxCharges SET AccountId = (SELECT MIN(Id) FROM LedgerAccounts WHERE Role = 'Sales')")]
    [InlineData("UPDATE TaxCharges SET UndoneOn = '2025-09-17'")]
    [InlineData("DELETE FROM TaxCharges")]
    public async Task A_charge_that_was_tampered_with_is_found(string damage)
    {
        await BillAsync(July);
        await ChargeAsync(await FileAsync(July), 5_00);
        await MustAgreeAsync();
        await _loft.ExecuteAsync(damage);
        (await _loft.CheckAsync()).Differences.ShouldNotBeEmpty();
    }

    [Theory]
    [InlineData("UPDATE TaxPayments SET Over = -1")]
    [InlineData("UPDATE TaxPayments SET Over = 0")]
    [InlineData("UPDATE TaxPayments SET Over = 2900")]
    public async Task What_is_said_to_be_paid_over_and_is_not_is_found(string damage)
    {
        await BillAsync(July);
        await PayAsync(await FileAsync(July), 29_00, over: true);
        await MustAgreeAsync();
        (await _loft.NumberAsync("SELECT Over FROM TaxPayments")).ShouldBe(5_00);
        await _loft.ExecuteAsync(damage);
        (await _loft.CheckAsync()).Differences.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task What_was_paid_too_much_goes_against_the_next_return_by_itself()
    {
        await BillAsync(July);
        await BillAsync(August, 25);
        var july = await FileAsync(July);
        (await RefusedAsync(() => PayAsync(july, 40_00))).ShouldContain("tick that more was paid");
        await PayAsync(july, 40_00, over: true);
        (await RefusedAsync(() => _loft.WithAsync<ReturnCarrying>(c => c.CarryAsync(july)))).ShouldContain(
            "Nothing else is to be paid"
        );
        await MustAgreeAsync();
        var august = await FileAsync(August);
        (await BalanceAsync(july)).Left.ShouldBe(-4_00, "12.00 of the 16.00 went on");
        var second = await BalanceAsync(august);
        (second.Left, second.CarriedIn).ShouldBe((0, 12_00));
        (await OwedAsync()).ShouldBe(-4_00);
        await MustAgreeAsync();
        (await RefusedAsync(() => _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(july, "wrong")))).ShouldContain(
            "later return"
        );
        await _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(august, "wrong"));
        (await BalanceAsync(july)).Left.ShouldBe(-16_00, "and came back with it");
        await MustAgreeAsync();
    }

    [Fact]
    public async Task A_payment_that_left_something_over_is_undone_and_what_went_on_is_paid_here()
    {
        await BillAsync(July);
        await BillAsync(August, 25);
        var july = await FileAsync(July);
        var paid = await PayAsync(july, 40_00, over: true);
        await FileAsync(August);
        await _loft.WithAsync<Undoing>(u => u.UndoAsync(paid));
        (await BalanceAsync(july)).Left.ShouldBe(36_00, "12.00 of it went to August's");
        await MustAgreeAsync();
        await PayAsync(july, 36_00);
        (await BalanceAsync(july)).Left.ShouldBe(0);
        (await OwedAsync()).ShouldBe(0);
        await MustAgreeAsync();
    }

    [Fact]
    public async Task What_was_paid_over_stands_when_what_was_carried_there_is_taken_apart_again()
    {
        var bill = await BillAsync(July);
        var july = await FileAsync(July);
        await PayAsync(july, 19_00);
        await _loft.WithAsync<Issuing.Credits>(c => c.CancelAsync(bill.Id, "wrong boat"));
        await BillAsync(August);
        var august = await FileAsync(August);
        _loft.Clock.Advance(TimeSpan.FromDays(20));
        await _loft.WithAsync<ReturnCarrying>(async c => await c.CarryAsync(await FileAsync(new DateOnly(2025, 9, 1))));
        (await BalanceAsync(august)).Left.ShouldBe(5_00);
        await PayAsync(august, 8_00, over: true);
        await MustAgreeAsync();
        var carried = await _loft.WithAsync<ReturnBalances, IReadOnlyList<ReturnCarried>>(b => b.CarriedAsync(august));
        await _loft.WithAsync<ReturnCarrying>(c => c.UncarryAsync(carried[0].Id));
        await MustAgreeAsync();
    }

    [Fact]
    public async Task What_is_to_come_back_goes_against_another_return_when_it_is_said_and_is_taken_apart_again()
    {
        var bill = await BillAsync(July);
        await FileAsync(July);
        await _loft.WithAsync<Issuing.Credits>(c => c.CancelAsync(bill.Id, "wrong boat"));
        await BillAsync(August, 10);
        await FileAsync(August);
        _loft.Clock.Advance(TimeSpan.FromDays(20));
        var september = await FileAsync(new DateOnly(2025, 9, 1));
        (await BalanceAsync(september)).Left.ShouldBe(-24_00, "it is not carried on unless it is said");
        await _loft.WithAsync<ReturnCarrying>(c => c.CarryAsync(september));
        var all = await _loft.WithAsync<BooksContext, List<int>>(db =>
            db.TaxReturns.OrderBy(r => r.Id).Select(r => r.Id).ToListAsync()
        );
        (await BalanceAsync(all[0])).Left.ShouldBe(0);
        (await BalanceAsync(all[1])).Left.ShouldBe(4_80, "the oldest came first");
        (await BalanceAsync(september)).Left.ShouldBe(0);
        await MustAgreeAsync();
        (
            await RefusedAsync(() => _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(september, "wrong")))
        ).ShouldContain("Take that apart");
        var carried = await _loft.WithAsync<ReturnBalances, IReadOnlyList<ReturnCarried>>(b => b.CarriedAsync(all[0]));
        await _loft.WithAsync<ReturnCarrying>(c => c.UncarryAsync(carried.Single().Id));
        (await BalanceAsync(all[0])).Left.ShouldBe(24_00);
        await MustAgreeAsync();
        await _loft.WithAsync<ReturnCarrying>(c => c.CarryAsync(september));
        await _loft.ExecuteAsync("UPDATE TaxCarries SET Amount = Amount + 1");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains("more was set against it"));
    }

    [Fact]
    public async Task The_last_return_ends_with_the_registration_and_nothing_is_taxed_after_it()
    {
        var bill = await BillAsync(July);
        (await RefusedAsync(() => SetAsync(d => d with { RegisteredTo = new(1980, 1, 1) }))).ShouldContain(
            "on or after the day on which it begins"
        );
        await FileAsync(July);
        await BillAsync(August.AddDays(9), 25);
        var end = August.AddDays(14);
        (await RefusedAsync(() => SetAsync(d => d with { RegisteredTo = July.AddDays(3) }))).ShouldContain(
            "A return is filed for days after"
        );
        await SetAsync(d => d with { RegisteredTo = end });
        (await BillAsync(end.AddDays(1))).Tax.ShouldBe(0);
        var due = (await _loft.WithAsync<ReturnFiling, IReadOnlyList<ReturnDue>>(f => f.DueAsync())).Single();
        (due.From, due.To, due.HasEnded).ShouldBe((August, end, true));
        await FileAsync(August, end);
        (await _loft.WithAsync<ReturnFiling, IReadOnlyList<ReturnDue>>(f => f.DueAsync())).ShouldBeEmpty();
        (await _loft.WithAsync<ReturnFiling, IReadOnlyList<AuthorityReturns>>(f => f.AuthoritiesAsync()))
            .Single()
            .Filed.Select(f => f.Tax)
            .ShouldBe([12_00, 24_00], "the history stays");
        await _loft.WithAsync<Issuing.Credits>(c => c.CancelAsync(bill.Id, "wrong boat"));
        due = (await _loft.WithAsync<ReturnFiling, IReadOnlyList<ReturnDue>>(f => f.DueAsync())).Single();
        due.From.ShouldBe(end.AddDays(1), "what is credited afterwards is told still");
        await MustAgreeAsync();
        await FileAsync(end.AddDays(1), Last(August));
        await SetAsync(d => d with { DueAfterDays = 30 });
        await MustAgreeAsync();
    }

    [Fact]
    public async Task The_days_of_a_registration_hold_what_was_told_of_them()
    {
        await BillAsync(July.AddDays(19));
        await SetAsync(d => d with { RegisteredFrom = July.AddDays(9) });
        await FileAsync(July.AddDays(9), Last(July));
        (await RefusedAsync(() => SetAsync(d => d with { RegisteredFrom = July.AddDays(10) }))).ShouldContain(
            "A return is filed for days before"
        );
        (await RefusedAsync(() => SetAsync(d => d with { RegisteredFrom = null }))).ShouldContain("is filed");
        await SetAsync(d => d with { RegisteredFrom = July.AddDays(-40) });
        await MustAgreeAsync();
        foreach (
            var (column, day) in new[]
            {
                ("RegisteredFrom", July.AddDays(10)),
                ("RegisteredFrom", August.AddDays(5)),
                ("RegisteredTo", July.AddDays(20)),
            }
        )
        {
            var board = await BoardAsync();
            var was = column == "RegisteredTo" ? board.RegisteredTo : board.RegisteredFrom;
            await _loft.ExecuteAsync($"UPDATE TaxAuthorities SET {column} = '{day:yyyy-MM-dd}'");
            (await _loft.CheckAsync()).Differences.ShouldContain(
                d => d.Contains("the business was not registered with it"),
                $"{column} {day}"
            );
            await _loft.ExecuteAsync(
                $"UPDATE TaxAuthorities SET {column} = {(was is null ? "NULL" : $"'{was:yyyy-MM-dd}'")}"
            );
        }

        await MustAgreeAsync();
    }

    [Fact]
    public async Task By_payment_what_is_not_paid_counts_on_the_last_day_of_the_registration()
    {
        await SetAsync(d => d with { Basis = TaxBasis.ByPayment });
        await BillAsync(July);
        var end = August.AddDays(14);
        (
            await _loft.WithAsync<TaxReturns, ReturnThen>(async r =>
                await r.ComputeAsync(await BoardAsync(), August, end)
            )
        ).Tax.ShouldBe(0);
        await SetAsync(d => d with { RegisteredTo = end });
        await FileAsync(July);
        var then = await _loft.WithAsync<TaxReturns, ReturnThen>(async r =>
            await r.ComputeAsync(await BoardAsync(), August, end)
        );
        then.Rows.Select(r => (r.Day, r.Tax)).ShouldBe([(end, 24_00)]);
        (await OwedAsync()).ShouldBe(24_00);
        await MustAgreeAsync();
        await SetAsync(d => d with { RegisteredTo = null });
        (await OwedAsync()).ShouldBe(0, "it waits for money again");
        await MustAgreeAsync();
    }

    private async Task<Banking.BenchLine> LineAsync(long amount, string text)
    {
        var line = new StatementLine(Loft.Today.AddDays(-1), amount, "Tax", "", text, "", $"B{amount}{text}");
        var file = CamtWriter.Write(
            "EE030099220012345678",
            Core.Amounts.Currency.Of("EUR"),
            "009",
            Loft.Today.AddDays(-10),
            Loft.Today.AddDays(-1),
            0,
            [line]
        );
        await _loft.WithAsync<Banking.Statements>(s => s.ReadInAsync(file, $"{amount}.xml", _loft.Bank));
        return (
            await _loft.WithAsync<Banking.MatchingBench, IReadOnlyList<Banking.BenchLine>>(b => b.ToPlaceAsync())
        ).Single();
    }

    [Fact]
    public async Task A_payment_noted_by_hand_is_joined_with_its_bank_line_and_not_paid_again()
    {
        await BillAsync(July);
        var id = await FileAsync(July);
        await PayAsync(id, 24_00);
        var line = await LineAsync(-24_00, "tax");
        var proposal = line.Proposals.Single();
        proposal.JoinsBookingId.ShouldNotBeNull();
        await _loft.WithAsync<Banking.MatchingBench>(b => b.AcceptAsync(line.Line.Id, proposal));
        (await _loft.WithAsync<ReturnBalances, IReadOnlyList<ReturnPaid>>(b => b.OfAsync([id])))
            .Single()
            .AtBank.ShouldBeTrue();
        await MustAgreeAsync();
    }

    [Fact]
    public async Task A_bank_line_that_nobody_noted_pays_its_return_and_is_put_back()
    {
        await SetAsync(d => d with { OurNumber = "LOFT 4711" });
        await BillAsync(July);
        var id = await FileAsync(July);
        var line = await LineAsync(-24_00, "loft4711");
        var proposal = line.Proposals.Single();
        (proposal.Certainty, proposal.PaysReturnId).ShouldBe((Core.Matching.Certainty.Sure, id));
        await _loft.WithAsync<Banking.MatchingBench>(b => b.AcceptAllSureAsync());
        (await BalanceAsync(id)).Left.ShouldBe(0);
        (await OwedAsync()).ShouldBe(0);
        await MustAgreeAsync();
        (
            await RefusedAsync(() => _loft.WithAsync<Banking.MatchingBench>(b => b.AcceptAsync(line.Line.Id, proposal)))
        ).ShouldContain("Nothing is left");
        await _loft.WithAsync<Banking.MatchingBench>(b => b.PutBackAsync(line.Line.Id));
        (await BalanceAsync(id)).Left.ShouldBe(24_00);
        await MustAgreeAsync();
    }

    private async Task TakeOverAsync(string row) =>
        MovingTests
            .Counts(
                await MovingTests.TakeAsync(_loft, MovingKind.OpenItems, $"customer,number,date,open,tax code\n{row}\n")
            )
            .ShouldBe((1, 0, 0, 0));

    private Task<Core.Accounts.AccountItem> TakenOverAsync(string number) =>
        _loft.WithAsync<BooksContext, Core.Accounts.AccountItem>(db =>
            db.AccountItems.AsNoTracking().SingleAsync(i => i.Number == number)
        );

    private async Task<(long Owed, long NotDue)> StandAsync() =>
        (
            await OwedAsync(),
            await _loft.NumberAsync(
                "SELECT COALESCE(SUM(l.Credit - l.Debit), 0) FROM JournalLines l JOIN LedgerAccounts a ON a.Id = l.AccountId WHERE a.Role = 'TaxNotDue'"
            )
        );

    [Fact]
    public async Task What_is_taken_over_carries_its_tax_where_that_is_told_as_it_is_paid()
    {
        await SetAsync(d => d with { Basis = TaxBasis.ByPayment });
        await TakeOverAsync("YARD,OLD-1,2025-06-10,124.00,STD");
        (await StandAsync()).ShouldBe((0, 24_00));
        await MustAgreeAsync();
        var item = await TakenOverAsync("OLD-1");
        await _loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Yard, July.AddDays(3), _loft.Bank, 62_00, "", [(item.Id, 62_00)]))
        );
        (await StandAsync()).ShouldBe((12_00, 12_00), "half is paid");
        await MustAgreeAsync();
        var look = await _loft.WithAsync<ReturnLooks, ReturnLook?>(async l =>
            await l.LookAsync((await BoardAsync()).Id, July, Last(July))
        );
        look!.Then.Rows.Select(r => (r.Number, r.Taxable, r.Tax)).ShouldBe([("OLD-1", 50_00, 12_00)]);
        (look.Journal.Posted, look.Journal.Apart.Count).ShouldBe((12_00, 0));
        await FileAsync(July);
        await MustAgreeAsync();
        var file = await _loft.WithAsync<Exporting, byte[]>(e => e.FileAsync(MovingKind.OpenItems, TableForm.Csv));
        System
            .Text.Encoding.UTF8.GetString(file)
            .Split('\n')
            .ShouldContain(l => l.Contains("OLD-1") && l.Contains("STD"));
    }

    [Fact]
    public async Task What_is_taken_over_is_put_right_and_taken_out_with_its_tax()
    {
        await SetAsync(d => d with { Basis = TaxBasis.ByPayment });
        await TakeOverAsync("YARD,OLD-1,2025-06-10,124.00,STD");
        var item = await TakenOverAsync("OLD-1");
        var right = new OpeningItemToPutRight(item.Id, "OLD-2", July, null, 248_00, null, "a typing mistake");
        await _loft.WithAsync<OpeningDesk>(o => o.PutItemRightAsync(right));
        (await StandAsync()).ShouldBe((0, 48_00));
        await MustAgreeAsync();
        // A cent of 1.00 would be 3.55 of 1000.00: the tax is worked out anew, not carried up.
        foreach (var (amount, tax) in new[] { (1_00L, 19L), (1_000_00L, 193_55L) })
        {
            await _loft.WithAsync<OpeningDesk>(o => o.PutItemRightAsync(right with { Amount = amount }));
            (await StandAsync()).ShouldBe((0, tax));
            await MustAgreeAsync();
        }

        await _loft.WithAsync<OpeningDesk>(o => o.TakeItemOutAsync(item.Id, "paid long ago"));
        (await StandAsync()).ShouldBe((0, 0));
        await MustAgreeAsync();
    }

    [Fact]
    public async Task What_the_books_before_have_told_is_not_told_again()
    {
        await TakeOverAsync("YARD,OLD-1,2025-06-10,124.00,STD");
        (await _loft.NumberAsync("SELECT COUNT(*) FROM TaxFigures")).ShouldBe(0, "by invoice it was told there");
        await SetAsync(d => d with { Basis = TaxBasis.ByPayment, MostMonths = 2 });
        await TakeOverAsync("YARD,OLD-2,2025-06-10,124.00,STD");
        (await _loft.NumberAsync("SELECT COUNT(*) FROM TaxFigures")).ShouldBe(0, "it counted there by its age");
        await TakeOverAsync("YARD,OLD-3,2025-09-01,124.00,STD");
        (await _loft.NumberAsync("SELECT SUM(Tax) FROM TaxFigures")).ShouldBe(24_00);
        await MustAgreeAsync();
    }

    [Theory]
    [InlineData("UPDATE TaxFigures SET Tax = Tax + 5")]
    [InlineData("UPDATE TaxFigures SET Taxable = Taxable * 2")]
    [InlineData("UPDATE TaxFigures SET Date = '2025-06-11'")]
    [InlineData("UPDATE TaxFigures SET ItemId = NULL")]
    [InlineData("DELETE FROM TaxFigures")]
    public async Task Tax_that_was_taken_over_and_tampered_with_is_found(string damage)
    {
        await SetAsync(d => d with { Basis = TaxBasis.ByPayment });
        await TakeOverAsync("YARD,OLD-1,2025-06-10,124.00,STD");
        await MustAgreeAsync();
        await _loft.ExecuteAsync(damage);
        (await _loft.CheckAsync()).Differences.ShouldNotBeEmpty();
    }
}
