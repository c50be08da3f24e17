using System.Text;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Exchange rates: typed, from files, from a source, and used by day.</summary>
public sealed class RatesTests : IAsyncLifetime
{
    private static readonly Currency Krona = Currency.Of("SEK");
    private Loft _loft = null!;

    public async Task InitializeAsync() => _loft = await Loft.OpenAsync();

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<int> EnterAsync(RatesTyped typed, bool change = false) =>
        _loft.WithAsync<RatesDesk, int>(r => r.EnterAsync(typed, change));

    private Task<QuotedRate> OnAsync(DateOnly day, RateUse use = RateUse.Documents) =>
        _loft.WithAsync<RateBook, QuotedRate>(b => b.OfAsync(Krona, day, use));

    private Task<int> RulesAsync(
        RateKind documents = RateKind.Middle,
        RateKind money = RateKind.Middle,
        int? oldest = null,
        bool fetches = false
    ) =>
        _loft.WithAsync<RatesDesk, int>(r =>
            r.SetRulesAsync(rules => rules.Set(documents, money, RateKind.Middle, RateKind.Middle, oldest, 10, fetches))
        );

    private Task<RatesTaken> TakeAsync(string csv, bool all = false) =>
        _loft.WithAsync<RatesDesk, RatesTaken>(r => r.TakeAsync(Encoding.UTF8.GetBytes(csv), "rates.csv", all));

    private static async Task<Refusal> RefusedAsync(Func<Task> work) =>
        (await Should.ThrowAsync<RefusalException>(work)).Refusals[0];

    [Fact]
    public async Task A_day_without_a_rate_has_the_last_one_before_unless_that_is_too_old()
    {
        (await OnAsync(new DateOnly(2025, 9, 15))).ShouldBe(0.0874m);
        (await OnAsync(Loft.Today)).ShouldBe(0.0901m);
        (await RefusedAsync(() => OnAsync(new DateOnly(2024, 12, 31)))).Message.ShouldContain("no exchange rate");
        await RulesAsync(oldest: 30);
        (await OnAsync(new DateOnly(2025, 1, 31))).ShouldBe(0.0874m);
        (await RefusedAsync(() => OnAsync(new DateOnly(2025, 2, 1)))).Message.ShouldContain("older than the 30 days");
        // An invoice of that day is asked for a rate, and one of today is not.
        (
            await RefusedAsync(() =>
                _loft.IssuedAsync(_loft.Content(customer: _loft.Swede, date: new DateOnly(2025, 9, 1)))
            )
        ).Field.ShouldBe("date");
        await _loft.IssuedAsync(_loft.Content(customer: _loft.Swede));
    }

