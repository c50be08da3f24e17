using Jugaad.Core.Accounts;
using Jugaad.Core.Collecting;

namespace Jugaad.Core.Tests;

/// <summary>How collecting went in a month.</summary>
public sealed class CollectingMonthTests
{
    private static readonly DateOnly September = new(2025, 9, 1);

    private static PaidPart Paid(int day, int daysLate, long amount) =>
        new(new DateOnly(2025, 9, day).AddDays(-daysLate), new(2025, 9, day), amount);

    [Fact]
    public void Days_outstanding_are_those_of_the_three_months() =>
        // 92 days from July to September; 3 000.00 of 9 200.00 is a third of them, less a little.
        CollectingMonth.Of(September, 3_000_00, 9_200_00, []).DaysOutstanding.ShouldBe(30);

    [Fact]
    public void Days_before_the_books_began_do_not_count() =>
        CollectingMonth.Of(September, 50_00, 100_00, [], new DateOnly(2025, 9, 11)).DaysOutstanding.ShouldBe(10);

    [Theory]
    [InlineData(100, 0, null)]
    [InlineData(100, -50, null)]
    [InlineData(-100, 100, 0)]
    public void Without_sales_or_debts_there_is_nothing_to_divide(long owed, long billed, int? days) =>
        CollectingMonth.Of(September, owed, billed, []).DaysOutstanding.ShouldBe(days);

    [Fact]
    public void Days_late_and_what_came_in_time_are_weighted_by_amount_and_of_the_month_alone()
    {
        var month = CollectingMonth.Of(
            September,
            0,
            0,
            [Paid(3, 10, 300_00), Paid(9, 0, 100_00), new(new(2025, 7, 1), new(2025, 8, 31), 900_00)]
        );
        (month.Paid, month.DaysLate, month.PercentOnTime).ShouldBe((400_00, 8, 25));
        var none = CollectingMonth.Of(September, 0, 0, []);
        (none.DaysLate, none.PercentOnTime).ShouldBe((null, null));
    }
}
