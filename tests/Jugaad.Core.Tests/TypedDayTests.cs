using CsCheck;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Tests;

/// <summary>Days as people type them. The day they are typed on is Wednesday, 17 September 2025.</summary>
public class TypedDayTests
{
    private static readonly DateOnly From = new(2025, 9, 17);

    [Theory]
    [InlineData("17", "2025-09-17")]
    [InlineData(" 3 ", "2025-09-03")]
    [InlineData("17.9", "2025-09-17")]
    [InlineData("17.9.", "2025-09-17")]
    [InlineData("1/10", "2025-10-01")]
    [InlineData("3-11", "2025-11-03")]
    [InlineData("3 11", "2025-11-03")]
    [InlineData("17 sep", "2025-09-17")]
    [InlineData("17sep", "2025-09-17")]
    [InlineData("17. September", "2025-09-17")]
    [InlineData("Sep 17", "2025-09-17")]
    [InlineData("sept 17, 2024", "2024-09-17")]
    [InlineData("17 sep 24", "2024-09-17")]
    [InlineData("17 Sep 2024", "2024-09-17")]
    [InlineData("1709", "2025-09-17")]
    [InlineData("170924", "2024-09-17")]
    [InlineData("17092024", "2024-09-17")]
    [InlineData("17.09.2024", "2024-09-17")]
    [InlineData("17/9/24", "2024-09-17")]
    [InlineData("2024-09-17", "2024-09-17")]
    [InlineData("2024/9/7", "2024-09-07")]
    [InlineData("+14", "2025-10-01")]
    [InlineData("+ 14", "2025-10-01")]
    [InlineData("-1", "2025-09-16")]
    [InlineData("\u22121", "2025-09-16")]
    [InlineData("+2w", "2025-10-01")]
    [InlineData("+1m", "2025-10-17")]
    [InlineData("-1y", "2024-09-17")]
    [InlineData("+0", "2025-09-17")]
    [InlineData("today", "2025-09-17")]
    [InlineData("TOMORROW", "2025-09-18")]
    [InlineData("yesterday", "2025-09-16")]
    [InlineData("fri", "2025-09-19")]
    [InlineData("friday", "2025-09-19")]
    [InlineData("next mon", "2025-09-22")]
    [InlineData("wed", "2025-09-24")]
    [InlineData("last wed", "2025-09-10")]
    [InlineData("last fri", "2025-09-12")]
    [InlineData("end of month", "2025-09-30")]
    [InlineData("End  of  month", "2025-09-30")]
    [InlineData("end of next month", "2025-10-31")]
    [InlineData("end of last month", "2025-08-31")]
    [InlineData("end of year", "2025-12-31")]
    public void A_day_is_read_where_the_day_is_written_first(string typed, string day) =>
        new TypedDay(DatePart.Day, From).Read(typed, "date").ShouldBe(DateOnly.Parse(day));

    [Theory]
    [InlineData("9/17", "2025-09-17")]
    [InlineData("1/10", "2025-01-10")]
    [InlineData("0917", "2025-09-17")]
    [InlineData("09172024", "2024-09-17")]
    [InlineData("9/7/24", "2024-09-07")]
    [InlineData("17 sep", "2025-09-17")]
    [InlineData("2024-09-07", "2024-09-07")]
    public void And_where_the_month_is(string typed, string day) =>
        new TypedDay(DatePart.Month, From).Read(typed, "date").ShouldBe(DateOnly.Parse(day));

    [Theory]
    [InlineData("09-17", "2025-09-17")]
    [InlineData("0917", "2025-09-17")]
    [InlineData("240917", "2024-09-17")]
    [InlineData("20240917", "2024-09-17")]
    [InlineData("2024-09-17", "2024-09-17")]
    public void And_where_the_year_is(string typed, string day) =>
        new TypedDay(DatePart.Year, From).Read(typed, "date").ShouldBe(DateOnly.Parse(day));

