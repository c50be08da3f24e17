using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;

namespace Jugaad.Core.Tests;

/// <summary>An open amount divided into dated parts.</summary>
public sealed class PaymentPlanTests
{
    private static readonly DateOnly Made = new(2025, 9, 1);
    private static readonly PaymentPlan Three = PaymentPlan.Equally(Made, 100_00, 3, i => Made.AddMonths(i + 1));

    private static PlanNow On(DateOnly day, params (DateOnly Day, long Amount)[] came) =>
        Three.On(day, 5, came.Select(c => new Came(c.Day, c.Amount)));

    [Fact]
    public void Equal_parts_add_up_to_the_cent_and_the_larger_come_first() =>
        Three.Parts.ShouldBe([
            new PlanPart(new(2025, 10, 1), 33_34),
            new PlanPart(new(2025, 11, 1), 33_33),
            new PlanPart(new(2025, 12, 1), 33_33),
        ]);

    [Fact]
    public void Money_fills_the_parts_in_their_order()
    {
        var now = On(new(2025, 10, 2), (new(2025, 9, 20), 40_00));
        now.IsKept.ShouldBeTrue();
        now.Parts.Select(p => p.Open).ShouldBe([0, 26_67, 33_33]);
        now.Parts[0].PaidOn.ShouldBe(new(2025, 9, 20));
        now.Next!.Day.ShouldBe(new(2025, 11, 1));
        On(new(2025, 10, 2), (new(2025, 8, 31), 40_00))
            .Parts[0]
            .Open.ShouldBe(33_34, "it came before the plan was made");
    }

    [Fact]
    public void It_is_broken_from_the_day_on_which_a_part_is_too_late_and_stays_so()
    {
        On(new(2025, 10, 6)).IsKept.ShouldBeTrue("five days late");
        On(new(2025, 10, 7)).BrokenOn.ShouldBe(new(2025, 10, 7));
        On(new(2025, 10, 30), (new(2025, 10, 6), 33_34)).IsKept.ShouldBeTrue();
        var late = On(new(2026, 1, 1), (new(2025, 10, 7), 100_00));
        (late.BrokenOn, late.IsPaid).ShouldBe((new(2025, 10, 7), true));
    }

    [Fact]
    public void What_is_open_of_the_parts_is_the_amount_less_what_came_whatever_the_order()
    {
        (
            from amount in Gen.Long[50, 1_000_000]
            from parts in Gen.Int[1, 24]
            from came in Gen.Select(Gen.Int[0, 400], Gen.Long[1, 300_000]).List[0, 8]
            from day in Gen.Int[0, 500]
            select (amount, parts, came, day)
        ).Sample(made =>
        {
            var plan = PaymentPlan.Equally(Made, made.amount, made.parts, i => Made.AddDays(14 * (i + 1)));
            var refusals = new Refusals();
            plan.Check(refusals, made.amount, Currency.Of("EUR"));
            refusals.Any.ShouldBeFalse();
            var day = Made.AddDays(made.day);
            var now = plan.On(day, 3, made.came.Select(c => new Came(Made.AddDays(c.Item1), c.Item2)));
            var paid = made.came.Where(c => c.Item1 <= made.day).Sum(c => c.Item2);
            now.Parts.Sum(p => p.Open).ShouldBe(Math.Max(0, made.amount - paid));
            now.Parts.Zip(now.Parts.Skip(1)).ShouldAllBe(p => p.First.Open == 0 || p.Second.Open == p.Second.Amount);
            now.IsKept.ShouldBe(
                now.Parts.All(p => (p.PaidOn ?? day).DayNumber - p.Day.DayNumber <= 3),
                "kept is: no part more days late than that"
            );
        });
    }

    [Theory]
    [InlineData(60, 30, 10, "parts", 100)]
    [InlineData(100, 0, 10, "parts[1].amount", 100)]
    [InlineData(60, 40, 0, "parts[1].day", 100)]
    [InlineData(60, 40, -20, "parts[1].day", 100)]
    public void Parts_that_cannot_be_are_refused(long first, long second, int between, string field, long open)
    {
        var refusals = new Refusals();
        new PaymentPlan(Made, [new(Made.AddDays(5), first), new(Made.AddDays(5 + between), second)]).Check(
            refusals,
            open,
            Currency.Of("EUR")
        );
        refusals.Of(field).ShouldNotBeEmpty();
        Should.Throw<RefusalException>(() => PaymentPlan.Equally(Made, 2, 3, i => Made.AddDays(i)));
        Should.Throw<RefusalException>(() => PaymentPlan.Equally(Made, 2, 0, i => Made.AddDays(i)));
    }
}
