using Jugaad.Core;
using Jugaad.Core.Pricing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Prices of a list for many items at once, computed ones, and lists that hold on some days only.</summary>
public sealed class PriceSheetTests : IAsyncLifetime
{
    private Loft _loft = null!;
    private int _crowns;
    private int _rope;
    private int _block;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _crowns = await ListAsync("Crowns", "SEK");
        _rope = await ItemAsync("ROPE", 4.35m);
        _block = await ItemAsync("BLOCK", 62);
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<int> ListAsync(string name, string currency, bool withTax = false) =>
        _loft.WithAsync<ItemsDesk, int>(d => d.AddPriceListAsync(new PriceList(name, currency, withTax)));

    private Task<int> ItemAsync(string code, decimal price, bool withTax = false) =>
        _loft.WithAsync<ItemsDesk, int>(d =>
            d.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = code,
                    Name = code,
                    Price = price,
                    Unit = "C62",
                    PriceIncludesTax = withTax,
                    TaxCodeId = _loft.Std,
                    LedgerAccountId = _loft.Sales,
                }
            )
        );

    private Task<Dictionary<string, decimal>> PricesAsync(int list) =>
        _loft.WithAsync<BooksContext, Dictionary<string, decimal>>(async db =>
            (await db.Items.AsNoTracking().ToListAsync())
                .Where(i => i.Prices.Any(p => p.PriceListId == list))
                .ToDictionary(i => i.Code, i => i.Prices.Single(p => p.PriceListId == list).Price)
        );

    private Task<int> SetAsync(int list, params (int Item, decimal? Price)[] prices) =>
        _loft.WithAsync<PriceSheets, int>(s => s.SetAsync(list, prices.ToDictionary(p => p.Item, p => p.Price)));

    private Task<Offer> OfferAsync(DateOnly day, int item) =>
        _loft.WithAsync<Pricing, Offer>(async p =>
        {
            var one = await _loft.WithAsync<BooksContext, Item>(db =>
                db.Items.AsNoTracking().SingleAsync(i => i.Id == item)
            );
            return (await p.OffersAsync([one], new PriceQuestion(_loft.Swede, null, day, false))).Single();
        });

    [Fact]
    public async Task Prices_are_typed_for_many_at_once_and_taken_back_in_one_go()
    {
        var first = await SetAsync(_crowns, (_rope, 49), (_block, 699.90m));
        (await PricesAsync(_crowns)).ShouldBe(
            new Dictionary<string, decimal> { ["ROPE"] = 49, ["BLOCK"] = 699.90m },
            ignoreOrder: true
        );
        await SetAsync(_crowns, (_rope, null), (_block, 699.90m));
        (await PricesAsync(_crowns)).Keys.ShouldBe(["BLOCK"]);
        (await _loft.RefusedAsync(() => SetAsync(_crowns, (_block, 699.90m)))).Message.ShouldBe(
            "No price would be another than it is."
        );
        var wrong = await _loft.RefusedAsync(() => SetAsync(_crowns, (_rope, 10), (_block, -1)));
        wrong.Field.ShouldBe($"price[{_block}]");
        // What was changed since stays, and the rest goes back.
        await _loft.WithAsync<ItemBatches, int>(b => b.UndoAsync(first));
        (await PricesAsync(_crowns)).Keys.ShouldBeEmpty();
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Prices_are_computed_from_another_list_with_a_factor_and_an_ending()
    {
        var gross = await ItemAsync("GROSS", 10, withTax: true);
        var how = new PricesToCompute(null, 11.3m, PriceEnding.Ninety, OnlyMissing: false);
        var look = await _loft.WithAsync<PriceSheets, ComputedPrices>(s => s.LookAsync(_crowns, how));
        // 4.35 × 11.3 = 49.155 and 62 × 11.3 = 700.60.
        (look.Prices[_rope], look.Prices[_block]).ShouldBe((48.90m, 700.90m));
        look.Prices.Keys.ShouldNotContain(gross);
        look.Left.ShouldContain("GROSS");
        (await PricesAsync(_crowns)).ShouldBeEmpty("a look changes nothing");

        await SetAsync(_crowns, (_rope, 55));
        await _loft.WithAsync<PriceSheets, int>(s => s.ComputeAsync(_crowns, how with { OnlyMissing = true }));
        var prices = await PricesAsync(_crowns);
        (prices["ROPE"], prices["BLOCK"]).ShouldBe((55, 700.90m));

        var trade = await ListAsync("Crowns, trade", "SEK");
        await _loft.WithAsync<PriceSheets, int>(s =>
            s.ComputeAsync(trade, new PricesToCompute(_crowns, 0.9m, PriceEnding.Whole, false))
        );
        prices = await PricesAsync(trade);
        // 49.5 away from zero, and 630.81.
        (prices["ROPE"], prices["BLOCK"]).ShouldBe((50, 631));
        (await _loft.RefusedAsync(() => LookAsync(how with { Factor = 0 }))).Field.ShouldBe("factor");
        (await _loft.RefusedAsync(() => LookAsync(how with { FromListId = _crowns }))).Field.ShouldBe("from");
        var withTax = await ListAsync("Counter", "SEK", true);
        (await _loft.RefusedAsync(() => LookAsync(how with { FromListId = withTax }))).Message.ShouldContain(
            "with tax"
        );
        Task LookAsync(PricesToCompute wrong) =>
            _loft.WithAsync<PriceSheets, ComputedPrices>(s => s.LookAsync(_crowns, wrong));
    }

    [Fact]
    public async Task A_list_holds_on_its_days_and_another_follows_it()
    {
        var next = await ListAsync("Crowns 2026", "SEK");
        await SetAsync(_crowns, (_block, 700));
        await SetAsync(next, (_block, 735));
        var swede = await _loft.WithAsync<BooksContext, Customer>(db =>
            db.Customers.Include(c => c.Contacts).SingleAsync(c => c.Id == _loft.Swede)
        );
        await _loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(_loft.Swede, swede.Version, swede.Details() with { PriceListId = _crowns })
        );
        Task HoldAsync(int list, DateOnly? from, DateOnly? until, int? after) =>
            _loft.WithAsync<PriceSheets, int>(s => s.HoldAsync(list, from, until, after));
        await HoldAsync(_crowns, null, Loft.Today.AddDays(3), next);
        await HoldAsync(next, Loft.Today.AddDays(4), Loft.Today.AddDays(20), null);
        async Task<(decimal, string)> AtAsync(int days)
        {
            var offer = await OfferAsync(Loft.Today.AddDays(days), _block);
            return (offer.Price, offer.From);
        }

        (await AtAsync(3)).ShouldBe((700, "price list Crowns"));
        (await AtAsync(4)).ShouldBe((735, "price list Crowns 2026"));
        // Neither holds: 62 at 0.0901 home for a crown.
        (await AtAsync(21)).ShouldBe((688.12m, "own price, converted at the rate of the day"));
        (await _loft.RefusedAsync(() => HoldAsync(next, null, Loft.Today.AddDays(9), _crowns))).Field.ShouldBe(
            "followedBy"
        );
        (await _loft.RefusedAsync(() => HoldAsync(next, Loft.Today, Loft.Today.AddDays(-1), null))).Field.ShouldBe(
            "until"
        );
        (await _loft.RefusedAsync(() => HoldAsync(next, null, null, _crowns))).Field.ShouldBe("until");
    }

    [Theory]
    [InlineData("\"From\" = '2025-10-01', Until = '2025-09-01'", "its last day is before its first")]
    [InlineData("FollowedById = 2", "and never ends")]
    [InlineData("Until = '2025-12-31', FollowedById = 3", "in another currency")]
    [InlineData("Until = '2025-12-31', FollowedById = 99", "is not there")]
    [InlineData("Until = '2025-12-31', FollowedById = 1", "in a circle")]
    public async Task Lists_that_were_tampered_with_are_found(string change, string found)
    {
        await ListAsync("Crowns 2026", "SEK");
        await ListAsync("Pounds", "GBP");
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.ExecuteAsync($"UPDATE PriceLists SET {change} WHERE Id = {_crowns}");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(found));
    }
}
