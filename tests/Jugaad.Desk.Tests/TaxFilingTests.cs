using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Tax returns on real books: what they tell, that they agree with the journal, and that they stay.</summary>
public sealed class TaxFilingTests : IAsyncLifetime
{
    private static readonly DateOnly July = new(2025, 7, 1);
    private static readonly DateOnly August = new(2025, 8, 1);
    private Loft _loft = null!;
    private TaxAuthority _board = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
        _board = await _loft.WithAsync<BooksContext, TaxAuthority>(db => db.TaxAuthorities.SingleAsync());
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private async Task ByPaymentAsync()
    {
        await _loft.WithAsync<TaxDesk>(t =>
            t.SaveAuthorityAsync(_board.Id, _board.Details() with { Basis = TaxBasis.ByPayment })
        );
        _board = await _loft.WithAsync<BooksContext, TaxAuthority>(db => db.TaxAuthorities.SingleAsync());
    }

    private static DateOnly Last(DateOnly first) => first.AddMonths(1).AddDays(-1);

    private Task<ReturnThen> LookAsync(DateOnly first, DateOnly? last = null) =>
        _loft.WithAsync<TaxReturns, ReturnThen>(r => r.ComputeAsync(_board, first, last ?? Last(first)));

    private async Task<int> FileAsync(DateOnly first, long? seen = null, string reference = "")
    {
        var then = await LookAsync(first);
        return await _loft.WithAsync<ReturnFiling, int>(f =>
            f.FileAsync(new ReturnToFile(_board.Id, first, Last(first), seen ?? then.Tax, reference))
        );
    }

    private async Task<AccountItem> BillAsync(DateOnly day, decimal price = 50) =>
        await _loft.ItemOfAsync((await _loft.IssuedAsync(_loft.Content(2, price, date: day))).Id);

    private static string Told(ReturnThen then) =>
        string.Join(", ", then.Summary.Select(s => $"{s.Percent:0.##}: {s.Taxable} + {s.Tax}"));

    /// <summary>Tax owed by the journal at the end of a day; minor units.</summary>
    private Task<long> OwedAsync(DateOnly day) =>
        _loft.WithAsync<BooksContext, long>(db =>
            (
                from entry in db.Journal
                where entry.Date <= day
                from line in entry.Lines
                where db.LedgerAccounts.Any(a => a.Id == line.AccountId && a.Role == AccountRole.TaxOwed)
                select line.Credit - line.Debit
            ).SumAsync()
        );