    [Fact]
    public async Task A_rate_is_kept_as_it_was_quoted_and_used_as_the_business_says()
    {
        await EnterAsync(new("SEK", Loft.Today, new QuotedRate(11.30m, true), Buying: 11.36m, Selling: 11.24m));
        (await OnAsync(Loft.Today)).ToString().ShouldBe("1/11.3");
        await RulesAsync(documents: RateKind.Buying, money: RateKind.Selling);
        (await OnAsync(Loft.Today)).ToString().ShouldBe("1/11.36");
        (await OnAsync(Loft.Today, RateUse.Money)).ToString().ShouldBe("1/11.24");
        var invoice = await _loft.IssuedAsync(_loft.Content(customer: _loft.Swede));
        // 124.00 ÷ 11.36 = 10.9154…
        (invoice.ExchangeRate.ToString(), (await _loft.ItemOfAsync(invoice.Id)).HomeAmount).ShouldBe(
            ("1/11.36", 1092L)
        );
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_rate_far_off_the_last_is_asked_about()
    {
        var typed = new RatesTyped("SEK", Loft.Today, 0.901m);
        var refused = await RefusedAsync(() => EnterAsync(typed));
        (refused.Field, refused.Message.Contains("0.0901", StringComparison.Ordinal)).ShouldBe(("evenIfOff", true));
        await EnterAsync(typed with { EvenIfOff = true });
        (await OnAsync(Loft.Today)).ShouldBe(0.901m);
        // Turned round it is the same rate, and not off.
        await EnterAsync(new("SEK", Loft.Today, new QuotedRate(11.1m, true)), change: true);
    }

    [Fact]
    public async Task A_changed_rate_says_which_drafts_it_touches()
    {
        var today = await _loft.DraftAsync(_loft.Content(customer: _loft.Swede));
        await _loft.DraftAsync(_loft.Content(customer: _loft.Swede, date: new DateOnly(2025, 9, 1)));
        await _loft.DraftAsync();
        var from = new DateOnly(2025, 9, 16);
        Task<IReadOnlyList<DraftAtAnotherRate>> TouchedAsync(DateOnly day) =>
            _loft.WithAsync<RatesDesk, IReadOnlyList<DraftAtAnotherRate>>(r => r.TouchedAsync(Krona, day));
        (await TouchedAsync(from)).ShouldBeEmpty();
        await EnterAsync(new("SEK", from, 0.0905m), change: true);
        (await TouchedAsync(from)).Single().Id.ShouldBe(today);
        (await TouchedAsync(new DateOnly(2025, 1, 1))).ShouldBeEmpty();
        (await RefusedAsync(() => EnterAsync(new("SEK", from.AddDays(1), 0.0905m), change: true))).Field.ShouldBe(
            "from"
        );
    }

    [Fact]
    public async Task A_file_brings_what_is_used_here_and_leaves_what_was_typed()
    {
        var taken = await TakeAsync(
            """
            Date,SEK,USD,GBP
            2025-09-15,11.05,1.17,0.86
            2025-09-16,11.06,1.17,0.86
            2025-09-17,11.07,1.17,0.86
            2025-09-18,1.107,1.17,0.86
            """
        );
        // The 16th was typed; the 18th is a tenth of the day before.
        (taken.Added, taken.Changed, taken.Same, taken.Stayed).ShouldBe((2, 0, 0, 1));
        (taken.FarOff.Count, string.Join(' ', taken.Others)).ShouldBe((1, "GBP USD"));
        (await OnAsync(new DateOnly(2025, 9, 16))).ShouldBe(0.0901m);
        (await OnAsync(Loft.Today)).ToString().ShouldBe("1/11.07");
        taken = await TakeAsync("Date,SEK\n2025-09-15,11.05\n2025-09-17,11.08\n");
        (taken.Added, taken.Changed, taken.Same).ShouldBe((0, 1, 1));
        taken = await TakeAsync("Date,USD\n2025-09-15,1.17\n", all: true);
        (taken.Added, taken.Others.Count).ShouldBe((1, 0));
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Where_home_is_another_currency_the_euro_is_the_bridge()
    {
        await _loft.ExecuteAsync("UPDATE Businesses SET HomeCurrency = 'SEK'");
        await TakeAsync("Date,SEK,NOK,GBP\n2025-09-17,11.05,11.70,0.865\n", all: true);
        var rates = await _loft.WithAsync<BooksContext, List<ExchangeRate>>(db =>
            db.ExchangeRates.Where(r => r.Source != "").ToListAsync()
        );
        rates
            .OrderBy(r => r.Currency.Code, StringComparer.Ordinal)
            .Select(r => $"{r.Currency} {r.Rate}")
            // 11.05 ÷ 0.865 = 12.77456647…; 11.05 ÷ 11.70 = 0.94444…
            .ShouldBe(["EUR 11.05", "GBP 12.77456647", "NOK 0.9444444444"]);
    }

    [Fact]
    public async Task A_broken_file_changes_nothing()
    {
        (
            await RefusedAsync(() => TakeAsync("day,currency,rate\n2025-09-17,SEK,0.09\n2025-09-18,SEK,x\n"))
        ).Message.ShouldContain("row 3");
        (
            await RefusedAsync(() => TakeAsync("day,currency,rate\n2025-09-17,SEK,0.09000000000012\n"))
        ).Message.ShouldContain("row 2");
        (await OnAsync(Loft.Today)).ShouldBe(0.0901m);
    }

    [Fact]
    public async Task The_source_is_asked_once_for_each_day_where_that_is_wished()
    {
        Task<int> CountAsync() =>
            _loft.WithAsync<BooksContext, int>(db => db.ExchangeRates.CountAsync(r => r.Source != ""));

        await _loft.WithAsync<DailyRun, int>(d => d.RunAsync());
        (await CountAsync()).ShouldBe(0);
        await RulesAsync(fetches: true);
        await _loft.WithAsync<DailyRun, int>(d => d.RunAsync());
        // Two weeks back and today, without the weekends and the day that was typed.
        (await CountAsync()).ShouldBe(10);
        await _loft.WithAsync<DailyRun, int>(d => d.RunAsync());
        (await CountAsync()).ShouldBe(10);
        _loft.Clock.Advance(TimeSpan.FromDays(1));
        await _loft.WithAsync<DailyRun, int>(d => d.RunAsync());
        (await CountAsync()).ShouldBe(11);
        (await OnAsync(Loft.Today.AddDays(1))).PerHome.ShouldBeTrue();
    }
}
