using CsCheck;
using Jugaad.Core.Accounts;
using Jugaad.Core.Collecting;

namespace Jugaad.Core.Tests;

/// <summary>How much credit is used, and what limit follows from what was paid.</summary>
public sealed class CreditTests
{
    [Fact]
    public void What_is_used_is_all_that_was_had_or_promised_and_credit_gives_room()
    {
        var use = new CreditUse(-20_00, 100_00, 50_00, 30_00, 150_00);
        use.Firm.ShouldBe(130_00);
        use.Used.ShouldBe(160_00);
        use.Left.ShouldBe(-10_00);
        (use with { Limit = null }).Left.ShouldBeNull();
    }

    [Fact]
    public void What_is_left_of_a_line_is_delivered_or_ordered_and_never_both() =>
        Gen.Select(Gen.Long[0, 10_000], Gen.Long[0, 12_000], Gen.Long[0, 12_000])
            .Sample(
                (whole, delivered, billed) =>
                {
                    var line = new UnbilledLine(whole, delivered, billed);
                    (line.DeliveredLeft + line.OrderedLeft).ShouldBe(Math.Max(0, whole - billed));
                    line.DeliveredLeft.ShouldBeGreaterThanOrEqualTo(0);
                    line.OrderedLeft.ShouldBeGreaterThanOrEqualTo(0);
                    line.DeliveredLeft.ShouldBeLessThanOrEqualTo(Math.Max(0, delivered - billed));
                }
            );

    [Theory]
    [InlineData(0, 10, 0)]
    [InlineData(120_000_00, 10, 10_000_00)]
    [InlineData(120_000_00, 31, 20_000_00)]
    [InlineData(120_000_00, -5, 10_000_00)]
    [InlineData(129_999_99, 0, 10_000_00)]
    [InlineData(11_00, 0, 91)]
    public void A_limit_is_a_month_of_payments_for_each_month_that_they_take(long paid, int days, long limit) =>
        ProposedLimit.Of(paid, days).ShouldBe(limit);

    [Fact]
    public void A_proposed_limit_is_never_more_than_they_paid_in_that_time() =>
        Gen.Select(Gen.Long[0, 1_000_000_000], Gen.Int[-30, 200])
            .Sample(
                (paid, days) =>
                {
                    var months = Math.Max(1, (Math.Max(0, days) + 29) / 30);
                    ProposedLimit.Of(paid, days).ShouldBeLessThanOrEqualTo((paid * months / 12) + 1);
                }
            );
}
