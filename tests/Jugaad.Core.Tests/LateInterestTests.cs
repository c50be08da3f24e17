using CsCheck;
using Jugaad.Core.Collecting;

namespace Jugaad.Core.Tests;

/// <summary>Interest on what is paid late.</summary>
public sealed class LateInterestTests
{
    private static readonly DateOnly Due = new(2025, 6, 30);
    private static readonly IReadOnlyList<InterestRate> Ten = [new(new(2020, 1, 1), 10m)];

    private static long To(
        int daysLate,
        IReadOnlyList<OpenFrom> open,
        IReadOnlyList<InterestRate>? rates = null,
        params Pause[] pauses
    ) => LateInterest.To(Due.AddDays(daysLate), Due, open, rates ?? Ten, pauses);

    private static OpenFrom Open(int daysLate, long amount) => new(Due.AddDays(daysLate), amount);

    [Fact]
    public void A_year_at_ten_percent_is_a_tenth_and_the_due_day_costs_nothing()
    {
        To(365, [Open(-30, 100_000)]).ShouldBe(10_000);
        To(0, [Open(-30, 100_000)]).ShouldBe(0);
        To(-5, [Open(-30, 100_000)]).ShouldBe(0);
        // 1,000.00 × 10 % ÷ 365 = 0.27 (0.2739…) for the first day.
        To(1, [Open(-30, 100_000)]).ShouldBe(27);
    }

    [Fact]
    public void What_is_paid_on_a_day_was_open_for_the_whole_of_it()
    {
        // 100 days of 1,000.00 and then 20 of 400.00: (100 000 × 100 + 40 000 × 20) × 10 % ÷ 365.
        To(120, [Open(-30, 100_000), Open(100, 40_000)]).ShouldBe(2_959);
        To(300, [Open(-30, 100_000), Open(10, 0)]).ShouldBe(To(10, [Open(-30, 100_000)]));
        To(300, [Open(-30, 100_000), Open(0, 0)]).ShouldBe(0, "paid on the due day");
    }

    [Fact]
    public void A_rate_holds_from_its_first_day_and_before_the_first_there_is_none()
    {
        IReadOnlyList<InterestRate> rates = [new(Due.AddDays(11), 10m), new(Due.AddDays(21), 11.5m)];
        // Ten days without, ten at 10 %, ten at 11.5 %: 100 000 × (10 × 10 + 10 × 11.5) ÷ 36 500 = 589.04.
        To(30, [Open(-30, 100_000)], rates).ShouldBe(589);
    }

    [Fact]
    public void It_rests_for_the_days_of_a_dispute_both_counted()
    {
        var pause = new Pause(Due.AddDays(6), Due.AddDays(15));
        To(30, [Open(-30, 100_000)], null, pause).ShouldBe(To(20, [Open(-30, 100_000)]));
        To(10, [Open(-30, 100_000)], null, pause).ShouldBe(To(5, [Open(-30, 100_000)]));
        To(30, [Open(-30, 100_000)], null, pause, pause).ShouldBe(To(20, [Open(-30, 100_000)]));
    }

    [Fact]
    public void What_it_is_reckoned_from_covers_each_day_once_and_comes_to_it()
    {
        (
            from open in Gen.Select(
                Gen.Int[-40, 400],
                Gen.Long[0, 9_000_000],
                (day, amount) => Open(day, amount)
            ).Array[1, 6]
            from rates in Gen.Select(
                Gen.Int[-40, 400],
                Gen.Int[0, 30_0000],
                (day, percent) => new InterestRate(Due.AddDays(day), percent / 10_000m)
            ).Array[0, 4]
            from first in Gen.Int[1, 300]
            from days in Gen.Int[0, 60]
            from late in Gen.Int[1, 400]
            select (open, rates, Pause: new Pause(Due.AddDays(first), Due.AddDays(first + days)), late)
        ).Sample(t =>
        {
            var day = Due.AddDays(t.late);
            var open = t.open.OrderBy(o => o.From).ToList();
            var rates = t.rates.OrderBy(r => r.From).ToList();
            var basis = LateInterest.Stretches(day, Due, open, rates, [t.Pause]);
            LateInterest.Covers(basis, Due, day).ShouldBeTrue();
            LateInterest.Of(basis).ShouldBe(LateInterest.To(day, Due, open, rates, [t.Pause]));
            // Told day by day it comes to the same.
            LateInterest
                .Of(
                    basis.SelectMany(s =>
                        Enumerable
                            .Range(0, s.Days)
                            .Select(i => s with { From = s.From.AddDays(i), Until = s.From.AddDays(i) })
                    )
                )
                .ShouldBe(LateInterest.Of(basis));
            LateInterest.Covers([.. basis.Skip(1)], Due, day).ShouldBeFalse("a day is missing");
            LateInterest.Covers([.. basis, basis[^1]], Due, day).ShouldBeFalse("a day counts twice");
        });
    }

    [Fact]
    public void It_is_the_sum_of_its_days_rounded_once()
    {
        (
            from amounts in Gen.Select(Gen.Int[-20, 200], Gen.Long[0, 1_000_000_00]).List[1, 6]
            from rates in Gen.Select(Gen.Int[-20, 200], Gen.Int[0, 400_000]).List[0, 4]
            from pauses in Gen.Select(Gen.Int[-10, 150], Gen.Int[0, 40]).List[0, 3]
            from late in Gen.Int[-5, 250]
            select (amounts, rates, pauses, late)
        ).Sample(made =>
        {
            var open = made
                .amounts.DistinctBy(a => a.Item1)
                .OrderBy(a => a.Item1)
                .Select(a => Open(a.Item1, a.Item2))
                .ToList();
            var rates = made
                .rates.DistinctBy(r => r.Item1)
                .OrderBy(r => r.Item1)
                .Select(r => new InterestRate(Due.AddDays(r.Item1), r.Item2 / 10_000m))
                .ToList();
            var pauses = made
                .pauses.Select(p => new Pause(Due.AddDays(p.Item1), Due.AddDays(p.Item1 + p.Item2)))
                .ToArray();
            var exact = 0m;
            for (var day = Due.AddDays(1); day <= Due.AddDays(made.late); day = day.AddDays(1))
                if (!pauses.Any(p => p.Has(day)))
                    exact +=
                        (open.LastOrDefault(o => o.From < day)?.Amount ?? 0)
                        * (rates.LastOrDefault(r => r.From <= day)?.Percent ?? 0);
            To(made.late, open, rates, pauses)
                .ShouldBe((long)Math.Round(exact / 36_500, MidpointRounding.AwayFromZero));
        });
    }
}
