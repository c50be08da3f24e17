using CsCheck;
using Jugaad.Core.Numbering;
using Jugaad.Core.Schedules;

namespace Jugaad.Core.Tests;

/// <summary>Which backups are kept, and how a series goes on after numbers that were given elsewhere.</summary>
public sealed class KeepingTests
{
    private static readonly DateTime Noon = new(2025, 9, 17, 12, 0, 0);

    [Fact]
    public void The_newest_of_each_day_week_and_month_is_kept()
    {
        var nights = Enumerable.Range(0, 500).Select(n => Noon.AddDays(-n)).ToList();
        var kept = new Retention(7, 5, 12).Keep(nights.Append(Noon.AddHours(-1)));
        // A week ends on its Sunday, a month with its last day.
        kept.Order()
            .ShouldBe(
                new[]
                {
                    Noon,
                    Noon.AddDays(-1),
                    Noon.AddDays(-2),
                    Noon.AddDays(-3),
                    Noon.AddDays(-4),
                    Noon.AddDays(-5),
                    Noon.AddDays(-6),
                    new DateTime(2025, 9, 7, 12, 0, 0),
                    new(2025, 8, 31, 12, 0, 0),
                    new(2025, 8, 24, 12, 0, 0),
                    new(2025, 7, 31, 12, 0, 0),
                    new(2025, 6, 30, 12, 0, 0),
                    new(2025, 5, 31, 12, 0, 0),
                    new(2025, 4, 30, 12, 0, 0),
                    new(2025, 3, 31, 12, 0, 0),
                    new(2025, 2, 28, 12, 0, 0),
                    new(2025, 1, 31, 12, 0, 0),
                    new(2024, 12, 31, 12, 0, 0),
                    new(2024, 11, 30, 12, 0, 0),
                    new(2024, 10, 31, 12, 0, 0),
                }.Order()
            );
    }

    [Fact]
    public void A_machine_that_was_off_for_long_loses_nothing_by_it()
    {
        var old = Enumerable.Range(0, 3).Select(n => Noon.AddDays(-400 - n)).ToList();
        new Retention(3, 0, 0).Keep(old).Count.ShouldBe(3);
        new Retention(3, 0, 0).Keep([.. old, Noon]).ShouldBe([Noon, old[0], old[1]], ignoreOrder: true);
    }

    [Fact]
    public void Whatever_is_kept_the_newest_is_and_no_day_within_the_wish_is_lost() =>
        Gen.Select(Gen.Int[0, 900].List[0, 40], Gen.Int[0, 9], Gen.Int[0, 9], Gen.Int[0, 9])
            .Sample(
                (hours, days, weeks, months) =>
                {
                    var made = hours.ConvertAll(h => Noon.AddHours(-h));
                    var kept = new Retention(days, weeks, months).Keep(made);
                    kept.Except(made).ShouldBeEmpty();
                    if (made.Count > 0)
                        kept.ShouldContain(made.Max());
                    foreach (var day in made.Select(m => m.Date).Distinct().OrderDescending().Take(days))
                        kept.ShouldContain(made.Where(m => m.Date == day).Max());
                    kept.Count.ShouldBeLessThanOrEqualTo(1 + days + weeks + months);
                    // What was thrown away is not missed the next time.
                    new Retention(days, weeks, months)
                        .Keep(kept)
                        .ShouldBe(kept, ignoreOrder: true);
                }
            );

    private static readonly DateOnly Today = new(2025, 9, 17);

    private static Series Invoices(
        string pattern = "INV-{yyyy}-{0000}",
        SeriesRestart restarts = SeriesRestart.CalendarYear
    ) => new("Invoices", "Invoice", pattern, restarts);

    private static Series After(int given, Series series)
    {
        for (var i = 0; i < given; i++)
            series.Take(Today, _ => false);
        return series;
    }

    [Fact]
    public void A_series_goes_on_after_the_last_number_that_was_sent()
    {
        var series = After(3, Invoices());
        series
            .GoOnAfter("INV-2025-0003", Today.AddYears(-1), Today, "")
            .ShouldBeNull("the books have got as far themselves");
        var gap = series.GoOnAfter(" INV-2025-0007 ", Today.AddYears(-1), Today, "lost")!;
        (gap.Year, gap.From, gap.To, gap.Words).ShouldBe((2025, 4, 7, "counts 4 to 7 of 2025"));
        (gap.Covers(2025, 4), gap.Covers(2025, 8), gap.Covers(2024, 5)).ShouldBe((true, false, false));
        series.Take(Today, _ => false).ShouldBe("INV-2025-0008");
    }

    [Fact]
    public void Also_where_the_year_changed_meanwhile_or_is_not_written_or_the_month_is()
    {
        var series = After(3, Invoices());
        var gap = series.GoOnAfter("INV-2026-0002", Today.AddYears(-1), new DateOnly(2026, 1, 9), "")!;
        (gap.Year, gap.From, gap.To).ShouldBe((2026, 1, 2));
        series.Take(new DateOnly(2026, 1, 9), _ => false).ShouldBe("INV-2026-0003");
        series.Take(Today, _ => false).ShouldBe("INV-2025-0004");
        After(3, Invoices("{000}", SeriesRestart.Never))
            .GoOnAfter("005", Today.AddYears(-1), Today, "")!
            .Words.ShouldBe("counts 4 to 5");
        After(3, Invoices("{yy}{mm}-{000}")).GoOnAfter("2508-006", Today.AddYears(-1), Today, "")!.To.ShouldBe(6);
    }

    [Theory]
    [InlineData("INV-2025-0002", "these books have INV-2025-0003 already")]
    [InlineData("INV-2025-3", "is not a number of this series")]
    [InlineData("inv-2025-0004", "is not a number of this series")]
    [InlineData("INV-2023-0004", "is not a number of this series")]
    [InlineData("INV-2025-999999", "more than 100000 numbers after")]
    [InlineData("INV-2025-99999999999999", "is not a number of this series")]
    public void What_cannot_be_the_last_number_is_refused(string number, string says) =>
        Should
            .Throw<RefusalException>(() => After(3, Invoices()).GoOnAfter(number, Today.AddYears(-1), Today, ""))
            .Message.ShouldContain(says);

    [Fact]
    public void A_number_is_read_back_as_it_was_written() =>
        Gen.Select(
                Gen.Int[1, 2_000_000],
                Gen.Int[0, 800],
                Gen.OneOf("INV-{yyyy}-{0000}", "{000000}", "A{yy}/{mm}/{00}b", "9{0}{yy}")
            )
            .Sample(
                (count, days, pattern) =>
                {
                    var day = Today.AddDays(-days);
                    new NumberPattern(pattern)
                        .CountIn(new NumberPattern(pattern).Write(day, count), day, day.Year)
                        .ShouldBe(count);
                }
            );
}
