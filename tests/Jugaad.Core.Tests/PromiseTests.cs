using CsCheck;
using Jugaad.Core.Collecting;

namespace Jugaad.Core.Tests;

/// <summary>What customers said that they would pay.</summary>
public sealed class PromiseTests
{
    private static readonly DateOnly Made = new(2025, 9, 1);
    private static readonly Promised Hundred = new(Made, Made.AddDays(10), 100_00);

    private static PromiseJudgement On(int day, long unplaced, params (int Day, long Amount)[] came) =>
        Hundred.On(Made.AddDays(day), 2, came.Select(c => new Came(Made.AddDays(c.Day), c.Amount)), unplaced);

    [Theory]
    // Nothing came: open to the end of the grace, broken the day after, and held back while money waits.
    [InlineData(10, 0, -1, 0, PromiseState.Open, 100_00)]
    [InlineData(12, 0, -1, 0, PromiseState.Open, 100_00)]
    [InlineData(13, 0, -1, 0, PromiseState.Broken, 100_00)]
    [InlineData(13, 1, -1, 0, PromiseState.Waits, 100_00)]
    // All of it came: kept from that day on, on the last day of the grace too.
    [InlineData(3, 0, 3, 100_00, PromiseState.Kept, 0)]
    [InlineData(2, 0, 3, 100_00, PromiseState.Open, 100_00)]
    [InlineData(40, 0, 12, 120_00, PromiseState.Kept, 0)]
    // A part, or all of it but too late, or before it was promised.
    [InlineData(13, 0, 5, 40_00, PromiseState.InPart, 60_00)]
    [InlineData(40, 0, 13, 100_00, PromiseState.Broken, 100_00)]
    [InlineData(40, 0, -1, 100_00, PromiseState.Broken, 100_00)]
    public void It_is_judged_by_what_came_in_time(
        int day,
        long unplaced,
        int came,
        long amount,
        PromiseState state,
        long missing
    )
    {
        var judged = On(day, unplaced, (came, amount));
        (judged.State, judged.Missing).ShouldBe((state, missing));
    }

    [Fact]
    public void Once_its_day_has_passed_and_nothing_waits_it_stays_as_it_is_judged()
    {
        (
            from came in Gen.Select(Gen.Int[-3, 30], Gen.Long[1, 80_00]).List[0, 5]
            from after in Gen.Int[0, 300]
            select (came, after)
        ).Sample(made =>
        {
            var money = made.came.Select(c => (c.Item1, c.Item2)).ToArray();
            var first = On(13, 0, money);
            first.Holds.ShouldBeFalse();
            On(13 + made.after, 0, money).ShouldBe(first);
            (first.Paid + first.Missing).ShouldBeGreaterThanOrEqualTo(Hundred.Amount);
        });
    }

    [Theory]
    [InlineData(0, 5, 10, "amount")]
    [InlineData(11, 5, 10, "amount")]
    [InlineData(10, -1, 10, "until")]
    [InlineData(10, 366, 10, "until")]
    public void What_cannot_be_promised_is_refused(long amount, int inDays, long open, string field)
    {
        var refusals = new Refusals();
        new Promised(Made, Made.AddDays(inDays), amount).Check(refusals, open);
        refusals.Of(field).ShouldNotBeEmpty();
        var fine = new Refusals();
        new Promised(Made, Made, 10).Check(fine, 10);
        fine.Any.ShouldBeFalse();
    }
}
