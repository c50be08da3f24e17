using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// Money in other currencies, worked out by hand. An invoice of 1240.00 SEK of 1 September at 0.0874 is kept at 108.38;
/// on 17 September the rate is 0.0901.
/// </summary>
public sealed class ForeignMoneyTests : IAsyncLifetime
{
    private static readonly DateOnly Early = new(2025, 9, 1);
    private Loft _loft = null!;
    private int _crowns;
    private int _fees;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _crowns = await AccountAsync("1110", "Crowns", AccountRole.Money, "SEK");
        _fees = await AccountAsync("6900", "Bank charges", AccountRole.Other);
        await _loft.ExecuteAsync($"UPDATE Businesses SET FeeAccountId = {_fees}");
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<int> AccountAsync(string code, string name, AccountRole role, string currency = "") =>
        _loft.WithAsync<AccountsDesk, int>(a =>
            a.SaveAccountAsync(
                null,
                new AccountDetails
                {
                    Code = code,
                    Name = name,
                    Role = role,
                    Currency = currency,
                }
            )
        );

    private async Task<int> InvoiceAsync(int? customer = null) =>
        (
            await _loft.ItemOfAsync(
                (await _loft.IssuedAsync(_loft.Content(100, 10, customer ?? _loft.Swede, Early))).Id
            )
        ).Id;

