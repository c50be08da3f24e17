using Jugaad.Core;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>What becomes of a return once it left the house, and what was typed into it.</summary>
public sealed class TaxAmendmentTests : IAsyncLifetime
{
    private static readonly DateOnly July = new(2025, 7, 1);
    private static readonly DateOnly August = new(2025, 8, 1);
    private Loft _loft = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
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

    private async Task<ReturnThen> LookAsync(DateOnly first)
    {
        var board = await BoardAsync();
        return await _loft.WithAsync<TaxReturns, ReturnThen>(r => r.ComputeAsync(board, first, Last(first)));
    }

    private async Task<int> FileAsync(DateOnly first, params TypedBox[] typed)
    {
        var then = await LookAsync(first);
        return await _loft.WithAsync<ReturnFiling, int>(f =>
            f.FileAsync(new ReturnToFile(then.Authority.Id, first, Last(first), then.Tax, "") { Typed = typed })
        );
    }

    private async Task<long> LateTaxAsync(DateOnly first)
    {
        var board = await BoardAsync();
        return (await _loft.WithAsync<TaxReturns, LateOfPeriod>(r => r.LateOfAsync(board, first, Last(first)))).Tax;
    }

    private async Task<int> AmendAsync(DateOnly first, string reason = "an invoice was found", long? seen = null)
    {
        var late = seen ?? await LateTaxAsync(first);
        var board = await BoardAsync();
        return await _loft.WithAsync<ReturnFiling, int>(f => f.AmendAsync(board.Id, first, Last(first), reason, late));
    }

    private static async Task<string> RefusedAsync(Func<Task> work) =>
        (await Should.ThrowAsync<RefusalException>(work)).Message;

    private Task<Core.Documents.Document> BillAsync(DateOnly day, decimal price = 50) =>
        _loft.IssuedAsync(_loft.Content(2, price, date: day));

    private Task<List<TaxReturn>> ReturnsAsync() =>
        _loft.WithAsync<BooksContext, List<TaxReturn>>(db =>
            db.TaxReturns.AsNoTracking().OrderBy(r => r.Id).ToListAsync()
        );