    [Fact]
    public async Task An_invoice_a_credit_and_a_discount_are_told_in_their_months_and_agree_with_the_journal()
    {
        var bill = await BillAsync(July.AddDays(2));
        await BillAsync(August.AddDays(4), 10);
        var invoice = bill.DocumentId!.Value;
        await _loft.WithAsync<Credits>(c => c.CancelAsync(invoice, "wrong boat"));
        Told(await LookAsync(July)).ShouldBe("24: 10000 + 2400");
        Told(await LookAsync(August)).ShouldBe("24: 12000 + 2880", "July is not filed, so all of it is told");
        await FileAsync(July);
        Told(await LookAsync(August)).ShouldBe("24: 2000 + 480");
        await FileAsync(August);
        var september = await LookAsync(new DateOnly(2025, 9, 1));
        Told(september).ShouldBe("24: -10000 + -2400", "the credit note counts on its own day");
        (2400 + 480 + september.Tax).ShouldBe(await OwedAsync(Loft.Today));
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task By_payment_parts_and_what_is_given_up_count_as_they_are_set()
    {
        await ByPaymentAsync();
        var bill = await BillAsync(July.AddDays(2));
        await _loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Yard, July.AddDays(20), _loft.Bank, 62_00, "", [(bill.Id, 62_00)]))
        );
        (await LookAsync(July)).Basis.ShouldBe(TaxBasis.ByPayment);
        Told(await LookAsync(July)).ShouldBe("24: 5000 + 1200");
        await FileAsync(July);
        Told(await LookAsync(August)).ShouldBe("");
        await FileAsync(August);
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(bill.Id, null, "gone"));
        Told(await LookAsync(new DateOnly(2025, 9, 1))).ShouldBe("", "both sides count, which is nothing");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_filed_return_never_changes_and_what_comes_after_is_late_in_the_next()
    {
        await BillAsync(July.AddDays(2));
        var id = await FileAsync(July, reference: "R-1");
        await BillAsync(July.AddDays(9), 5);
        await BillAsync(August.AddDays(9), 1);
        var filed = await _loft.WithAsync<TaxReturns, ReturnThen>(r => r.FiledAsync(_board, July, Last(July)));
        (filed.Tax, filed.Filed!.Reference, filed.Filed.FiledOn).ShouldBe((24_00, "R-1", Loft.Today));
        var august = await LookAsync(August);
        Told(august).ShouldBe("24: 1200 + 288");
        august.Late.Single().Tax.ShouldBe(2_40);
        august.Rows.Count(r => r.IsLate).ShouldBe(1);
        await FileAsync(August);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(id, "a mistake"))
            )
        ).Message.ShouldContain("A later return is filed");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_filed_and_is_undone_since_is_taken_back_in_the_next()
    {
        var bill = await BillAsync(July.AddDays(2));
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(bill.Id, null, "gone", July.AddDays(20)));
        await FileAsync(July);
        await _loft.WithAsync<Undoing>(u => u.UndoAsync((int)_loft.NumberAsync("SELECT MAX(Id) FROM Bookings").Result));
        var august = await LookAsync(August);
        Told(august).ShouldBe("24: 10000 + 2400");
        august.Rows.Single().IsLate.ShouldBeTrue();
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await FileAsync(August);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Returns_are_filed_in_their_order_after_their_period_and_not_unseen()
    {
        await BillAsync(July.AddDays(2));
        var due = (await _loft.WithAsync<ReturnFiling, IReadOnlyList<ReturnDue>>(f => f.DueAsync())).Single();
        (due.From, due.To, due.Due, due.HasEnded).ShouldBe((July, Last(July), new DateOnly(2025, 8, 20), true));
        due.DaysLeft.ShouldBe(-28);
        (await Should.ThrowAsync<RefusalException>(() => FileAsync(August))).Message.ShouldContain("in their order");
        (await Should.ThrowAsync<RefusalException>(() => FileAsync(July, 1))).Message.ShouldContain(
            "24.00 now, not 0.01"
        );
        var july = await FileAsync(July);
        await FileAsync(August);
        (await Should.ThrowAsync<RefusalException>(() => FileAsync(new DateOnly(2025, 9, 1)))).Message.ShouldContain(
            "The period ends on"
        );
        var august = (int)await _loft.NumberAsync("SELECT MAX(Id) FROM TaxReturns");
        await Should.ThrowAsync<RefusalException>(() =>
            _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(august, " "))
        );
        await _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(august, "a box was wrong"));
        await _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(july, "so was this"));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                _loft.WithAsync<TaxReturns>(r => r.FiledAsync(_board, July, Last(July)))
            )
        ).Message.ShouldContain("No return to");
        Told(await LookAsync(July)).ShouldBe("24: 10000 + 2400");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                _loft.WithAsync<TaxReturns>(r => r.AuthorityAsync("Moon Office"))
            )
        ).Message.ShouldContain(_board.Name);
    }

    [Fact]
    public async Task A_debt_that_is_given_up_takes_its_tax_away_only_where_that_is_said()
    {
        var bill = await BillAsync(July.AddDays(2));
        await FileAsync(July);
        await FileAsync(August);
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(bill.Id, 62_00, "gone", null, default, false));
        Told(await LookAsync(new DateOnly(2025, 9, 1))).ShouldBe("", "its tax stays owed");
        (await OwedAsync(Loft.Today)).ShouldBe(24_00);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(bill.Id, 62_00, "gone too"));
        Told(await LookAsync(new DateOnly(2025, 9, 1))).ShouldBe("24: -5000 + -1200");
        (await OwedAsync(Loft.Today)).ShouldBe(12_00);
        var kept = (int)await _loft.NumberAsync("SELECT MIN(Id) FROM Settlements");
        await _loft.WithAsync<Settlements>(s => s.RecoverAsync(kept, 31_00));
        (await OwedAsync(Loft.Today)).ShouldBe(12_00, "nothing came back of a tax that never went");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task The_tax_of_a_debt_given_up_is_taken_back_from_the_day_on_which_that_may_be(bool byPayment)
    {
        if (byPayment)
            await ByPaymentAsync();
        var bill = await BillAsync(July.AddDays(2));
        await _loft.WithAsync<Settlements>(s =>
            s.WriteOffAsync(bill.Id, null, "gone", July.AddDays(9), lowersTax: false)
        );
        Told(await LookAsync(July)).ShouldBe("24: 10000 + 2400", "its tax stays owed");
        await FileAsync(July);
        var given = (int)await _loft.NumberAsync("SELECT MAX(Id) FROM Settlements");
        Task<int> TakeAsync(string why, DateOnly? day = null) =>
            _loft.WithAsync<Settlements, int>(s => s.TakeTaxOffAsync(given, why, day));
        async Task<string> RefusedAsync(string why, DateOnly? day = null) =>
            (await _loft.RefusedAsync(() => TakeAsync(why, day))).Message;
        (await RefusedAsync(" ")).ShouldContain("meets the authority's conditions");
        (await RefusedAsync("early", July.AddDays(8))).ShouldContain("2025-07-10");
        (await RefusedAsync("soon", Loft.Today.AddDays(1))).ShouldContain("yet to come");
        var before = await _loft.PictureAsync();
        var booking = await TakeAsync("wound up", August.AddDays(4));
        Told(await LookAsync(July)).ShouldBe("24: 10000 + 2400");
        Told(await LookAsync(August)).ShouldBe("24: -10000 + -2400");
        (await OwedAsync(Loft.Today)).ShouldBe(0);
        (await OwedAsync(August.AddDays(3))).ShouldBe(24_00);
        (await _loft.NumberAsync("SELECT SUM(Open) FROM AccountItems")).ShouldBe(0);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        (await RefusedAsync("again")).ShouldContain("was taken back on 2025-08-05");
        await _loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
        (await _loft.PictureAsync()).ShouldBe(before);
        Told(await LookAsync(August)).ShouldBe("");
        await TakeAsync("wound up after all", August.AddDays(5));
        await FileAsync(August);
        foreach (
            var (from, to) in new[]
            {
                (BookingKind.TaxOfBadDebt, BookingKind.WriteOff),
                (BookingKind.WriteOff, BookingKind.TaxOfBadDebt),
            }
        )
        {
            var ids = await _loft.WithAsync<BooksContext, string>(async db =>
                string.Join(
                    ',',
                    await db.Bookings.Where(b => b.Kind == from && b.UndoneOn == null).Select(b => b.Id).ToListAsync()
                )
            );
            await _loft.ExecuteAsync($"UPDATE Bookings SET Kind = '{to}' WHERE Id IN ({ids})");
            (await _loft.CheckAsync()).Differences.ShouldNotBeEmpty($"{from} as {to}");
            await _loft.ExecuteAsync($"UPDATE Bookings SET Kind = '{from}' WHERE Id IN ({ids})");
        }

        // What is paid after that brings its tax back too.
        var again = (int)await _loft.NumberAsync("SELECT MAX(Id) FROM Settlements");
        await _loft.WithAsync<Settlements>(s => s.RecoverAsync(again, 62_00));
        if (!byPayment)
            Told(await LookAsync(new DateOnly(2025, 9, 1))).ShouldBe("24: 5000 + 1200");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_boxes_said_stays_with_the_return_whatever_becomes_of_the_set()
    {
        ReturnBox[] set =
        [
            new()
            {
                Number = "1",
                Name = "Sales",
                Sum = BoxSum.Taxable,
                Rounding = BoxRounding.Unit,
            },
            new()
            {
                Number = "2",
                Name = "Tax",
                Sum = BoxSum.Tax,
            },
            new()
            {
                Number = "3",
                Name = "Both",
                Formula = "1 + 2",
            },
        ];
        await _loft.WithAsync<TaxDesk>(t => t.SaveBoxesAsync(_board.Id, set));
        _board = await _loft.WithAsync<BooksContext, TaxAuthority>(db => db.TaxAuthorities.SingleAsync());
        await BillAsync(July.AddDays(2), 50.30m);
        await FileAsync(July);
        await _loft.WithAsync<TaxDesk>(t => t.SaveBoxesAsync(_board.Id, []));
        var filed = await _loft.WithAsync<TaxReturns, ReturnThen>(r => r.FiledAsync(_board, July, Last(July)));
        filed.Boxes.Select(b => (b.Number, b.Amount)).ShouldBe([("1", 101_00), ("2", 24_14), ("3", 125_14)]);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.ExecuteAsync("UPDATE TaxReturns SET Boxes = REPLACE(Boxes, '2414', '2415')");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains("its boxes do not follow"));
    }

    private Task<int> PayAsync(int filed, long amount) =>
        _loft.WithAsync<ReturnPaying, int>(p => p.PayAsync(new ReturnToPay(filed, Loft.Today, _loft.Bank, amount)));

    [Fact]
    public async Task A_return_is_paid_in_parts_never_more_than_it_tells_and_undone_like_any_money()
    {
        await BillAsync(July.AddDays(2));
        var july = await FileAsync(July);
        var first = await PayAsync(july, 14_00);
        (await Should.ThrowAsync<RefusalException>(() => PayAsync(july, 10_01))).Message.ShouldContain("10.00 is left");
        (await Should.ThrowAsync<RefusalException>(() => PayAsync(july, 0))).Message.ShouldContain("above zero");
        await PayAsync(july, 10_00);
        (await OwedAsync(Loft.Today)).ShouldBe(0);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        (
            await Should.ThrowAsync<RefusalException>(() =>
                _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(july, "a mistake"))
            )
        ).Message.ShouldContain("Something was paid");
        await _loft.WithAsync<Undoing>(u => u.UndoAsync(first));
        (await _loft.WithAsync<ReturnBalances, IReadOnlyList<ReturnPaid>>(p => p.OfAsync([july])))
            .Sum(p => p.Amount)
            .ShouldBe(10_00);
        (await OwedAsync(Loft.Today)).ShouldBe(14_00);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await FileAsync(August);
        var look = await _loft.WithAsync<ReturnLooks, ReturnLook?>(l =>
            l.LookAsync(_board.Id, new DateOnly(2025, 9, 1), new DateOnly(2025, 9, 30))
        );
        look!.Journal.Posted.ShouldBe(0, "what was paid is no tax that was posted");
        await _loft.ExecuteAsync("DELETE FROM TaxPayments");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains("pays no return"));
    }

    [Fact]
    public async Task What_comes_back_from_an_authority_is_money_that_came()
    {
        var bill = await BillAsync(July.AddDays(2));
        await FileAsync(July);
        await FileAsync(August);
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(bill.Id, null, "gone", July.AddDays(50)));
        var september = await LookAsync(new DateOnly(2025, 9, 1));
        september.Tax.ShouldBe(-24_00);
        _loft.Clock.Advance(TimeSpan.FromDays(20));
        var filed = await _loft.WithAsync<ReturnFiling, int>(f =>
            f.FileAsync(new ReturnToFile(_board.Id, september.From, september.To, -24_00, ""))
        );
        await PayAsync(filed, 24_00);
        (await _loft.NumberAsync("SELECT SUM(Amount) FROM OtherMoney")).ShouldBe(24_00, "it came in");
        (await OwedAsync(Loft.Today.AddDays(30))).ShouldBe(24_00, "July's is owed still");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.ExecuteAsync("UPDATE TaxPayments SET ReturnId = 1");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains("more was paid of it than it tells"));
    }

    private Task ChangeAsync(TaxBasis basis, DateOnly? since, int? mostMonths = null) =>
        _loft.WithAsync<TaxDesk>(t =>
            t.SaveAuthorityAsync(_board.Id, _board.Details() with { Basis = basis, MostMonths = mostMonths }, since)
        );

    private async Task<string> ChangeRefusedAsync(TaxBasis basis, DateOnly? since) =>
        (await Should.ThrowAsync<RefusalException>(() => ChangeAsync(basis, since))).Message;

    [Fact]
    public async Task From_by_payment_to_by_invoice_and_back_nothing_is_lost_or_told_twice()
    {
        await ChangeAsync(TaxBasis.ByPayment, null);
        _board = await _loft.WithAsync<BooksContext, TaxAuthority>(db => db.TaxAuthorities.SingleAsync());
        var bill = await BillAsync(July.AddDays(2));
        await _loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Yard, July.AddDays(20), _loft.Bank, 31_00, "", [(bill.Id, 31_00)]))
        );
        await FileAsync(July);
        (await ChangeRefusedAsync(TaxBasis.ByInvoice, null)).ShouldContain("2025-08-01 or later");
        (await ChangeRefusedAsync(TaxBasis.ByInvoice, July)).ShouldContain("stay as they were told");
        (await ChangeRefusedAsync(TaxBasis.ByInvoice, August.AddDays(3))).ShouldContain(
            "first day, such as 2025-09-01"
        );
        await ChangeAsync(TaxBasis.ByInvoice, August);
        _board = await _loft.WithAsync<BooksContext, TaxAuthority>(db => db.TaxAuthorities.SingleAsync());
        var august = await LookAsync(August);
        (august.Basis, Told(august)).ShouldBe((TaxBasis.ByInvoice, "24: 7500 + 1800"));
        august.Rows.Single().Day.ShouldBe(August);
        await FileAsync(August);
        await ChangeAsync(TaxBasis.ByPayment, new DateOnly(2025, 9, 1), 2);
        _board = await _loft.WithAsync<BooksContext, TaxAuthority>(db => db.TaxAuthorities.SingleAsync());
        _board.Changes.Count.ShouldBe(2);
        await BillAsync(Loft.Today, 10);
        await _loft.ReceiveAsync(93_00, (bill.Id, 93_00));
        var later = await LookAsync(new DateOnly(2025, 9, 1), new DateOnly(2025, 10, 31));
        Told(later).ShouldBe("", "what was told by invoice does not count again, and the new one waits");
        Told(await LookAsync(new DateOnly(2025, 11, 1))).ShouldBe("24: 2000 + 480", "two months are over");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("UPDATE TaxFigures SET Tax = Tax + 1", "is told to an authority otherwise")]
    [InlineData("UPDATE TaxFigures SET Taxable = 0", "is told to an authority otherwise")]
    [InlineData("UPDATE TaxFigures SET Date = '2025-01-01'", "is told to an authority otherwise")]
    [InlineData("UPDATE TaxFigures SET Percent = 1", "is told to an authority otherwise")]
    [InlineData("UPDATE TaxFigures SET Number = 'X'", "is told to an authority otherwise")]
    [InlineData("UPDATE TaxFigures SET ItemId = NULL", "was not posted so")]
    [InlineData("UPDATE TaxFigures SET SettlementId = 1", "was not posted so")]
    [InlineData("DELETE FROM TaxFigures", "is told to no authority")]
    [InlineData("UPDATE FiledRows SET Tax = 1", "do not add up")]
    [InlineData("UPDATE FiledRows SET Day = '2025-08-09'", "tells what counted after it")]
    [InlineData("UPDATE FiledRows SET IsLate = 1", "is called late")]
    [InlineData("UPDATE FiledRows SET Tax = 1; UPDATE TaxReturns SET Tax = 1", "told otherwise in filed returns")]
    [InlineData("UPDATE TaxReturns SET \"From\" = '2025-06-01' WHERE Id = 2", "does not follow the one before")]
    [InlineData("UPDATE TaxReturns SET FiledOn = \"To\"", "tells what counted after it")]
    public async Task What_is_told_wrongly_is_found(string damage, string found)
    {
        await BillAsync(July.AddDays(2));
        await FileAsync(July);
        await FileAsync(August);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.ExecuteAsync(damage);
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(found));
    }

    /// <summary>
    /// A year by dice: bills, credits, money, debts given up, undone bookings, and returns filed as they fall due.
    /// </summary>
    [Theory]
    [InlineData(1, TaxBasis.ByInvoice)]
    [InlineData(2, TaxBasis.ByInvoice)]
    [InlineData(3, TaxBasis.ByPayment)]
    [InlineData(4, TaxBasis.ByPayment)]
    public async Task All_that_was_filed_and_what_is_not_yet_come_to_what_counts(int seed, TaxBasis basis)
    {
        if (basis == TaxBasis.ByPayment)
            await ByPaymentAsync();
        var dice = new Random(seed);
        for (var turn = 0; turn < 50; turn++)
        {
            var today = DateOnly.FromDateTime(_loft.Clock.GetLocalNow().DateTime);
            try
            {
                await PlayAsync(dice, today);
            }
            catch (RefusalException)
            {
                // What cannot be done is not done; the dice do not know.
            }

            // Whatever was told, tax owed is at the end of any day all that counted up to it.
            var day = today.AddDays(-dice.Next(0, 90));
            (await OwedAsync(day)).ShouldBe(
                (await LookAsync(new DateOnly(2020, 1, 1), day)).Tax,
                $"turn {turn}, {day}"
            );
            var due = (await _loft.WithAsync<ReturnFiling, IReadOnlyList<ReturnDue>>(f => f.DueAsync())).Single();
            if (due.HasEnded && dice.Next(3) == 0)
                await FileAsync(due.From);
            _loft.Clock.Advance(TimeSpan.FromDays(dice.Next(0, 9)));
        }

        var end = DateOnly.FromDateTime(_loft.Clock.GetLocalNow().DateTime).AddYears(1);
        var filed = await _loft.NumberAsync("SELECT COALESCE(SUM(Tax), 0) FROM TaxReturns");
        (await _loft.NumberAsync("SELECT COUNT(*) FROM TaxReturns")).ShouldBeGreaterThan(2);
        var next = (await _loft.WithAsync<ReturnFiling, IReadOnlyList<ReturnDue>>(f => f.DueAsync())).Single();
        var rest = await LookAsync(next.From, end);
        (filed + rest.Tax).ShouldBe(await OwedAsync(end));
        if (basis == TaxBasis.ByPayment)
            (filed + rest.Tax).ShouldBe(await CountedAsync());
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    /// <summary>By payment, from the accounts alone: each item's tax in the proportion of what is set against it.</summary>
    private async Task<long> CountedAsync()
    {
        var items = await _loft.WithAsync<BooksContext, List<(long Tax, long Amount, long Open)>>(async db =>
            (
                await db
                    .TaxFigures.Where(f => f.Item != null)
                    .GroupBy(f => new
                    {
                        f.ItemId,
                        f.Item!.Amount,
                        f.Item.Open,
                    })
                    .Select(g => new
                    {
                        Tax = g.Sum(f => f.Tax),
                        g.Key.Amount,
                        g.Key.Open,
                    })
                    .ToListAsync()
            ).ConvertAll(g => (g.Tax, g.Amount, g.Open))
        );
        return items.Sum(i => Core.Amounts.Rounding.Share(i.Tax, i.Amount - i.Open, i.Amount));
    }

    private async Task PlayAsync(Random dice, DateOnly today)
    {
        var open = await _loft.WithAsync<BooksContext, List<AccountItem>>(db =>
            db.AccountItems.AsNoTracking().Where(i => i.Open > 0 && i.Sign > 0).ToListAsync()
        );
        var item = open.Count == 0 ? null : open[dice.Next(open.Count)];
        switch (dice.Next(6))
        {
            case 0 or 1:
                await BillAsync(today.AddDays(-dice.Next(0, 60)), dice.Next(1, 300) + 0.33m);
                break;
            case 2 when item is not null:
                var part = dice.Next(2) == 0 ? item.Open : Math.Max(1, item.Open / 3);
                await _loft.WithAsync<Receipts>(r =>
                    r.PostAsync(new ReceiptToPost(_loft.Yard, today, _loft.Bank, part, "", [(item.Id, part)]))
                );
                break;
            case 3 when item?.DocumentId is { } bill:
                await _loft.WithAsync<Credits>(c => c.CancelAsync(bill, "wrong"));
                break;
            case 4 when item is not null:
                await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(item.Id, null, "gone"));
                break;
            case 5:
                var booking = (int)await _loft.NumberAsync("SELECT COALESCE(MAX(Id), 0) FROM Bookings");
                await _loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
                break;
        }
    }

    [Fact]
    public async Task Sales_within_the_union_and_the_tax_of_each_document_are_told()
    {
        await BillAsync(July.AddDays(2));
        var union = await _loft.WithAsync<TaxReports, Report>(r => r.UnionSalesAsync(July, Last(July)));
        union.Rows.ShouldBeEmpty("nothing was sold there");
        var byDocument = await _loft.WithAsync<TaxReports, Report>(r => r.ByDocumentAsync(July, Last(July)));
        byDocument.Rows.Single().Cells[^2].ShouldBe(new Core.Amounts.Money(100_00, Core.Amounts.Currency.Of("EUR")));
        byDocument.Rows.Single().Cells[5].ShouldBe("STD");
    }

    [Fact]
    public async Task A_credit_on_a_sale_to_the_union_of_an_earlier_month_stands_apart_with_that_month()
    {
        await _loft.ExecuteAsync("UPDATE Businesses SET TaxNumber = 'EE101188342', Address_Country = 'EE'");
        await _loft.ExecuteAsync(
            $"UPDATE Customers SET TaxNumber = 'SE556011223301', Currency = 'EUR', Address_Country = 'SE' WHERE Id = {_loft.Swede}"
        );
        var code = await _loft.WithAsync<TaxDesk, int>(t =>
            t.SaveCodeAsync(
                null,
                new TaxCodeToAdd("EUS", "To the union", TaxCategory.ReverseCharge, "Reverse charge.", [])
            )
        );
        DraftContent To(DateOnly day, decimal price)
        {
            var plain = _loft.Content(1, price, _loft.Swede, day);
            return plain with { Lines = [plain.Lines[0] with { TaxCodeId = code }] };
        }
        var july = await _loft.IssuedAsync(To(July.AddDays(2), 300));
        await _loft.IssuedAsync(To(August.AddDays(2), 100));
        await _loft.WithAsync<Credits>(c => c.CancelAsync(july.Id, "wrong boat"));
        var day = (
            await _loft.NumberAsync("SELECT COUNT(*) FROM Documents WHERE Kind = 'CreditNote' AND Date >= '2025-09-01'")
        );
        day.ShouldBe(1);
        var report = await _loft.WithAsync<TaxReports, Report>(r =>
            r.UnionSalesAsync(August, new DateOnly(2025, 9, 30))
        );
        report
            .Rows.Select(r => (Report.Text(r.Cells[0]), Report.Text(r.Cells[3]), Report.Text(r.Cells[4])))
            .ShouldBe([("SE556011223301", "100.00", ""), ("SE556011223301", "-300.00", "2025-07")]);
        var whole = await _loft.WithAsync<TaxReports, Report>(r => r.UnionSalesAsync(July, new DateOnly(2025, 9, 30)));
        whole.Rows.Select(r => Report.Text(r.Cells[3])).ShouldBe(["100.00"], "within one period it is one figure");
    }
}