    [Theory]
    [InlineData(DatePart.Day, "32", "September 2025 has 30 days, and no day 32.")]
    [InlineData(DatePart.Day, "31", "September 2025 has 30 days, and no day 31.")]
    [InlineData(DatePart.Day, "0", "September 2025 has 30 days, and no day 0.")]
    [InlineData(DatePart.Day, "29.2", "February 2025 has 28 days, and no day 29.")]
    [InlineData(DatePart.Day, "9/17/2025", "There is no month 17. Here the day is written before the month.")]
    [InlineData(DatePart.Month, "17.9", "There is no month 17. Here the month is written before the day.")]
    [InlineData(DatePart.Month, "1709", "There is no month 17. Here the month is written before the day.")]
    [InlineData(
        DatePart.Year,
        "17.9.2025",
        "“17.9.2025” could be read in two ways. Here the year is written first, as in 2025-09-17."
    )]
    [InlineData(
        DatePart.Year,
        "7-9-25",
        "“7-9-25” could be read in two ways. Here the year is written first, as in 2025-09-17."
    )]
    [InlineData(DatePart.Day, "17.9.1025", "The year 1025 is too far off. Give a day between 1900 and 2199.")]
    [InlineData(DatePart.Day, "+2000y", "The year 4025 is too far off. Give a day between 1900 and 2199.")]
    public void What_is_no_day_is_refused_with_why(DatePart first, string typed, string why) =>
        Should
            .Throw<RefusalException>(() => new TypedDay(first, From).Read(typed, "date"))
            .Refusals.Single()
            .ShouldSatisfyAllConditions(r => r.Field.ShouldBe("date"), r => r.Message.ToString().ShouldBe(why));

    [Theory]
    [InlineData("171")]
    [InlineData("17095")]
    [InlineData("17.9.025")]
    [InlineData("17 xyz")]
    [InlineData("17 ma")]
    [InlineData("soon")]
    [InlineData("+")]
    [InlineData("+99999")]
    [InlineData("17:9")]
    [InlineData("1.2.3.4")]
    [InlineData("'; drop")]
    [InlineData("١٧")]
    [InlineData("a very long text that goes on and on and on for ever")]
    public void Nothing_else_is_taken_for_one(string typed) =>
        Should
            .Throw<RefusalException>(() => new TypedDay(DatePart.Day, From).Read(typed, "date"))
            .Refusals.Single()
            .Message.ToString()
            .ShouldContain("is not a date");

    [Theory]
    [InlineData("2026-01-03", "28.12", "2025-12-28")]
    [InlineData("2025-12-29", "5.1", "2026-01-05")]
    [InlineData("2025-09-17", "1.2", "2025-02-01")]
    [InlineData("2025-03-17", "30.11", "2025-11-30")]
    public void A_day_without_a_year_is_of_this_one_but_around_new_year(string from, string typed, string day) =>
        new TypedDay(DatePart.Day, DateOnly.Parse(from)).Read(typed, "date").ShouldBe(DateOnly.Parse(day));

    [Fact]
    public void What_the_business_writes_it_also_reads()
    {
        var days = Gen.Int[0, 109_000].Select(n => new DateOnly(1900, 1, 1).AddDays(n));
        Gen.Select(days, days, Gen.OneOf(DisplayFormat.DatePatterns.ToArray()))
            .Sample(
                (day, from, pattern) =>
                {
                    var format = new DisplayFormat('.', pattern);
                    format.ReadDay(format.Date(day), from, "date").ShouldBe(day);
                    format.ReadDay(day.ToString("yyyy-MM-dd"), from, "date").ShouldBe(day);
                }
            );
    }

    [Fact]
    public void Whatever_is_typed_is_a_day_in_range_or_refused()
    {
        var pieces = Gen.OneOf(
            "1",
            "31",
            "9",
            "12",
            "2025",
            "99",
            ".",
            "/",
            "-",
            " ",
            "+",
            "sep",
            "fri",
            "last",
            "w",
            "end of month",
            "00"
        );
        Gen.Select(pieces.Array[1, 6], Gen.Enum<DatePart>(), Gen.Int[0, 109_000])
            .Sample(
                (parts, first, n) =>
                {
                    try
                    {
                        var from = new DateOnly(1900, 1, 1).AddDays(n);
                        new TypedDay(first, from).Read(string.Concat(parts), "date").Year.ShouldBeInRange(1899, 2200);
                    }
                    catch (RefusalException refused)
                    {
                        refused.Refusals.ShouldHaveSingleItem();
                    }
                }
            );
    }
}
