using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;

namespace Jugaad.Core.Tests;

public sealed class ValuationTests
{
    private static readonly Currency Euro = Currency.Of("EUR");

    [Theory]
    // 1000.00 SEK that were billed at 0.0880 are worth 90.10 at 0.0901.
    [InlineData("SEK", 1_000_00, 88_00, 0.0901, 90_10, 2_10)]
    [InlineData("SEK", -1_000_00, -88_00, 0.0901, -90_10, -2_10)]
    // Half a cent goes away from zero, on either side.
    [InlineData("SEK", 50_00, 4_00, 0.0901, 4_51, 51)]
    [InlineData("SEK", -50_00, -4_00, 0.0901, -4_51, -51)]
    // Yen have no hundredth, dinars have a thousandth.
    [InlineData("JPY", 10_000, 60_00, 0.0061, 61_00, 1_00)]
    [InlineData("KWD", 10_500, 29_00, 2.8, 29_40, 40)]
    public void A_claim_is_worth_what_the_day_says_and_a_debt_the_same_below_zero(
        string currency,
        long amount,
        long kept,
        decimal rate,
        long home,
        long difference
    )
    {
        var valued = Valuation.Of(Currency.Of(currency), amount, kept, rate, Euro);
        (valued.Home, valued.Kept, valued.Difference).ShouldBe((home, kept, difference));
    }

    [Fact]
    public void At_the_rate_that_it_was_kept_at_nothing_is_gained_or_lost()
    {
        Gen.Select(
                Gen.Long[-1_000_000_00, 1_000_000_00],
                Gen.Int[1, 200_000],
                Gen.OneOf(Gen.Const("SEK"), Gen.Const("GBP"), Gen.Const("JPY"), Gen.Const("KWD"))
            )
            .Sample(
                (amount, ratio, code) =>
                {
                    var (currency, rate) = (Currency.Of(code), ratio / 10_000m);
                    var kept = HomeAmount.Of(amount, currency, rate, Euro);
                    Valuation.Of(currency, amount, kept, rate, Euro).Difference.ShouldBe(0);
                    // A claim and a debt of the same amount leave nothing, at any rate.
                    var (up, down) = (
                        Valuation.Of(currency, amount, kept, rate * 1.1m, Euro),
                        Valuation.Of(currency, -amount, -kept, rate * 1.1m, Euro)
                    );
                    (up.Difference + down.Difference).ShouldBe(0);
                }
            );
    }
}
