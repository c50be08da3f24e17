using CsCheck;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Tests;

/// <summary>Sums of several currencies, and the sides of an account that has several.</summary>
public sealed class SideTests
{
    private static readonly Currency Euro = Currency.Of("EUR");
    private static readonly Currency Crown = Currency.Of("SEK");
    private static readonly Currency Yen = Currency.Of("JPY");

    [Fact]
    public void A_sum_of_each_currency_is_what_there_is_of_it_and_nothing_else() =>
        Gen.Select(
                Gen.Int[0, 2].Select(i => new[] { Euro, Crown, Yen }[i]),
                Gen.Long[-1_000, 1_000],
                (c, m) => new Money(m, c)
            )
            .List[0, 20]
            .Sample(amounts =>
            {
                var sums = Sums.Of(amounts);
                foreach (var currency in new[] { Euro, Crown, Yen })
                    sums.In(currency).ShouldBe(amounts.Where(a => a.Currency.Equals(currency)).Sum(a => a.Minor));
                sums.ShouldAllBe(s => !s.IsZero);
                sums.Select(s => s.Currency.Code).ShouldBeInOrder();
                sums.Above.ShouldBe(sums.Where(s => s.Minor > 0));
            });

    [Fact]
    public void Sums_are_told_each_with_its_currency()
    {
        var sums = Sums.Of([new(3_400_00, Crown), new(12_00, Euro), new(500, Yen), new(-12_00, Euro)]);
        sums.Words(new DisplayFormat('.', "d MMM yyyy")).ShouldBe("500\u00a0JPY and 3\u202f400.00\u00a0SEK");
        ((Phrase)$"{Sums.Of([new(1, Yen), new(2, Euro), new(3, Crown)])} late")
            .ToString()
            .ShouldBe("0.02 EUR, 1 JPY and 0.03 SEK late");
        Sums.None.Words(new DisplayFormat('.', "d MMM yyyy")).ShouldBe("");
    }

    [Fact]
    public void At_home_the_parts_of_an_item_come_to_what_it_is_kept_at() =>
        Gen.Select(Gen.Long[1, 100_000].List[1, 6], Gen.Long[0, 300_000])
            .Sample(
                (open, home) =>
                {
                    var parts = open.ConvertAll(o => new AgedPart(true, new DateOnly(2025, 1, 1), o));
                    var whole = new AccountSide(Euro, true).Of(parts, open.Sum(), home);
                    whole.Sum(p => p.Open).ShouldBe(home);
                    whole.ShouldAllBe(p => p.Open >= 0);
                    new AccountSide(Crown).Of(parts, open.Sum(), home).ShouldBe(parts);
                }
            );

    [Theory]
    [InlineData("SEK", "SEK", false)]
    [InlineData("", "EUR", false)]
    [InlineData("USD", "EUR", false)]
    [InlineData("all", "NOK", true)]
    public void An_address_names_a_side(string key, string currency, bool whole) =>
        AccountSide
            .Named(key, [Euro, Crown], Currency.Of("NOK"))
            .ShouldBe(new AccountSide(Currency.Of(currency), whole));
}
