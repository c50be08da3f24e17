using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// A year of random trade in four currencies, one without decimals and one with three: it ends with every customer paid
/// up and every foreign account emptied, and nothing is left anywhere but gains and losses, which are what came in less
/// what was billed.
/// </summary>
public sealed class ForeignHistoryTests
{
    private static readonly DateOnly First = new(2024, 9, 20);

    private sealed class Trader(Loft loft, int seed)
    {
        private readonly Random _random = new(seed);
        private readonly Dictionary<string, int> _customers = [];
        private readonly Dictionary<string, int> _accounts = [];
        private int _fees;

        internal async Task SetUpAsync()
        {
            _fees = await AccountAsync("6900", AccountRole.Other, "");
            await loft.ExecuteAsync($"UPDATE Businesses SET FeeAccountId = {_fees}");
            _accounts["EUR"] = loft.Bank;
            _customers["EUR"] = loft.Yard;
            _customers["SEK"] = loft.Swede;
            await loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
            foreach (var (currency, middle, perHome) in Rates)
            {
                _accounts[currency] = await AccountAsync($"11{_accounts.Count}0", AccountRole.Money, currency);
                if (!_customers.ContainsKey(currency))
                    _customers[currency] = await loft.WithAsync<CustomersDesk, int>(c =>
                        c.SaveAsync(null, 0, new CustomerDetails { Name = currency, Currency = currency })
                    );
                await loft.ExecuteAsync($"DELETE FROM ExchangeRates WHERE Currency = '{currency}'");
                for (var day = First.AddDays(-5); day <= Loft.Today; day = day.AddDays(_random.Next(5, 25)))
                {
                    var figure = Math.Round(middle * (0.93m + (_random.Next(0, 140) / 1000m)), 4);
                    await loft.WithAsync<RatesDesk>(r =>
                        r.EnterAsync(new(currency, day, new QuotedRate(figure, perHome)) { EvenIfOff = true })
                    );
                }
            }
        }

        private static readonly (string, decimal, bool)[] Rates =
        [
            ("SEK", 11.1m, true),
            ("JPY", 172.4m, true),
            ("KWD", 2.79m, false),
        ];

        private Task<int> AccountAsync(string code, AccountRole role, string currency) =>
            loft.WithAsync<AccountsDesk, int>(a =>
                a.SaveAccountAsync(
                    null,
                    new AccountDetails
                    {
                        Code = code,
                        Name = $"Account {code}",
                        Role = role,
                        Currency = currency,
                    }
                )
            );

        private string Any() => _customers.Keys.ElementAt(_random.Next(_customers.Count));

        private DateOnly Day() => First.AddDays(_random.Next(Loft.Today.DayNumber - First.DayNumber));

        internal async Task StepAsync()
        {
            try
            {
                await (
                    _random.Next(9) switch
                    {
                        0 or 1 or 2 => BillAsync(),
                        3 or 4 or 5 => ReceiveAsync(),
                        6 => ConvertAsync(),
                        7 => UndoAsync(),
                        _ => OtherAsync(),
                    }
                );
            }
            catch (RefusalException)
            {
                // Not possible just now, such as a receipt that is worth nothing at home.
            }
        }

        internal async Task BillEachAsync()
        {
            foreach (var code in _customers.Keys.ToList())
                await BillAsync(code);
        }

        private async Task BillAsync(string? of = null)
        {
            var code = of ?? Any();
            var price = code is "JPY" ? _random.Next(1, 90_000) : _random.Next(1, 90_000) / 100m;
            await loft.IssuedAsync(loft.Content(_random.Next(1, 5), price, _customers[code], Day()));
        }

        private async Task ReceiveAsync(string? of = null, bool all = false)
        {
            var code = of ?? Any();
            var customer = _customers[code];
            var open = await loft.WithAsync<BooksContext, List<AccountItem>>(db =>
                db.AccountItems.AsNoTracking()
                    .Where(i => i.CustomerId == customer && i.Sign > 0 && i.Open > 0)
                    .OrderBy(i => i.Id)
                    .ToListAsync()
            );
            var against = open.Where(_ => all || _random.Next(2) == 0)
                .Select(i =>
                    (i.Id, Amount: all || _random.Next(2) == 0 ? i.Open : Math.Max(1, i.Open * _random.Next(100) / 100))
                )
                .ToList();
            if (against.Count == 0)
                return;
            // Into any account, with what arrived as the bank says or at the rate of the day, and a charge now and then.
            var into = _random.Next(3) == 0 ? Any() : code;
            var amount = against.Sum(a => a.Amount);
            long? arrived = null;
            var charge = _random.Next(4) == 0 ? _random.Next(1, 50) : 0;
            if (into != code && _random.Next(2) == 0)
            {
                var day = await RateAsync(code);
                var worth = HomeAmount.Of(amount, Currency.Of(code), day, Euro);
                arrived = Math.Max(
                    1,
                    HomeAmount.Back(worth, Euro, await RateAsync(into), Currency.Of(into))
                        * _random.Next(950, 1_050)
                        / 1_000
                );
            }

            await loft.WithAsync<Receipts>(r =>
                r.PostAsync(
                    new ReceiptToPost(customer, all ? Loft.Today : Day(), _accounts[into], amount, "", against)
                    {
                        Arrived = arrived,
                        Charge = charge,
                    }
                )
            );
        }