    private Task<int> ReceiveAsync(
        int customer,
        int account,
        long amount,
        long? arrived,
        long charge,
        DateOnly day,
        params (int, long)[] against
    ) =>
        _loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(
                new ReceiptToPost(customer, day, account, amount, "", against) { Arrived = arrived, Charge = charge }
            )
        );

    private Task<int> ConvertAsync(ConversionToMake typed) =>
        _loft.WithAsync<Conversions, int>(c => c.MakeAsync(typed));

    /// <summary>What an account comes to at home, and in its own currency.</summary>
    private Task<(long Home, long Own)> BalanceAsync(int account) =>
        _loft.WithAsync<BooksContext, (long, long)>(async db =>
            (
                await db.Set<JournalLine>().Where(l => l.AccountId == account).SumAsync(l => l.Debit - l.Credit),
                await db.Set<JournalLine>().Where(l => l.AccountId == account).SumAsync(l => l.OriginalAmount ?? 0)
            )
        );

    /// <summary>What exchange rates gained, or lost below zero, in all.</summary>
    private async Task<long> GainAsync() =>
        -(
            await BalanceAsync(
                await _loft.WithAsync<BooksContext, int>(db =>
                    db.LedgerAccounts.Where(a => a.Role == AccountRole.ExchangeDifferences)
                        .Select(a => a.Id)
                        .SingleAsync()
                )
            )
        ).Home;

    private async Task HealthyAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task Crowns_into_the_account_in_crowns_come_at_the_rate_of_their_day()
    {
        var invoice = await InvoiceAsync();
        await ReceiveAsync(_loft.Swede, _crowns, 124_000, null, 0, Loft.Today, (invoice, 124_000));
        // 1240.00 × 0.0901 = 111.724: 3.34 more than 108.38.
        (await BalanceAsync(_crowns)).ShouldBe((11_172, 124_000));
        (await GainAsync()).ShouldBe(334);
        await HealthyAsync();
    }

    [Fact]
    public async Task Crowns_into_the_account_at_home_are_worth_what_arrived_and_what_the_bank_kept()
    {
        var invoice = await InvoiceAsync();
        await ReceiveAsync(_loft.Swede, _loft.Bank, 124_000, 11_000, 150, Loft.Today, (invoice, 124_000));
        ((await BalanceAsync(_loft.Bank)).Home, (await BalanceAsync(_fees)).Home).ShouldBe((11_000, 150));
        // 110.00 and 1.50 are 111.50.
        (await GainAsync()).ShouldBe(312);
        await HealthyAsync();
    }

    [Fact]
    public async Task A_bill_at_home_paid_in_crowns_is_settled_by_what_the_payer_meant()
    {
        var invoice = await InvoiceAsync(_loft.Yard);
        // 1240.00 EUR; 13750.00 SEK × 0.0901 = 1238.875.
        await ReceiveAsync(_loft.Yard, _crowns, 124_000, 1_375_000, 0, Loft.Today, (invoice, 124_000));
        (await BalanceAsync(_crowns)).ShouldBe((123_888, 1_375_000));
        (await GainAsync()).ShouldBe(-112);
        await HealthyAsync();
    }

    [Fact]
    public async Task Parts_at_three_rates_gain_and_lose_what_they_brought_less_what_was_billed()
    {
        var invoice = await InvoiceAsync();
        await _loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("SEK", Early.AddDays(3), 0.0850m)));
        // 413.33 × 0.0874 = 36.13, and 36.13 of the 108.38.
        await ReceiveAsync(_loft.Swede, _crowns, 41_333, null, 0, Early.AddDays(1), (invoice, 41_333));
        (await GainAsync()).ShouldBe(0);
        // 413.33 × 0.0850 = 35.13, and 36.12 of the 72.25 that are left.
        await ReceiveAsync(_loft.Swede, _crowns, 41_333, null, 0, Early.AddDays(4), (invoice, 41_333));
        (await GainAsync()).ShouldBe(-99);
        // 413.34 × 0.0901 = 37.24, and the last 36.13.
        await ReceiveAsync(_loft.Swede, _crowns, 41_334, null, 0, Loft.Today, (invoice, 41_334));
        (await GainAsync()).ShouldBe(3_613 + 3_513 + 3_724 - 10_838);
        await HealthyAsync();
    }

    [Fact]
    public async Task A_conversion_empties_an_account_and_what_is_left_at_home_goes_by_itself()
    {
        var invoice = await InvoiceAsync();
        await ReceiveAsync(_loft.Swede, _crowns, 124_000, null, 0, Loft.Today, (invoice, 124_000));
        var before = await _loft.PictureAsync();
        var booking = await ConvertAsync(
            new(_crowns, _loft.Bank, 124_000, 11_050, Loft.Today, "")
            {
                Charge = 80,
                ChargeOnTo = true,
                ChargeAccountId = _fees,
            }
        );
        // 110.50 and the charge of 0.80 are 111.30, and the crowns were kept at 111.72.
        (await BalanceAsync(_crowns)).ShouldBe((0, 0));
        (await BalanceAsync(_loft.Bank)).Home.ShouldBe(11_050);
        (await BalanceAsync(_fees)).Home.ShouldBe(80);
        (await GainAsync()).ShouldBe(334 - 42);
        await HealthyAsync();

        // Crowns dated before it: the account was not empty on that day, so nothing was to go.
        var other = await InvoiceAsync();
        await ReceiveAsync(_loft.Swede, _crowns, 1_000, null, 0, Early.AddDays(1), (other, 1_000));
        (await BalanceAsync(_crowns)).ShouldBe((42 + 87, 1_000));
        await HealthyAsync();
        await ConvertAsync(new(_crowns, _loft.Bank, 1_000, 90, Loft.Today, ""));
        (await BalanceAsync(_crowns)).ShouldBe((0, 0));
        await HealthyAsync();

        foreach (var made in (await LaterAsync(booking)).OrderDescending())
            await _loft.WithAsync<Undoing>(u => u.UndoAsync(made));
        await HealthyAsync();
        (await BalanceAsync(_crowns)).ShouldBe((11_172, 124_000));
    }

    private Task<List<int>> LaterAsync(int booking) =>
        _loft.WithAsync<BooksContext, List<int>>(db =>
            db.Bookings.Where(b => b.Id >= booking && b.UndoneOn == null).Select(b => b.Id).ToListAsync()
        );

    [Theory]
    // Home to crowns, the charge taken of what was given: 100.00 less 2.00 are what the crowns cost.
    [InlineData(false, 10_000, 108_000, 200, false, -10_000, 9_800, 200)]
    // Crowns to home, the charge taken in crowns: 1000.00 less 20.00 became 88.00, so the charge is worth 1.80.
    [InlineData(true, 100_000, 8_800, 2_000, false, 8_800, -8_980, 180)]
    // Crowns to home, the charge taken at home.
    [InlineData(true, 100_000, 8_800, 200, true, 8_800, -9_000, 200)]
    public async Task A_charge_is_taken_on_either_side(
        bool toHome,
        long given,
        long got,
        long charge,
        bool onTo,
        long bank,
        long crowns,
        long fee
    )
    {
        await ConvertAsync(
            new(toHome ? _crowns : _loft.Bank, toHome ? _loft.Bank : _crowns, given, got, Loft.Today, "x")
            {
                Charge = charge,
                ChargeOnTo = onTo,
            }
        );
        (
            (await BalanceAsync(_loft.Bank)).Home,
            (await BalanceAsync(_crowns)).Home,
            (await BalanceAsync(_fees)).Home
        ).ShouldBe((bank, crowns, fee));
        await HealthyAsync();
    }

    [Fact]
    public async Task Currencies_without_decimals_and_with_three_are_converted_too()
    {
        var (yen, dinar) = (
            await AccountAsync("1120", "Yen", AccountRole.Money, "JPY"),
            await AccountAsync("1130", "Dinar", AccountRole.Money, "KWD")
        );
        await _loft.WithAsync<RatesDesk>(r =>
            r.EnterAsync(new("JPY", Loft.Today, new QuotedRate(172.4m, PerHome: true)))
        );
        await _loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("KWD", Loft.Today, 2.7901m)));
        // 100000 JPY ÷ 172.4 = 580.05 EUR; at 207.500 KWD the bank's rate is 1 JPY = 0.002075 KWD.
        await ConvertAsync(new(yen, dinar, 100_000, 207_500, Loft.Today, ""));
        (await BalanceAsync(yen)).ShouldBe((-58_005, -100_000));
        (await BalanceAsync(dinar)).ShouldBe((58_005, 207_500));
        var made = await _loft.WithAsync<BooksContext, Conversion>(db => db.Conversions.SingleAsync());
        made.BankRate.Figure.ShouldBe(0.002075m);
        await HealthyAsync();
    }

    [Fact]
    public async Task A_refund_leaves_the_account_with_what_the_bank_took()
    {
        await InvoiceAsync();
        var receipt = await ReceiveAsync(_loft.Swede, _crowns, 200_000, null, 0, Early);
        var credit = await _loft.WithAsync<BooksContext, int>(db =>
            db.AccountItems.Where(i => i.ReceiptId == receipt).Select(i => i.Id).SingleAsync()
        );
        await _loft.WithAsync<Refunds, int>(r =>
            r.PayAsync(
                new RefundToPay(credit, 50_000, _crowns, Loft.Today, new Payee("Varv", "EE471000001020145685"), "")
                {
                    Charge = 1_000,
                }
            )
        );
        // 510.00 SEK left the account, 45.95 at 0.0901; 500.00 of them, 45.05, were credit kept at 43.70.
        (await BalanceAsync(_crowns)).ShouldBe((17_480 - 4_595, 200_000 - 51_000));
        (await BalanceAsync(_fees)).Home.ShouldBe(4_595 - 4_505);
        (await GainAsync()).ShouldBe(4_370 - 4_505);
        await HealthyAsync();
    }

    [Fact]
    public async Task Interest_in_crowns_is_income_at_home()
    {
        var interest = await AccountAsync("8200", "Interest", AccountRole.Other);
        await _loft.WithAsync<OtherMoneyDesk, int>(o =>
            o.PostAsync(new OtherMoneyToPost(Loft.Today, _crowns, interest, 1_234, null, "Interest"))
        );
        // 12.34 × 0.0901 = 1.11.
        (await BalanceAsync(_crowns)).ShouldBe((111, 1_234));
        (await BalanceAsync(interest)).ShouldBe((-111, -1_234));
        await HealthyAsync();
        (
            await _loft.RefusedAsync(() =>
                _loft.WithAsync<OtherMoneyDesk, int>(o =>
                    o.PostAsync(new OtherMoneyToPost(Loft.Today, _loft.Bank, _crowns, 1_234, null, "No conversion"))
                )
            )
        ).Field.ShouldBe("ledgerAccountId");
        (
            await _loft.RefusedAsync(() =>
                _loft.WithAsync<OtherMoneyDesk, int>(o =>
                    o.PostAsync(new OtherMoneyToPost(Loft.Today, _crowns, _loft.Bank, 1_234, null, "No conversion"))
                )
            )
        ).Message.ShouldContain("conversion");
    }

    [Fact]
    public async Task What_does_not_fit_together_is_refused()
    {
        var invoice = await InvoiceAsync();
        (
            await _loft.RefusedAsync(() => ReceiveAsync(_loft.Swede, _crowns, 124_000, 123_000, 0, Loft.Today))
        ).Message.ShouldContain("1240.00");
        await ReceiveAsync(_loft.Swede, _crowns, 124_000, 123_000, 1_000, Loft.Today, (invoice, 124_000));
        (await BalanceAsync(_fees)).Home.ShouldBe(90);
        (
            await _loft.RefusedAsync(() => ReceiveAsync(_loft.Swede, _loft.Bank, 124_000, 0, 0, Loft.Today))
        ).Field.ShouldBe("arrived");
        (await _loft.RefusedAsync(() => ConvertAsync(new(_crowns, _crowns, 1, 1, Loft.Today, "")))).Field.ShouldBe(
            "to"
        );
        (await _loft.RefusedAsync(() => ConvertAsync(new(_crowns, _loft.Bank, 0, 0, Loft.Today, "")))).Field.ShouldBe(
            "given"
        );
        (
            await _loft.RefusedAsync(() =>
                ConvertAsync(new(_crowns, _loft.Bank, 10, 1, Loft.Today, "") { Charge = 10 })
            )
        ).Field.ShouldBe("charge");
        var more = await AccountAsync("1111", "More crowns", AccountRole.Money, "SEK");
        (await _loft.RefusedAsync(() => ConvertAsync(new(_crowns, more, 1_000, 900, Loft.Today, "")))).Field.ShouldBe(
            "got"
        );
        await ConvertAsync(new(_crowns, more, 1_000, 900, Loft.Today, "") { Charge = 100, ChargeOnTo = true });
        (await BalanceAsync(more)).Own.ShouldBe(900);
        await HealthyAsync();
        (await _loft.RefusedAsync(() => AccountAsync("3999", "Sales", AccountRole.Sales, "SEK"))).Field.ShouldBe(
            "currency"
        );
        (await _loft.RefusedAsync(() => AccountAsync("1999", "Odd", AccountRole.Money, "XXX"))).Field.ShouldBe(
            "currency"
        );
    }

    [Theory]
    [InlineData("UPDATE JournalLines SET OriginalAmount = OriginalAmount + 1 WHERE OriginalAmount > 0")]
    [InlineData("UPDATE JournalLines SET Currency = NULL, OriginalAmount = NULL, Rate = NULL WHERE Currency = 'SEK'")]
    [InlineData("UPDATE JournalLines SET Rate = '0.09' WHERE Currency = 'SEK'")]
    [InlineData("UPDATE JournalLines SET Currency = 'NOK' WHERE Currency = 'SEK'")]
    [InlineData("UPDATE Receipts SET Money_Amount = Money_Amount + 1")]
    [InlineData("UPDATE Receipts SET Money_Rate = '0.0902'")]
    [InlineData("UPDATE Receipts SET Money_Charge = 5")]
    [InlineData("UPDATE Conversions SET Got = Got + 1")]
    [InlineData("UPDATE Conversions SET Given = Given + 1")]
    [InlineData("UPDATE Conversions SET Charge = 1")]
    [InlineData("UPDATE Conversions SET ToCurrency = 'NOK'")]
    [InlineData("UPDATE LedgerAccounts SET Currency = NULL WHERE Code = '1110'")]
    [InlineData("DELETE FROM Journal WHERE Event = 'AccountEmptied'")]
    [InlineData("UPDATE Journal SET Date = '2025-09-16' WHERE Event = 'AccountEmptied'")]
    public async Task The_check_finds_what_was_changed_behind_the_books(string sql)
    {
        var invoice = await InvoiceAsync();
        await ReceiveAsync(_loft.Swede, _crowns, 124_000, null, 0, Loft.Today, (invoice, 124_000));
        await ConvertAsync(new(_crowns, _loft.Bank, 124_000, 11_050, Loft.Today, "x"));
        await HealthyAsync();
        await _loft.ExecuteAsync("PRAGMA foreign_keys = OFF; " + sql);
        (await _loft.CheckAsync()).Differences.ShouldNotBeEmpty();
    }
}
