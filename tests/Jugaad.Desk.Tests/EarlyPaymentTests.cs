using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// The early-payment discount: once, for what is paid in time, and gone with the payment that earned it. Write-offs in
/// parts, and cancelling in another currency.
/// </summary>
public sealed class EarlyPaymentTests : IAsyncLifetime
{
    private Loft _loft = null!;
    private Document _invoice = null!;
    private AccountItem _item = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        var terms = await _loft.WithAsync<BooksContext, int>(async db =>
        {
            var early = new PaymentTerms("30 days, 3 % in 10", DueRule.DaysAfter, 30, earlyPercent: 3, earlyDays: 10);
            db.Terms.Add(early);
            await db.SaveChangesAsync();
            return early.Id;
        });
        _invoice = await _loft.IssuedAsync(_loft.Content(4, 50) with { TermsId = terms });
        _item = await _loft.ItemOfAsync(_invoice.Id);
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<int> PayAsync(long amount, string reason = "") =>
        _loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(
                new ReceiptToPost(_loft.Yard, Loft.Today, _loft.Bank, amount, "", [(_item.Id, amount)])
                {
                    Early = [(_item.Id, reason)],
                }
            )
        );

    private async Task<long> OpenAsync() => (await _loft.ItemOfAsync(_invoice.Id)).Open;

    private Task<List<Settlement>> GivenAsync() =>
        _loft.WithAsync<BooksContext, List<Settlement>>(db =>
            db.Settlements.AsNoTracking()
                .Include(s => s.Taxes)
                .Where(s => s.Booking!.UndoneOn == null)
                .OrderBy(s => s.Id)
                .ToListAsync()
        );

    private async Task HealthyAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task A_part_that_is_paid_in_time_earns_its_part_only_and_it_is_given_once()
    {
        _invoice.Payable.ShouldBe(24_800);
        await PayAsync(1_000);
        // 3 % of what 10.00 pays for: 10.00 × 3 ÷ 97.
        (await GivenAsync())
            .Single()
            .Amount.ShouldBe(31);
        (await OpenAsync()).ShouldBe(24_800 - 1_000 - 31);
        (await Should.ThrowAsync<RefusalException>(() => PayAsync(5_000))).Message.ShouldContain("given already");
        (await Should.ThrowAsync<RefusalException>(() => PayAsync(5_000, "as agreed"))).Message.ShouldContain(
            "given already"
        );
        await HealthyAsync();
    }

    [Fact]
    public async Task Paid_in_full_it_is_three_percent_of_the_whole_and_a_credit_note_is_no_payment()
    {
        var credit = await _loft.WithAsync<Credits, int>(c => c.DraftAsync(_invoice.Id, "one back"));
        var draft = await _loft.DocumentAsync(credit);
        await _loft.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    credit,
                    DocumentKind.CreditNote,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = [draft.Content().Lines[0] with { Quantity = 1 }],
                    },
                    _invoice.Id
                )
            )
        );
        await _loft.WithAsync<IssuingDesk>(async i =>
            await i.IssueAsync(credit, (await _loft.DocumentAsync(credit)).Version)
        );
        await _loft.WithAsync<Credits>(async c => await c.SetAgainstAsync(await _loft.DocumentAsync(credit)));
        (await OpenAsync()).ShouldBe(18_600);
        await PayAsync(18_600 - 558);
        (await OpenAsync()).ShouldBe(0);
        (await GivenAsync()).Single().Amount.ShouldBe(558);
        await HealthyAsync();
    }

    [Theory]
    [InlineData("returned")]
    [InlineData("moved")]
    [InlineData("taken away")]
    public async Task It_is_gone_again_with_the_payment_that_earned_it(string how)
    {
        var receipt = await PayAsync(24_056);
        (await OpenAsync()).ShouldBe(0);
        if (how == "returned")
            await _loft.WithAsync<Returns>(r => r.ReturnAsync(receipt, Loft.Today, "no funds"));
        else if (how == "moved")
            await _loft.WithAsync<Transfers>(async t => await t.MoveAsync(receipt, await OtherAsync()));
        else
            await _loft.WithAsync<Receipts>(async r =>
                await r.TakeAwayAsync(
                    await _loft.WithAsync<BooksContext, int>(db =>
                        db.Allocations.Where(a => a.Lowering.ReceiptId == receipt).Select(a => a.Id).SingleAsync()
                    )
                )
            );
        (await OpenAsync()).ShouldBe(24_800, "the discount went with the money");
        var settlements = await GivenAsync();
        settlements.Select(s => s.Kind).ShouldBe([SettlementKind.EarlyPayment, SettlementKind.EarlyTakenBack]);
        settlements[1].Taxes.Sum(t => t.Tax).ShouldBe(settlements[0].Taxes.Sum(t => t.Tax));
        await HealthyAsync();
        if (how == "taken away")
        {
            await _loft.WithAsync<Undoing>(async u =>
                await u.UndoAsync(
                    await _loft.WithAsync<BooksContext, int>(db =>
                        db.Bookings.OrderByDescending(b => b.Id).Select(b => b.Id).FirstAsync()
                    )
                )
            );
            (await OpenAsync()).ShouldBe(0);
            await HealthyAsync();
        }
    }

    private Task<int> OtherAsync() =>
        _loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(null, 0, new CustomerDetails { Name = "Other", Currency = "EUR" })
        );

    [Fact]
    public async Task Written_off_in_parts_the_tax_goes_down_to_the_cent_in_all()
    {
        var odd = await _loft.IssuedAsync(
            _loft.Content(1, 0.83m) with
            {
                Lines =
                [
                    .. Enumerable
                        .Range(1, 3)
                        .Select(i => new DraftLine(
                            null,
                            $"Part {i}",
                            1,
                            "C62",
                            33.33m + i,
                            null,
                            null,
                            _loft.Std,
                            _loft.Sales
                        )),
                ],
            }
        );
        var item = await _loft.ItemOfAsync(odd.Id);
        foreach (var part in new long[] { 1_111, 2_222, 1, 333 })
            await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(item.Id, part, "gone"));
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(item.Id, null, "gone"));
        var given = await GivenAsync();
        given.Sum(s => s.Amount).ShouldBe(odd.Payable);
        given.Sum(s => s.Tax).ShouldBe(odd.Tax);
        given.Sum(s => s.Net).ShouldBe(odd.Net);
        await HealthyAsync();
    }

    [Fact]
    public async Task Cancelling_an_invoice_in_another_currency_leaves_nothing_over()
    {
        var invoice = await _loft.IssuedAsync(_loft.Content(3, 333.33m, _loft.Swede, new DateOnly(2025, 9, 1)));
        invoice.ExchangeRate.ShouldBe(0.0874m);
        var note = await _loft.DocumentAsync(
            await _loft.WithAsync<Credits, int>(c => c.CancelAsync(invoice.Id, "wrong"))
        );
        note.ExchangeRate.ShouldBe(0.0874m, "the rate of what it corrects, not of its day");
        var left = await _loft.WithAsync<BooksContext, long>(db =>
            db.Journal.SelectMany(e => e.Lines)
                .Join(db.LedgerAccounts, l => l.AccountId, a => a.Id, (l, a) => new { l, a })
                .Where(x => x.a.Role == Core.Journal.AccountRole.ExchangeDifferences)
                .SumAsync(x => x.l.Debit + x.l.Credit)
        );
        left.ShouldBe(0);
        await HealthyAsync();
    }
}
