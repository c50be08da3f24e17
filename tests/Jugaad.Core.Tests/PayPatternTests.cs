using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Paying;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>Addresses for paying, and what is charged for paying by card.</summary>
public sealed class PayPatternTests
{
    private static readonly Currency Euro = Currency.Of("EUR");

    private static PayFields Fields(long cents, string reference = "INV-1", string customer = "YARD") =>
        new(new Money(cents, Euro), reference, customer);

    private static string Wrong(string pattern)
    {
        var refusals = new Refusals();
        PayPattern.Check(refusals, "pattern", pattern);
        return refusals.Of("pattern");
    }

    [Fact]
    public void The_amount_goes_in_as_a_bare_number_and_the_rest_is_escaped()
    {
        PayPattern
            .Fill(
                "https://pay.example/{{ Amount }}/{{Currency}}?for={{ Reference }}&who={{ Customer }}",
                Fields(1_234_567_05, "INV 1/2&x=é", "A+B")
            )
            .ShouldBe("https://pay.example/1234567.05/EUR?for=INV%201%2F2%26x%3D%C3%A9&who=A%2BB");
        PayPattern
            .Fill("https://pay.example/{{ Amount }}", new PayFields(new Money(500, Currency.Of("JPY")), "", ""))
            .ShouldBe("https://pay.example/500");
    }

    [Theory]
    [InlineData("https://pay.example/{{ Amount }}")]
    [InlineData("https://pay.example:8443/p?a={{ Amount }}&c={{ Currency }}&r={{ Reference }}#{{ Customer }}")]
    public void A_sound_one_is_taken(string pattern) => Wrong(pattern).ShouldBe("");

    [Theory]
    [InlineData("https://pay.example/€{{ Amount }}", "currency sign")]
    [InlineData("https://pay.example/?a={{ Amount }}&sign=€", "currency sign")]
    [InlineData("https://pay.example/EUR{{ Amount }}", "stands by itself")]
    [InlineData("https://pay.example/{{ Amount }}EUR", "stands by itself")]
    [InlineData("https://pay.example/1,{{ Amount }}", "stands by itself")]
    [InlineData("https://pay.example/{{ Total }}", "no field {{ Total }}")]
    [InlineData("https://pay.example/{{ amount }}", "mind capitals")]
    [InlineData("https://pay.example/fixed", "Name at least the amount")]
    [InlineData("https://pay.example/{{ Amount", "opened and not closed")]
    [InlineData("https://pay.example/{{ Amount }}/a b", "no blanks")]
    [InlineData("https://pay.example/\n{{ Amount }}", "one line")]
    [InlineData("http://pay.example/{{ Amount }}", "https://")]
    [InlineData("javascript:alert({{ Amount }})", "stands by itself")]
    [InlineData("javascript:{{ Amount }}", "https://")]
    [InlineData("pay.example/{{ Amount }}", "https://")]
    [InlineData("https://me@pay.example/{{ Amount }}", "no user")]
    [InlineData("https://{{ Customer }}.pay.example/{{ Amount }}", "name of the place")]
    public void What_would_lead_nowhere_or_ask_for_a_wrong_amount_is_refused(string pattern, string why) =>
        Wrong(pattern).ShouldContain(why);

    [Fact]
    public void One_that_may_break_over_a_line_of_plain_mail_is_warned_of()
    {
        PayPattern.Warning("https://pay.example/{{ Amount }}").ShouldBeNull();
        PayPattern
            .Warning($"https://pay.example/{new string('x', 40)}/{{{{ Amount }}}}/{{{{ Reference }}}}")!
            .ToString()
            .ShouldContain("may be broken");
    }

    [Theory]
    [InlineData(2.5, 30, 100_00, 2_80)]
    [InlineData(2.5, 0, 1_01, 3)]
    [InlineData(0, 25, 1, 25)]
    [InlineData(0, 0, 100_00, 0)]
    [InlineData(2.5, 30, 0, 0)]
    public void A_surcharge_is_the_percentage_rounded_once_and_the_fixed_amount(
        decimal percent,
        long @fixed,
        long amount,
        long charged
    ) => new Surcharge(percent, @fixed).On(amount).ShouldBe(charged);

    [Theory]
    [InlineData("EE", CustomerKind.Consumer, false)]
    [InlineData("EE", CustomerKind.Business, true)]
    [InlineData("NO", CustomerKind.Consumer, true)]
    public void Consumers_are_not_charged_in_the_union(string country, CustomerKind payer, bool may) =>
        Surcharge.MayCharge(country, payer).ShouldBe(may);

    [Fact]
    public void Whatever_is_paid_the_parts_of_its_surcharge_come_to_it() =>
        Gen.Select(Gen.Long[0, 100_000], Gen.Long[0, 10_000_000].List[1, 12])
            .Sample(
                (surcharge, parts) =>
                {
                    var split = Surcharge.Split(surcharge, parts);
                    split.Sum().ShouldBe(parts.Any(p => p > 0) ? surcharge : 0);
                    split.Zip(parts).ShouldAllBe(p => p.First >= 0 && (p.Second > 0 || p.First == 0));
                }
            );
}
