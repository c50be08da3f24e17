using CsCheck;
using Jugaad.Core.Collecting;

namespace Jugaad.Core.Tests;

/// <summary>Who is written to, and at which step.</summary>
public sealed class LadderTests
{
    // A Monday.
    private static readonly DateOnly Start = new(2025, 9, 1);

    private static readonly Ladder Four = new(
        [new(1, -3), new(2, 7), new(3, 21), new(4, 45)],
        new WorkingDays(WorkingDays.UsualWeek, [new(2025, 9, 10)]),
        5_00,
        7
    );

    private static LadderItem Item(int id, int late, DateOnly day, int had = 0, long askable = 100_00) =>
        new(id, day.AddDays(-late), askable, had);

    private static LadderDecision Decide(DateOnly day, params LadderItem[] items) =>
        Four.Decide(day, items, null, false);

    [Theory]
    [InlineData("2025-09-03", "2025-09-03")]
    [InlineData("2025-09-06", "2025-09-08")]
    [InlineData("2025-09-10", "2025-09-11")]
    public void A_step_falls_on_a_working_day(string day, string on) =>
        Four.DayOf(new(2, 7), DateOnly.Parse(day).AddDays(-7)).ShouldBe(DateOnly.Parse(on));

    [Fact]
    public void Nobody_can_rest_for_ever()
    {
        Should.Throw<RefusalException>(() => new WorkingDays([], []));
        var holidays = Enumerable.Range(0, 400).Select(d => Start.AddDays(d));
        Should.Throw<RefusalException>(() => new WorkingDays(WorkingDays.UsualWeek, holidays).From(Start));
    }

    [Fact]
    public void One_letter_goes_at_the_highest_step_reached_with_all_that_is_open()
    {
        var decision = Decide(Start, Item(1, 25, Start), Item(2, 8, Start), Item(3, 1, Start), Item(4, -20, Start));
        (decision.Step, decision.Why).ShouldBe((3, null));
        decision.Items.ShouldBe([1, 2, 3, 4]);
        // The one that has reached none, and the one that is late by a day, past the note before the due day.
        decision.Noted.ShouldBe(
            new Dictionary<int, int>
            {
                [1] = 3,
                [2] = 2,
                [3] = 1,
            },
            ignoreOrder: true
        );
    }

    [Fact]
    public void After_days_without_a_run_only_the_highest_step_goes()
    {
        var decision = Decide(Start, Item(1, 60, Start));
        (decision.Step, decision.Noted[1]).ShouldBe((4, 4));
        Decide(Start, Item(1, 60, Start, had: 4)).Why.ShouldBe(NoLetter.NoStepReached);
    }

    [Fact]
    public void The_tone_does_not_fall_while_an_older_one_stands_higher()
    {
        var decision = Decide(Start, Item(1, 30, Start, had: 3), Item(2, 8, Start));
        (decision.Step, decision.Noted.Count, decision.Noted[2]).ShouldBe((3, 1, 2));
        // Once the older one can no longer be asked for, it does.
        Decide(Start, Item(1, 30, Start, had: 3, askable: 0), Item(2, 8, Start)).Step.ShouldBe(2);
    }

    [Fact]
    public void It_is_said_why_nothing_goes()
    {
        Decide(Start).Why.ShouldBe(NoLetter.NothingToAsk);
        Decide(Start, Item(1, 30, Start, askable: 0)).Why.ShouldBe(NoLetter.NothingToAsk);
        Decide(Start, Item(1, -30, Start)).Why.ShouldBe(NoLetter.NoStepReached);
        Decide(Start, Item(1, 30, Start, askable: 2_50)).Why.ShouldBe(NoLetter.UnderTolerance);
        Decide(Start, Item(1, 30, Start, askable: 2_50), Item(2, 30, Start, askable: 2_50))
            .Why.ShouldBeNull("together");
        var saturday = Start.AddDays(5);
        Decide(saturday, Item(1, 30, saturday)).Why.ShouldBe(NoLetter.NoWorkingDay);
        LadderItem[] late = [Item(1, 30, Start)];
        Four.Decide(Start, late, Start.AddDays(-6), false).Why.ShouldBe(NoLetter.TooSoon);
        Four.Decide(Start, late, Start.AddDays(-7), false).Why.ShouldBeNull();
        Four.Decide(Start, late, null, true).Why.ShouldBe(NoLetter.MoneyWaits);
    }

    [Theory]
    [InlineData(7, 7, "steps[1].days")]
    [InlineData(7, 3, "steps[1].days")]
    public void Steps_out_of_order_are_refused(int first, int second, string field)
    {
        var refusals = new Refusals();
        (Four with { Steps = [new(1, first), new(2, second)] }).Check(refusals);
        refusals.Of(field).ShouldNotBeEmpty();
        var fine = new Refusals();
        Four.Check(fine);
        fine.Any.ShouldBeFalse();
    }

    /// <summary>
    /// Over random days on which it runs, with invoices that come due, are paid, promised and contested: each step goes
    /// once, letters keep their distance, nothing is asked for that cannot be, and whatever has reached a step has had it
    /// once there was a day for it.
    /// </summary>
    [Fact]
    public void Whatever_the_days_each_step_goes_once_and_nothing_is_asked_for_that_cannot_be()
    {
        (
            from items in Gen.Select(Gen.Int[-40, 120], Gen.Int[0, 160], Gen.Int[0, 100], Gen.Int[0, 30]).List[1, 6]
            from pauses in Gen.Int[1, 20].List[20, 60]
            select (items, pauses)
        ).Sample(made =>
        {
            var had = new Dictionary<int, int>();
            DateOnly? last = null;
            var day = Start;
            foreach (var pause in made.pauses)
            {
                day = day.AddDays(pause);
                var passed = day.DayNumber - Start.DayNumber;
                var items = made
                    .items.Select(
                        (i, id) =>
                            new LadderItem(
                                id,
                                Start.AddDays(i.Item1),
                                // Paid from a day on, and for some days promised.
                                passed >= i.Item2
                                || (passed >= i.Item3 && passed < i.Item3 + i.Item4)
                                    ? 0
                                    : 100_00,
                                had.GetValueOrDefault(id)
                            )
                    )
                    .ToList();
                var decision = Four.Decide(day, items, last, false);
                if (decision.Why is { } why)
                {
                    if (why == NoLetter.NoStepReached)
                        items
                            .Where(i => i.Askable > 0)
                            .ShouldAllBe(i => Four.ReachedBy(day, i.Due) <= i.Had, "nothing was left out");
                    continue;
                }

                Four.Days.Has(day).ShouldBeTrue();
                if (last is { } before)
                    (day.DayNumber - before.DayNumber).ShouldBeGreaterThanOrEqualTo(7);
                last = day;
                decision.Items.Select(id => items[id]).ShouldAllBe(i => i.Askable > 0);
                decision.Noted.ShouldNotBeEmpty();
                foreach (var (id, step) in decision.Noted)
                {
                    step.ShouldBeGreaterThan(had.GetValueOrDefault(id), "each step once");
                    decision.Items.ShouldContain(id);
                    decision.Step.ShouldBeGreaterThanOrEqualTo(step);
                    Four.DayOf(Four.Steps[step - 1], items[id].Due).ShouldBeLessThanOrEqualTo(day);
                    had[id] = step;
                }
            }
        });
    }
}
