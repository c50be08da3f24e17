using CsCheck;
using Jugaad.Core.Documents;
using Jugaad.Core.Schedules;

namespace Jugaad.Core.Tests;

public sealed class ScheduleTests
{
    private static DateOnly Day(int year, int month, int day) => new(year, month, day);

    [Fact]
    public void The_day_of_the_month_is_remembered_over_short_months()
    {
        var monthly = new Schedule(Day(2025, 1, 31), 1, Pace.Months);
        Enumerable
            .Range(0, 5)
            .Select(monthly.DayOf)
            .ShouldBe([Day(2025, 1, 31), Day(2025, 2, 28), Day(2025, 3, 31), Day(2025, 4, 30), Day(2025, 5, 31)]);
        new Schedule(Day(2024, 1, 31), 1, Pace.Months).DayOf(1).ShouldBe(Day(2024, 2, 29));
        new Schedule(Day(2024, 2, 29), 1, Pace.Years).DayOf(4).ShouldBe(Day(2028, 2, 29));
        new Schedule(Day(2025, 9, 3), 2, Pace.Weeks).DayOf(2).ShouldBe(Day(2025, 10, 1));
    }

    [Fact]
    public void It_ends_never_after_a_day_or_after_a_count()
    {
        new Schedule(Day(2025, 1, 1), 1, Pace.Days).Has(5_000).ShouldBeTrue();
        var until = new Schedule(Day(2025, 1, 31), 1, Pace.Months, Until: Day(2025, 2, 28));
        (until.Has(1), until.Has(2)).ShouldBe((true, false));
        var times = new Schedule(Day(2025, 1, 31), 1, Pace.Months, Times: 2);
        (times.Has(1), times.Has(2)).ShouldBe((true, false));
        times.DueFrom(0, Day(2030, 1, 1)).Count().ShouldBe(2);
    }

    [Fact]
    public void A_period_reaches_to_the_day_before_the_next() =>
        new Schedule(Day(2025, 10, 1), 1, Pace.Months).PeriodEnd(0).ShouldBe(Day(2025, 10, 31));

    [Theory]
    [InlineData(0, null, null, "every")]
    [InlineData(1, -1, null, "until")]
    [InlineData(1, null, 0, "times")]
    public void What_cannot_be_is_refused(int every, int? untilAfter, int? times, string field)
    {
        var refusals = new Refusals();
        new Schedule(
            Day(2025, 1, 1),
            every,
            Pace.Days,
            untilAfter is { } u ? Day(2025, 1, 1).AddDays(u) : null,
            times
        ).Check(refusals);
        Should.Throw<RefusalException>(refusals.ThrowIfAny).Refusals.Single().Field.ShouldBe(field);
    }

    [Fact]
    public void Words_say_what_it_does() =>
        new Schedule(Day(2025, 1, 31), 3, Pace.Months, Times: 4)
            .Words(d => d.ToString("yyyy-MM-dd"))
            .ShouldBe("every 3 months from 2025-01-31, 4 times");

    /// <summary>Days only go forward, and asking in any steps gives each occurrence once.</summary>
    [Fact]
    public void However_often_one_asks_each_occurrence_comes_once() =>
        (
            from first in Gen.Int[0, 3_000]
            from every in Gen.Int[1, 40]
            from pace in Gen.Enum<Pace>()
            from times in Gen.Int[1, 60]
            from steps in Gen.Int[1, 200].Array[1, 30]
            select (first, every, pace, times, steps)
        ).Sample(t =>
        {
            var standing = Standing(new Schedule(Day(2020, 1, 1).AddDays(t.first), t.every, t.pace, Times: t.times));
            var day = standing.Schedule.First;
            var made = new List<(int Index, DateOnly Day)>();
            foreach (var step in t.steps)
            {
                foreach (var due in standing.DueBy(day))
                {
                    made.Add(due);
                    standing.Occur(1);
                }

                day = day.AddDays(step);
            }

            made.Select(m => m.Index).ShouldBe(Enumerable.Range(0, made.Count));
            made.Zip(made.Skip(1)).ShouldAllBe(p => p.First.Day < p.Second.Day);
            made.Count.ShouldBeLessThanOrEqualTo(t.times);
        });

    [Fact]
    public void What_falls_into_a_pause_is_not_caught_up()
    {
        var standing = Standing(new Schedule(Day(2025, 1, 31), 1, Pace.Months));
        standing.Occur(1);
        standing.Pause(true, Day(2025, 2, 10));
        standing.DueBy(Day(2025, 6, 1)).ShouldBeEmpty();
        standing.NextDay.ShouldBeNull();
        standing.Pause(false, Day(2025, 5, 31));
        standing.DueBy(Day(2025, 6, 1)).Single().Day.ShouldBe(Day(2025, 5, 31));
        standing.Occurrences.Count(o => o.DocumentId is null).ShouldBe(3);
    }

    [Fact]
    public void A_schedule_that_is_changed_begins_after_what_has_been()
    {
        var standing = Standing(new Schedule(Day(2025, 1, 31), 1, Pace.Months));
        standing.Occur(1);
        void Change(Schedule schedule) =>
            standing.Describe(standing.Details with { Schedule = schedule }, 1, standing.Content);
        Should.Throw<RefusalException>(() => Change(new Schedule(Day(2025, 1, 30), 1, Pace.Weeks)));
        Should.Throw<RefusalException>(() => Change(new Schedule(Day(2025, 1, 31), 2, Pace.Months)));
        Change(new Schedule(Day(2025, 2, 3), 1, Pace.Weeks));
        standing.DueBy(Day(2025, 2, 10)).Select(d => d.Day).ShouldBe([Day(2025, 2, 3), Day(2025, 2, 10)]);
        standing.Occur(2).Index.ShouldBe(1);
    }

    private static StandingInvoice Standing(Schedule schedule)
    {
        var standing = new StandingInvoice("me");
        standing.Describe(
            new StandingDetails { Name = "Storage", Schedule = schedule },
            1,
            new DraftContent { Lines = [new DraftLine(null, "Storage", 1, "MON", 26, null, null, 1, 1)] }
        );
        return standing;
    }
}
