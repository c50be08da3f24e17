using Jugaad.Core.Schedules;

namespace Jugaad.Core.Tests;

/// <summary>Days by name, and the ranges with which they are compared.</summary>
public sealed class NamedDaysTests
{
    private static DateOnly D(string day) => DateOnly.ParseExact(day, "yyyy-MM-dd");

    [Theory]
    [InlineData("today", "2025-09-17", "2025-09-17")]
    [InlineData("this-week", "2025-09-15", "2025-09-21")]
    [InlineData("this-month", "2025-09-01", "2025-09-30")]
    [InlineData("last-month", "2025-08-01", "2025-08-31")]
    [InlineData("this-quarter", "2025-07-01", "2025-09-30")]
    [InlineData("last-quarter", "2025-04-01", "2025-06-30")]
    [InlineData("this-year", "2025-01-01", "2025-12-31")]
    [InlineData("last-year", "2024-01-01", "2024-12-31")]
    [InlineData("this-financial-year", "2025-04-01", "2026-03-31")]
    [InlineData("last-financial-year", "2024-04-01", "2025-03-31")]
    [InlineData("last-12-months", "2024-10-01", "2025-09-30")]
    public void A_name_means_its_days(string name, string from, string until) =>
        NamedDays.Of(name, D("2025-09-17"), 4).ShouldBe((D(from), D(until)));

    [Fact]
    public void What_is_no_name_means_nothing()
    {
        NamedDays.Of("next-month", D("2025-09-17"), 1).ShouldBeNull();
        NamedDays.All.ShouldAllBe(n => NamedDays.Of(n.Name, D("2024-02-29"), 7) != null);
    }

    [Theory]
    [InlineData("2025-03-01", "2025-03-31", "2025-02-01", "2025-02-28")]
    [InlineData("2025-01-01", "2025-03-31", "2024-10-01", "2024-12-31")]
    [InlineData("2024-01-01", "2024-12-31", "2023-01-01", "2023-12-31")]
    [InlineData("2025-03-10", "2025-03-19", "2025-02-28", "2025-03-09")]
    public void The_range_before_is_as_long_and_ends_the_day_before(string from, string until, string f, string u) =>
        NamedDays.Before(D(from), D(until)).ShouldBe((D(f), D(u)));

    [Theory]
    [InlineData("2024-02-01", "2024-02-29", "2023-02-01", "2023-02-28")]
    [InlineData("2025-02-01", "2025-02-28", "2024-02-01", "2024-02-29")]
    [InlineData("2025-03-10", "2025-03-19", "2024-03-10", "2024-03-19")]
    public void A_year_before_whole_months_stay_whole(string from, string until, string f, string u) =>
        NamedDays.YearBefore(D(from), D(until)).ShouldBe((D(f), D(u)));
}