        private static readonly Currency Euro = Currency.Of("EUR");

        private Task<QuotedRate> RateAsync(string code) =>
            loft.WithAsync<Reference.RateBook, QuotedRate>(b =>
                b.OfAsync(Currency.Of(code), Loft.Today, RateUse.Money)
            );

        private async Task ConvertAsync(string? of = null)
        {
            var from = of ?? Any();
            var to = of is null ? Any() : "EUR";
            if (from == to)
                return;
            var there = await OwnAsync(from);
            if (there <= 0)
                return;
            var given = of is not null ? there : Math.Max(1, there * _random.Next(1, 101) / 100);
            var worth = HomeAmount.Of(given, Currency.Of(from), await RateAsync(from), Euro);
            var got = HomeAmount.Back(worth, Euro, await RateAsync(to), Currency.Of(to));
            var onTo = _random.Next(2) == 0;
            await loft.WithAsync<Conversions>(c =>
                c.MakeAsync(
                    new ConversionToMake(
                        _accounts[from],
                        _accounts[to],
                        given,
                        Math.Max(1, got * _random.Next(97, 103) / 100),
                        of is null ? Day() : Loft.Today,
                        "x"
                    )
                    {
                        Charge = _random.Next(3) == 0 ? 1 : 0,
                        ChargeOnTo = onTo,
                    }
                )
            );
        }

        private async Task OtherAsync() =>
            await loft.WithAsync<OtherMoneyDesk>(o =>
                o.PostAsync(
                    new OtherMoneyToPost(Day(), _accounts[Any()], _fees, _random.Next(-3_000, 3_000), null, "x")
                )
            );

        /// <summary>The last thing that was done is undone, and where it can be, that is as if it had never been.</summary>
        private async Task UndoAsync()
        {
            var last = await loft.WithAsync<BooksContext, int?>(db =>
                db.Bookings.Where(b => b.UndoneOn == null).MaxAsync(b => (int?)b.Id)
            );
            if (last is { } booking)
                await loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
        }

        private Task<long> OwnAsync(string code)
        {
            var account = _accounts[code];
            return loft.WithAsync<BooksContext, long>(db =>
                db.Set<JournalLine>()
                    .Where(l => l.AccountId == account)
                    .SumAsync(l => code == "EUR" ? l.Debit - l.Credit : l.OriginalAmount ?? 0)
            );
        }

        /// <summary>On every day: an account at nothing is at nothing at home, and what is owed is what the journal says.</summary>
        internal async Task AgreesOnEveryDayAsync()
        {
            var lines = await loft.WithAsync<BooksContext, List<(DateOnly Day, int Account, long Home, long? Own)>>(
                async db =>
                    (
                        await (
                            from entry in db.Journal
                            from line in entry.Lines
                            select new
                            {
                                entry.Date,
                                line.AccountId,
                                Home = line.Debit - line.Credit,
                                line.OriginalAmount,
                            }
                        ).ToListAsync()
                    ).ConvertAll(l => (l.Date, l.AccountId, l.Home, l.OriginalAmount))
            );
            foreach (var (code, account) in _accounts.Where(a => a.Key != "EUR"))
            {
                var (home, own) = (0L, 0L);
                foreach (var day in lines.Where(l => l.Account == account).GroupBy(l => l.Day).OrderBy(g => g.Key))
                {
                    home += day.Sum(l => l.Home);
                    own += day.Sum(l => l.Own ?? 0);
                    if (own == 0)
                        home.ShouldBe(0, $"{code} on {day.Key}");
                }
            }

            var receivables = await loft.WithAsync<BooksContext, int>(db =>
                db.LedgerAccounts.Where(a => a.Role == AccountRole.Receivables).Select(a => a.Id).SingleAsync()
            );
            foreach (var back in new[] { 0, 30, 90, 200, 300 })
            {
                var day = Loft.Today.AddDays(-back);
                var open = await loft.WithAsync<Reference.OpenItems, IReadOnlyList<Reference.OpenOnDay>>(o =>
                    o.OnAsync(day, null)
                );
                lines
                    .Where(l => l.Account == receivables && l.Day <= day)
                    .Sum(l => l.Home)
                    .ShouldBe(open.Sum(i => i.Sign * i.HomeOpen), $"{day}");
            }
        }

