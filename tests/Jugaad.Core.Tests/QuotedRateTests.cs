using System.Text.Json;
using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;

namespace Jugaad.Core.Tests;

/// <summary>Rates are kept as they were quoted, and amounts are converted by them once and exactly.</summary>
public sealed class QuotedRateTests
{
    private static readonly Currency Euro = Currency.Of("EUR");
    private static readonly Currency Krona = Currency.Of("SEK");

    [Theory]
    // 1000.00 SEK ÷ 11.30 = 88.4955…; × 0.0885 = 88.50.
    [InlineData(100_000, "SEK", "1/11.3", 8_850)]
    [InlineData(100_000, "SEK", "0.0885", 8_850)]
    [InlineData(100_001, "SEK", "1/11.3", 8_850)]
    // 5.65 SEK ÷ 11.30 is 0.5 exactly; a rate that was turned round and rounded gives 0.49 or 0.50 by chance.
    [InlineData(565, "SEK", "1/11.3", 50)]
    // No decimals: ¥ 1000 ÷ 172.4 = 5.8004…
    [InlineData(1_000, "JPY", "1/172.4", 580)]
    // Three: KWD 1.000 × 2.7901 = 2.79.
    [InlineData(1_000, "KWD", "2.7901", 279)]
    [InlineData(-565, "SEK", "1/11.3", -50)]
    public void An_amount_goes_home_as_it_was_worked_out_by_hand(long minor, string code, string rate, long home) =>
        HomeAmount.Of(minor, Currency.Of(code), QuotedRate.Read(rate), Euro).ShouldBe(home);

    [Fact]
    public void Half_a_cent_is_not_lost_in_a_rate_turned_round()
    {
        // 0.1695 SEK would be 0.015 EUR at 11.30; in minor units 17 ÷ 11.3 = 1.504 → 2, 16 ÷ 11.3 = 1.416 → 1.
        var rate = new QuotedRate(11.3m, PerHome: true);
        HomeAmount.Of(17, Krona, rate, Euro).ShouldBe(2);
        HomeAmount.Of(16, Krona, rate, Euro).ShouldBe(1);
        // 0.50 EUR × 11.37 = 5.685, half away from zero.
        rate = new QuotedRate(11.37m, PerHome: true);
        HomeAmount.Back(50, Euro, rate, Krona).ShouldBe(569);
        rate.PriceOf(0.5m, 2).ShouldBe(5.69m);
    }

    private static readonly Gen<QuotedRate> AnyRate = Gen.Select(
        Gen.Long[1, 9_999_999_999],
        Gen.Int[4, 10],
        Gen.Bool,
        (digits, decimals, perHome) => new QuotedRate(digits / (decimal)Math.Pow(10, decimals), perHome)
    );

    [Fact]
    public void What_is_kept_is_what_was_quoted() =>
        AnyRate.Sample(rate =>
        {
            QuotedRate.Read(rate.ToString()).ShouldBe(rate);
            JsonSerializer.Deserialize<QuotedRate>(JsonSerializer.Serialize(rate)).ShouldBe(rate);
        });

    [Fact]
    public void Content_kept_before_has_its_rate_as_a_number() =>
        JsonSerializer.Deserialize<QuotedRate>("0.0874").ShouldBe(QuotedRate.FromDecimal(0.0874m));

    [Fact]
    public void The_two_ways_round_are_the_same_question_asked_twice() =>
        Gen.Select(AnyRate, Gen.Long[0, 100_000_000])
            .Where(x => x.Item1.HomeForOne is > 0.0001m and < 1000)
            .Sample(
                (rate, minor) =>
                {
                    // One way with × is the other with ÷, of the same figure.
                    var turned = rate with
                    {
                        PerHome = !rate.PerHome,
                    };
                    HomeAmount.Back(minor, Euro, turned, Krona).ShouldBe(HomeAmount.Of(minor, Krona, rate, Euro));
                    // And an exact check in whole numbers: nearer than any other cent.
                    var exact = rate.PerHome ? minor / rate.Figure : minor * rate.Figure;
                    Math.Abs(HomeAmount.Of(minor, Krona, rate, Euro) - exact).ShouldBeLessThanOrEqualTo(0.5000001m);
                }
            );

    [Fact]
    public void The_rate_between_two_amounts_gives_the_one_from_the_other() =>
        Gen.Select(Gen.Long[1, 99_999_999], Gen.Long[1, 99_999_999])
            .Sample(
                (krona, euro) =>
                    HomeAmount.Of(krona, Krona, QuotedRate.Between(krona, Krona, euro, Euro), Euro).ShouldBe(euro)
            );

    [Theory]
    [InlineData("0", false)]
    [InlineData("1000000", true)]
    [InlineData("1000001", false)]
    [InlineData("0.08850000001", true)]
    [InlineData("0.088500000012", false)]
    [InlineData("11.123456789", false)]
    [InlineData("11.12345678", true)]
    [InlineData("0.00000567891234", true)]
    public void A_rate_has_at_most_ten_digits_that_count(string figure, bool may)
    {
        var refused = false;
        try
        {
            new QuotedRate(PlainDecimal.Parse(figure, 20, "rate")).Check("rate");
        }
        catch (RefusalException)
        {
            refused = true;
        }

        refused.ShouldBe(!may);
    }

    [Fact]
    public void A_bank_buys_for_no_more_than_it_sells()
    {
        var day = new DateOnly(2025, 9, 1);
        var both = new ExchangeRate(Krona, day, 0.0885m, 0.0880m, 0.0890m);
        (both.Of(RateKind.Buying), both.Of(RateKind.Middle), both.Of(RateKind.Selling)).ShouldBe(
            (0.0880m, 0.0885m, 0.0890m)
        );
        // For one unit of home it is the other way round.
        var turned = new ExchangeRate(Krona, day, new QuotedRate(11.30m, true), 11.36m, 11.24m);
        turned.Of(RateKind.Buying).ShouldBe(new QuotedRate(11.36m, true));
        Should
            .Throw<RefusalException>(() =>
                _ = new ExchangeRate(Krona, day, new QuotedRate(11.30m, true), 11.24m, 11.36m)
            )
            .Refusals[0]
            .Field.ShouldBe("buying");
        Should
            .Throw<RefusalException>(() => _ = new ExchangeRate(Krona, day, 0.0885m, 0.0890m))
            .Refusals.Count.ShouldBe(1);
        new ExchangeRate(Krona, day, 0.0885m).Of(RateKind.Selling).ShouldBe(QuotedRate.FromDecimal(0.0885m));
    }
}
