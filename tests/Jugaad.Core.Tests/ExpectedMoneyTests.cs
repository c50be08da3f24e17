using CsCheck;
using Jugaad.Core.Collecting;

namespace Jugaad.Core.Tests;

/// <summary>What should come in, by week.</summary>
public sealed class ExpectedMoneyTests
{
    private static readonly DateOnly Today = new(2025, 9, 17);

    private static ExpectedPart Part(long home, int day, int early, int late, ExpectedBecause why) =>
        new(1, home, new ExpectedDay(Today.AddDays(day), Today.AddDays(early), Today.AddDays(late), why));

    [Fact]
    public void Weeks_have_seven_days_each_and_begin_on_the_day()
    {
        var weeks = ExpectedMoney.Of(Today, 2, []).Weeks;
        weeks.Select(w => (w.From, w.To)).ShouldBe([(Today, new(2025, 9, 23)), (new(2025, 9, 24), new(2025, 9, 30))]);
    }

    [Fact]
    public void A_week_says_what_is_likely_what_is_sure_and_what_is_promised()
    {
        var told = ExpectedMoney.Of(
            Today,
            2,
            [
                Part(100, 3, 1, 5, ExpectedBecause.Habit),
                Part(20, 6, 2, 9, ExpectedBecause.Habit),
                Part(3, 6, 6, 6, ExpectedBecause.Promise),
                Part(4000, 14, 10, 20, ExpectedBecause.PastHabit),
                new ExpectedPart(2, 50_000, null),
            ]
        );
        told.Weeks[0].ShouldBe(new ExpectedWeek(Today, Today.AddDays(6), 123, 103, 123, 3));
        told.Weeks[1].ShouldBe(new ExpectedWeek(Today.AddDays(7), Today.AddDays(13), 0, 0, 4020, 0));
        (told.Later, told.InDispute, told.Total).ShouldBe((4000, 50_000, 54_123));
    }

    [Theory]
    [InlineData(0)]
    [InlineData(105)]
    public void No_week_and_too_many_are_refused(int weeks) =>
        Should.Throw<RefusalException>(() => ExpectedMoney.Of(Today, weeks, [])).Message.ShouldContain("from 1 to 104");

    [Fact]
    public void Weeks_later_and_disputes_add_up_and_low_is_no_more_than_high() =>
        (
            from weeks in Gen.Int[1, 20]
            from parts in (
                from home in Gen.Long[0, 100_000]
                from kind in Gen.Int[0, 3]
                from due in Gen.Int[-200, 200]
                from habit in Gen.Select(Gen.Int[-20, 60], Gen.Int[-20, 60], Gen.Int[-20, 60])
                select (home, kind, due, habit)
            ).List[0, 20]
            select (weeks, parts)
        ).Sample(made =>
        {
            var parts = made.parts.ConvertAll(p =>
            {
                var (mean, a, b) = p.habit;
                return new ExpectedPart(
                    1,
                    p.home,
                    p.kind switch
                    {
                        0 => null,
                        1 => ExpectedDay.Said(Today, Today.AddDays(p.due), ExpectedBecause.Promise),
                        _ => ExpectedDay.By(
                            new PayingHabit(mean, Math.Min(a, b), Math.Max(a, b)),
                            Today.AddDays(p.due),
                            Today
                        ),
                    }
                );
            });
            var told = ExpectedMoney.Of(Today, made.weeks, parts);
            (told.Weeks.Sum(w => w.Amount) + told.Later + told.InDispute).ShouldBe(told.Total);
            told.Total.ShouldBe(parts.Sum(p => p.Home));
            told.Weeks.ShouldAllBe(w => w.Low <= w.Amount && w.Amount <= w.High && w.Promised <= w.Amount);
        });
}
