using CsCheck;
using Jugaad.Core.Accounts;
using Jugaad.Core.Collecting;

namespace Jugaad.Core.Tests;

/// <summary>How late somebody pays, and when money is expected by it.</summary>
public sealed class PayingHabitTests
{
    private static readonly DateOnly Today = new(2025, 9, 17);

    private static PaidPart Part(int paidDaysAgo, int late, long amount) =>
        new(Today.AddDays(-paidDaysAgo - late), Today.AddDays(-paidDaysAgo), amount);

    [Fact]
    public void Mean_and_quartiles_are_weighted_by_amount()
    {
        var habit = PayingHabit.On(Today, [Part(10, 0, 100), Part(20, 4, 100), Part(30, 20, 200)]);
        // (0 + 400 + 4 000) ÷ 400 = 11; a quarter came by day 0, three quarters by day 20.
        habit.ShouldBe(new PayingHabit(11, 0, 20));
    }

    [Fact]
    public void Fewer_than_three_payments_or_older_ones_say_nothing()
    {
        PayingHabit.On(Today, [Part(10, 0, 100), Part(20, 4, 100)]).ShouldBeNull();
        PayingHabit.On(Today, [Part(10, 0, 100), Part(20, 4, 100), Part(366, 4, 100)]).ShouldBeNull();
        PayingHabit.On(Today, [Part(10, 0, 100), Part(20, 4, 100), Part(-1, 4, 100)]).ShouldBeNull("it comes tomorrow");
        PayingHabit.On(Today, [Part(10, 0, 100), Part(20, 4, 100), Part(364, 4, 100)]).ShouldNotBeNull();
    }

    [Fact]
    public void Quartiles_are_in_order_and_of_days_that_there_were() =>
        Gen.Select(Gen.Int[0, 360], Gen.Int[-30, 90], Gen.Long[1, 1_000_000])
            .List[3, 30]
            .Sample(made =>
            {
                var parts = made.Select(p => Part(p.Item1, p.Item2, p.Item3)).ToList();
                var habit = PayingHabit.On(Today, parts)!;
                habit.Lower.ShouldBeLessThanOrEqualTo(habit.Upper);
                made.Select(p => p.Item2).ShouldContain(habit.Lower);
                made.Select(p => p.Item2).ShouldContain(habit.Upper);
                habit.Mean.ShouldBeInRange(made.Min(p => p.Item2), made.Max(p => p.Item2));
                var all = made.Sum(p => p.Item3);
                (made.Where(p => p.Item2 <= habit.Lower).Sum(p => p.Item3) * 4).ShouldBeGreaterThanOrEqualTo(all);
                (made.Where(p => p.Item2 < habit.Lower).Sum(p => p.Item3) * 4).ShouldBeLessThan(all);
                (made.Where(p => p.Item2 <= habit.Upper).Sum(p => p.Item3) * 4).ShouldBeGreaterThanOrEqualTo(all * 3);
            });

    [Theory]
    // Due in 10 days; usually 5 late, between 2 and 9.
    [InlineData(10, 15, 12, 19, ExpectedBecause.Habit)]
    // Due 5 days ago: expected today.
    [InlineData(-5, 0, 0, 4, ExpectedBecause.Habit)]
    // Due 6 days ago: the habit has passed, and three quarters come within 9 days.
    [InlineData(-6, 3, 1, 3, ExpectedBecause.PastHabit)]
    // Due 40 days ago: tomorrow at the earliest.
    [InlineData(-40, 1, 1, 1, ExpectedBecause.PastHabit)]
    public void Money_is_expected_by_due_day_and_habit(
        int due,
        int day,
        int early,
        int late,
        ExpectedBecause because
    ) =>
        ExpectedDay
            .By(new PayingHabit(5, 2, 9), Today.AddDays(due), Today)
            .ShouldBe(new ExpectedDay(Today.AddDays(day), Today.AddDays(early), Today.AddDays(late), because));

    [Fact]
    public void It_is_never_expected_in_the_past_and_within_its_range() =>
        Gen.Select(Gen.Int[-60, 60], Gen.Int[-60, 60], Gen.Int[-60, 60], Gen.Int[-400, 400])
            .Sample(
                (mean, one, other, due) =>
                {
                    var habit = new PayingHabit(mean, Math.Min(one, other), Math.Max(one, other));
                    var expected = ExpectedDay.By(habit, Today.AddDays(due), Today);
                    expected.Early.ShouldBeGreaterThanOrEqualTo(Today);
                    expected.Day.ShouldBeInRange(expected.Early, expected.Late);
                    ExpectedDay.Said(Today, Today.AddDays(due), ExpectedBecause.Promise).Day.ShouldBeGreaterThan(Today);
                }
            );
}
