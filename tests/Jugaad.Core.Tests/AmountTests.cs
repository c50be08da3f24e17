using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;

namespace Jugaad.Core.Tests;

public sealed class AmountTests
{
    [Theory]
    [InlineData("EUR", 2)]
    [InlineData("JPY", 0)]
    [InlineData("KWD", 3)]
    [InlineData("CLF", 4)]
    [InlineData("ISK", 0)]
    [InlineData("ZWG", 2)]
    [InlineData("XCG", 2)]
    public void Currencies_know_their_minor_units(string code, int decimals) =>
        Currency.Of(code).Decimals.ShouldBe(decimals);

    [Theory]
    [InlineData("DEM")]
    [InlineData("eur")]
    [InlineData("XAU")]
    [InlineData("")]
    public void What_is_no_currency_in_use_is_refused(string code) =>
        Should.Throw<RefusalException>(() => Currency.Of(code)).Refusals[0].Field.ShouldBe("currency");

    [Fact]
    public void Two_currencies_never_meet() =>
        Should.Throw<InvalidOperationException>(() =>
            new Money(1, Currency.Of("EUR")) + new Money(1, Currency.Of("SEK"))
        );

    [Fact]
    public void Money_is_written_and_read_back_the_same() =>
        (
            from minor in Gen.Long[-Limits.AmountMinor, Limits.AmountMinor]
            from currency in Generators.Currencies
            select new Money(minor, currency)
        ).Sample(money => Money.Parse(money.ToString(), money.Currency, "amount").ShouldBe(money));

    [Theory]
    [InlineData("1.234", "more than 2 decimals")]
    [InlineData("1e9", "not a number")]
    [InlineData("1,5", "not a number")]
    [InlineData(" 1", "not a number")]
    [InlineData("+1", "not a number")]
    [InlineData(".5", "not a number")]
    [InlineData("1.", "not a number")]
    [InlineData("--1", "not a number")]
    [InlineData("", "missing")]
    [InlineData("99999999999999999999999999999999", "too large")]
    [InlineData("99999999999999", "more than an amount can be")]
    public void Amounts_that_are_no_plain_decimals_are_refused(string text, string why) =>
        Should
            .Throw<RefusalException>(() => Money.Parse(text, Currency.Of("EUR"), "amount"))
            .Message.ShouldContain(why);

    [Fact]
    public void Shares_add_up_and_are_within_one_unit_of_exact() =>
        (
            from total in Gen.Long[0, 1_000_000_000]
            from weights in Gen.Long[0, 1_000_000].Array[1, 12]
            select (total, weights)
        ).Sample(x =>
        {
            if (x.weights.Sum() == 0)
                return;
            var shares = Apportion.ByWeight(x.total, x.weights);
            shares.Sum().ShouldBe(x.total);
            for (var i = 0; i < shares.Length; i++)
                Math.Abs(shares[i] - ((decimal)x.total * x.weights[i] / x.weights.Sum())).ShouldBeLessThan(1m);
        });

    [Fact]
    public void Left_over_units_go_to_the_largest_remainders_and_a_tie_to_the_earlier()
    {
        Apportion.ByWeight(100, [1, 1, 1]).ShouldBe([34, 33, 33]);
        Apportion.ByWeight(5, [3, 3, 1]).ShouldBe([2, 2, 1]);
        Apportion.ByWeight(1, [2, 3]).ShouldBe([0, 1]);
        Apportion.ByWeight(0, [0, 0]).ShouldBe([0, 0]);
    }

    [Fact]
    public void Nothing_can_be_shared_over_no_weight() =>
        Should.Throw<ArgumentException>(() => Apportion.ByWeight(1, [0, 0]));

    [Fact]
    public void Home_parts_add_up_to_the_home_whole() =>
        (
            from parts in Gen.Long[0, 10_000_000].Array[1, 6]
            from rate in Gen.Long[1, 50_000_000_000]
            select (parts, rate: rate / 10_000_000_000m)
        ).Sample(x =>
        {
            var (sek, eur) = (Currency.Of("SEK"), Currency.Of("EUR"));
            HomeAmount
                .Parts(x.parts.Sum(), x.parts, sek, x.rate, eur)
                .Sum()
                .ShouldBe(HomeAmount.Of(x.parts.Sum(), sek, x.rate, eur));
        });

    [Theory]
    [InlineData(10_000, "JPY", "0.0061", 6100)]
    [InlineData(1_234, "KWD", "3.0000000001", 370)]
    [InlineData(125, "SEK", "0.1", 13)]
    public void Home_amounts_mind_the_minor_units_of_both(long minor, string currency, string rate, long home) =>
        HomeAmount.Of(minor, Currency.Of(currency), decimal.Parse(rate), Currency.Of("EUR")).ShouldBe(home);

    [Fact]
    public void A_home_amount_that_does_not_fit_is_refused() =>
        Should
            .Throw<RefusalException>(() =>
                HomeAmount.Of(Limits.AmountMinor, Currency.Of("KWD"), 900_000m, Currency.Of("EUR"))
            )
            .Refusals[0]
            .Field.ShouldBe("amount");

    [Theory]
    [InlineData('.', "1 234.50", "1234.50")]
    [InlineData('.', "1,234.50", "1234.50")]
    [InlineData('.', "1'234", "1234")]
    [InlineData(',', "1 234,5", "1234.5")]
    [InlineData(',', "1.234,5", "1234.5")]
    [InlineData(',', "12.5", "12.5")]
    [InlineData('.', "−3", "-3")]
    public void Typed_figures_follow_the_business(char mark, string typed, string value) =>
        new DisplayFormat(mark, "yyyy-MM-dd").Read(typed, 6, "x").ShouldBe(decimal.Parse(value));

    [Theory]
    [InlineData('.', "1,5")]
    [InlineData('.', "1,23,4")]
    [InlineData(',', "1.234.5,1")]
    [InlineData('.', "abc")]
    public void Typed_figures_that_could_mean_two_things_are_refused(char mark, string typed) =>
        Should.Throw<RefusalException>(() => new DisplayFormat(mark, "yyyy-MM-dd").Read(typed, 6, "x"));

    [Fact]
    public void What_is_shown_can_be_typed_back() =>
        (
            from minor in Gen.Long[-99_999_999_999, 99_999_999_999]
            from mark in Gen.OneOf('.', ',')
            select (minor, mark)
        ).Sample(x =>
        {
            var format = new DisplayFormat(x.mark, "d MMM yyyy");
            var eur = Currency.Of("EUR");
            format.ReadAmount(format.Amount(x.minor, eur), eur, "x").ShouldBe(x.minor);
            format.ReadAmount(format.Typed(x.minor, eur), eur, "x").ShouldBe(x.minor);
        });
}