    private async Task MustAgreeAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task The_desk_refuses_a_return_without_a_number_takes_it_with_one_and_then_it_stays()
    {
        await BillAsync(July);
        var id = await FileAsync(July);
        await SetAsync(d => d with { OurNumber = "" });
        (await _loft.WithAsync<ReturnFiling, IReadOnlyList<string>>(f => f.HandInAsync(id)))
            .ShouldHaveSingleItem()
            .ShouldContain("who files it");
        (await ReturnsAsync()).Single().TakenOn.ShouldBeNull();
        await SetAsync(d => d with { OurNumber = "EE 100 200" });
        (await _loft.WithAsync<ReturnFiling, IReadOnlyList<string>>(f => f.HandInAsync(id))).ShouldBeEmpty();
        var taken = (await ReturnsAsync()).Single();
        taken.TakenOn.ShouldBe(Loft.Today);
        taken.Reference.ShouldStartWith("TD-");
        (await RefusedAsync(() => _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(id, "wrong")))).ShouldContain(
            "has it since 2025-09-17"
        );
        (await RefusedAsync(() => _loft.WithAsync<ReturnFiling>(f => f.HandInAsync(id)))).ShouldContain("has it since");
        await MustAgreeAsync();
    }

    [Fact]
    public async Task An_amendment_tells_the_difference_once_and_nothing_comes_again_in_the_next()
    {
        await BillAsync(July);
        await FileAsync(July);
        (await RefusedAsync(() => AmendAsync(July))).ShouldContain("told otherwise than it counts");
        await BillAsync(July.AddDays(3), 25);
        (await RefusedAsync(() => AmendAsync(July, ""))).ShouldContain("Say why");
        (await RefusedAsync(() => AmendAsync(July, seen: 1))).ShouldContain("since you looked");
        await AmendAsync(July);
        await BillAsync(August, 10);
        (await LookAsync(August)).Tax.ShouldBe(480, "the amendment told the other");
        await FileAsync(August);
        await BillAsync(July.AddDays(9), 5);
        (await LookAsync(new DateOnly(2025, 9, 1))).Tax.ShouldBe(240);
        await AmendAsync(July, "another one");
        (await LookAsync(new DateOnly(2025, 9, 1))).Tax.ShouldBe(0);
        (await ReturnsAsync())
            .Select(r => (r.From.Month, r.Amendment, r.Tax))
            .ShouldBe([(7, 0, 2400), (7, 1, 1200), (8, 0, 480), (7, 2, 240)]);
        (await RefusedAsync(() => AmendAsync(new DateOnly(2025, 6, 1), seen: 0))).ShouldContain("No return is filed");
        await MustAgreeAsync();
    }

    [Fact]
    public async Task What_was_told_late_in_the_next_return_is_in_no_amendment_too()
    {
        await BillAsync(July);
        await FileAsync(July);
        await BillAsync(July.AddDays(3), 25);
        await FileAsync(August);
        (await LateTaxAsync(July)).ShouldBe(0, "August told it as late");
        await MustAgreeAsync();
    }

    [Fact]
    public async Task Where_the_authority_wants_it_what_is_late_amends_its_own_period_by_itself()
    {
        await BillAsync(July);
        await FileAsync(July);
        await SetAsync(d => d with { AmendsLate = true, AmendsAbove = 500 });
        await BillAsync(July.AddDays(3), 10);
        (await LookAsync(August)).Tax.ShouldBe(480, "up to 5.00 it goes along");
        await BillAsync(July.AddDays(4), 5);
        var august = await LookAsync(August);
        (august.Tax, august.ToAmend.Single().Tax).ShouldBe((0, 720));
        await FileAsync(August);
        (await ReturnsAsync())
            .Select(r => (r.From.Month, r.Amendment, r.Tax))
            .ShouldBe([(7, 0, 2400), (7, 1, 720), (8, 0, 0)]);
        await MustAgreeAsync();
    }

    [Fact]
    public async Task An_amendment_is_opened_again_while_it_is_the_latest()
    {
        await BillAsync(July);
        var first = await FileAsync(July);
        await BillAsync(July.AddDays(3), 25);
        var second = await AmendAsync(July);
        (await RefusedAsync(() => _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(first, "wrong")))).ShouldContain(
            "later return"
        );
        await _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(second, "wrong"));
        (await LookAsync(August)).Tax.ShouldBe(1200);
        await MustAgreeAsync();
    }

    private static ReturnBox[] Boxes =>
        [
            new()
            {
                Number = "1",
                Name = "Sales",
                Sum = BoxSum.Taxable,
            },
            new()
            {
                Number = "2",
                Name = "Tax on sales",
                Sum = BoxSum.Tax,
                Origins = [RowOrigin.Sales],
            },
            new()
            {
                Number = "3",
                Name = "Tax on credits",
                Sum = BoxSum.Tax,
                Origins = [RowOrigin.Credits],
            },
            new()
            {
                Number = "4",
                Name = "Tax on purchases",
                Sum = BoxSum.Typed,
            },
            new()
            {
                Number = "5",
                Name = "To pay",
                Formula = "2 + 3 - 4",
                Rounding = BoxRounding.Unit,
                IsOwed = true,
            },
        ];

    /// <summary>
    /// 100.10 and 24.02 of tax billed, 20.00 and 4.80 credited on the same month; 3.11 of tax on purchases typed in: 16.11
    /// is asked for as 16.00.
    /// </summary>
    [Fact]
    public async Task What_is_typed_in_and_rounding_are_posted_when_it_is_filed_and_go_when_it_is_opened_again()
    {
        var board = await BoardAsync();
        await _loft.WithAsync<TaxDesk>(t => t.SaveBoxesAsync(board.Id, Boxes));
        await _loft.IssuedAsync(_loft.Content(1, 100.10m, date: July));
        await _loft.IssuedAsync(
            _loft.Content(1, 20, date: July.AddDays(2)) with
            {
                Particulars = new() { Reason = "came back" },
            },
            Core.Documents.DocumentKind.CreditNote
        );
        var purchases = (int)await _loft.NumberAsync("SELECT Id FROM LedgerAccounts WHERE Code = '4950'");
        (await RefusedAsync(() => FileAsync(July, new TypedBox("4", 3_11, "", purchases)))).ShouldContain(
            "Say what this amount is"
        );
        (await RefusedAsync(() => FileAsync(July, new TypedBox("2", 3_11, "x", purchases)))).ShouldContain(
            "not one that is typed in"
        );
        (await RefusedAsync(() => FileAsync(July, new TypedBox("4", 3_11, "x", 0)))).ShouldContain("Choose the ledger");
        (await RefusedAsync(() => FileAsync(July, new TypedBox("4", 3_11, "x", _loft.Bank)))).ShouldContain(
            "other ledger accounts"
        );
        var id = await FileAsync(July, new TypedBox("4", 3_11, "paper and thread", purchases));
        var filed = (await ReturnsAsync()).Single();
        (filed.Tax, filed.Owed).ShouldBe((19_22, 16_00));
        filed.Boxes.Select(b => b.Amount).ShouldBe([80_10, 24_02, -4_80, 3_11, 16_00]);
        (await SumAsync(AccountRole.TaxOwed)).ShouldBe(16_00);
        (await SumAsync(AccountRole.RoundingDifferences)).ShouldBe(11);
        (
            await _loft.NumberAsync($"SELECT SUM(Credit - Debit) FROM JournalLines WHERE AccountId = {purchases}")
        ).ShouldBe(3_11);
        (
            await RefusedAsync(() =>
                _loft.WithAsync<ReturnPaying>(p => p.PayAsync(new ReturnToPay(id, Loft.Today, _loft.Bank, 16_01)))
            )
        ).ShouldContain("16.00");
        await MustAgreeAsync();
        await _loft.WithAsync<ReturnFiling>(f => f.OpenAgainAsync(id, "wrong"));
        (await SumAsync(AccountRole.TaxOwed)).ShouldBe(19_22);
        await MustAgreeAsync();
    }

    private Task<long> SumAsync(AccountRole role) =>
        _loft.WithAsync<BooksContext, long>(db =>
            (
                from line in db.Set<JournalLine>()
                where db.LedgerAccounts.Any(a => a.Id == line.AccountId && a.Role == role)
                select line.Credit - line.Debit
            ).SumAsync()
        );

    [Fact]
    public async Task A_set_that_leaves_a_tax_out_of_what_is_to_be_paid_is_not_filed()
    {
        var board = await BoardAsync();
        await _loft.WithAsync<TaxDesk>(t =>
            t.SaveBoxesAsync(board.Id, [.. Boxes[..4], Boxes[4] with { Formula = "3 - 4" }])
        );
        await BillAsync(July);
        (await RefusedAsync(() => FileAsync(July))).ShouldContain("leaves a tax out");
        (await ReturnsAsync()).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("UPDATE TaxReturns SET Owed = Owed + 1", "asks for something else")]
    [InlineData("UPDATE TaxReturns SET TakenOn = '2025-08-01'", "was taken before it was filed")]
    [InlineData("UPDATE TaxReturns SET Amendment = 3 WHERE Amendment = 1", "does not follow")]
    [InlineData("UPDATE TaxReturns SET Reason = '' WHERE Amendment = 1", "does not follow")]
    [InlineData("UPDATE FiledRows SET Day = '2025-06-09' WHERE ReturnId = 2", "does not follow")]
    [InlineData("UPDATE FiledRows SET Origin = 'Credits' WHERE ReturnId = 1", "do not follow from its rows")]
    [InlineData("UPDATE TaxReturns SET Typed = '[]' WHERE Id = 1", "do not follow from its rows")]
    [InlineData("UPDATE Journal SET ReturnId = NULL", "does not follow from")]
    [InlineData(
        "UPDATE JournalLines SET Debit = Debit + 1 WHERE EntryId = (SELECT Id FROM Journal WHERE Event = 'TaxFiled') AND Debit > 0; UPDATE JournalLines SET Credit = Credit + 1 WHERE EntryId = (SELECT Id FROM Journal WHERE Event = 'TaxFiled') AND Credit > 0",
        "does not follow from it"
    )]
    public async Task What_was_tampered_with_is_found(string damage, string found)
    {
        var board = await BoardAsync();
        await _loft.WithAsync<TaxDesk>(t => t.SaveBoxesAsync(board.Id, Boxes));
        await BillAsync(July);
        var account = (int)await _loft.NumberAsync("SELECT Id FROM LedgerAccounts WHERE Code = '4950'");
        await FileAsync(July, new TypedBox("4", 4_00, "thread", account));
        await BillAsync(July.AddDays(1));
        await AmendAsync(July);
        await MustAgreeAsync();
        await _loft.ExecuteAsync(damage);
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(found));
    }
}