        internal async Task SettleAllAsync()
        {
            foreach (var code in _customers.Keys)
                for (var i = 0; i < 8 && await OwesAsync(code); i++)
                    try
                    {
                        await ReceiveAsync(code, all: true);
                    }
                    catch (RefusalException)
                    {
                        // What is too little to be worth anything there goes to the account in its own currency.
                    }

            foreach (var code in _accounts.Keys.Where(c => c != "EUR"))
            {
                // What is overdrawn is put right first.
                if (await OwnAsync(code) is < 0 and var short_)
                    await loft.WithAsync<OtherMoneyDesk>(o =>
                        o.PostAsync(new OtherMoneyToPost(Loft.Today, _accounts[code], _fees, -short_, null, "x"))
                    );
                for (var i = 0; i < 5 && await OwnAsync(code) > 0; i++)
                    try
                    {
                        await ConvertAsync(code);
                    }
                    catch (RefusalException)
                    {
                        await loft.WithAsync<OtherMoneyDesk>(async o =>
                            await o.PostAsync(
                                new OtherMoneyToPost(
                                    Loft.Today,
                                    _accounts[code],
                                    _fees,
                                    -await OwnAsync(code),
                                    null,
                                    "x"
                                )
                            )
                        );
                    }
            }

            foreach (var code in _customers.Keys)
                (await OwesAsync(code)).ShouldBeFalse(code);
            foreach (var code in _accounts.Keys.Where(c => c != "EUR"))
                (await OwnAsync(code)).ShouldBe(0, code);
        }

        private Task<bool> OwesAsync(string code)
        {
            var customer = _customers[code];
            return loft.WithAsync<BooksContext, bool>(db =>
                db.AccountItems.AnyAsync(i => i.CustomerId == customer && i.Sign > 0 && i.Open > 0)
            );
        }
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public async Task A_year_in_four_currencies_leaves_nothing_but_gains_and_losses_that_add_up(int seed)
    {
        await using var loft = await Loft.OpenAsync();
        var trader = new Trader(loft, seed);
        await trader.SetUpAsync();
        await trader.BillEachAsync();
        for (var i = 0; i < 60; i++)
            await trader.StepAsync();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await trader.AgreesOnEveryDayAsync();
        await trader.SettleAllAsync();
        await trader.AgreesOnEveryDayAsync();
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();

        // What came in at home is what was billed at home, what other money and charges took, and what rates brought.
        var of = await loft.WithAsync<BooksContext, Dictionary<AccountRole, long>>(async db =>
            (
                await (
                    from line in db.Set<JournalLine>()
                    join account in db.LedgerAccounts on line.AccountId equals account.Id
                    group line by account.Role into same
                    select new { same.Key, Sum = same.Sum(l => l.Debit - l.Credit) }
                ).ToListAsync()
            ).ToDictionary(g => g.Key, g => g.Sum)
        );
        var credit = await loft.WithAsync<BooksContext, long>(db => db.AccountItems.SumAsync(i => i.Sign * i.HomeOpen));
        long Of(AccountRole role) => of.GetValueOrDefault(role);
        Of(AccountRole.Receivables).ShouldBe(credit);
        var billed = await loft.WithAsync<BooksContext, long>(db =>
            db.AccountItems.Where(i => i.DocumentId != null).SumAsync(i => i.Sign * i.HomeAmount)
        );
        var gain = -Of(AccountRole.ExchangeDifferences);
        (Of(AccountRole.Money) + Of(AccountRole.Other) + credit).ShouldBe(billed + gain);

        // Realised over closed items: home received less home billed, to the cent.
        var tied = await loft.WithAsync<BooksContext, long>(db =>
            db.Allocations.SumAsync(a => a.HomeLowering - a.HomeRaising)
        );
        var received = await loft.WithAsync<BooksContext, long>(db =>
            db.AccountItems.Where(i => i.Kind == AccountItemKind.Receipt).SumAsync(i => i.HomeAmount - i.HomeOpen)
        );
        tied.ShouldBe(received - billed);
        var report = await loft.WithAsync<ExchangeReports, Lists.Report>(r => r.DifferencesAsync(First, Loft.Today));
        report.Rows.Where(r => !r.IsSum).Sum(r => ((Money)r.Cells[^1]!).Minor).ShouldBe(gain);

        // It was trade, and not a year of refusals.
        gain.ShouldNotBe(0);
        (await loft.NumberAsync("SELECT count(*) FROM Receipts WHERE Money_Currency <> 'EUR'")).ShouldBeGreaterThan(5);
        (await loft.NumberAsync("SELECT count(DISTINCT Currency) FROM AccountItems")).ShouldBe(4);
        (await loft.NumberAsync("SELECT count(*) FROM Conversions")).ShouldBeGreaterThan(3);
        (await loft.NumberAsync("SELECT count(*) FROM Journal WHERE Event = 'AccountEmptied'")).ShouldBeGreaterThan(0);
    }
}
