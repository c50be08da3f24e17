using CsCheck;
using Jugaad.Core.Numbering;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

public sealed class NumberTests
{
    private static readonly DateOnly Day = new(2025, 9, 17);

    [Theory]
    [InlineData("INV-{yyyy}-{0000}", 7, "INV-2025-0007")]
    [InlineData("{yy}{mm}/{00}", 123, "2509/123")]
    [InlineData("{0}", 1, "1")]
    public void A_pattern_writes_numbers(string pattern, int count, string number) =>
        new NumberPattern(pattern).Write(Day, count).ShouldBe(number);

    [Theory]
    [InlineData("INV")]
    [InlineData("{0000}-{00}")]
    [InlineData("{day}-{0}")]
    [InlineData("INV-{0000")]
    public void A_pattern_that_cannot_count_is_refused(string pattern) =>
        Should.Throw<RefusalException>(() => new NumberPattern(pattern)).Refusals[0].Field.ShouldBe("pattern");

    [Fact]
    public void Starting_afresh_each_year_needs_the_year_in_the_number() =>
        Should.Throw<RefusalException>(() => new Series("x", "Invoice", "INV-{0000}", SeriesRestart.CalendarYear));

    [Fact]
    public void Numbers_run_without_gap_or_double_each_year_for_itself()
    {
        var series = new Series("Invoices", "Invoice", "INV-{yyyy}-{000}", SeriesRestart.CalendarYear);
        var taken = new List<string>();
        foreach (var year in new[] { 2025, 2025, 2026, 2025, 2026 })
            taken.Add(series.Take(new DateOnly(year, 3, 1), taken.Contains));
        taken.ShouldBe(["INV-2025-001", "INV-2025-002", "INV-2026-001", "INV-2025-003", "INV-2026-002"]);
    }

    [Fact]
    public void A_number_typed_by_hand_is_passed_over() =>
        Gen.Int[1, 9]
            .HashSet[0, 6]
            .Sample(byHand =>
            {
                var series = new Series("Invoices", "Invoice", "I{0}", SeriesRestart.Never);
                var used = byHand.Select(n => $"I{n}").ToHashSet();
                for (var i = 0; i < 9 - byHand.Count; i++)
                    used.Add(series.Take(Day, used.Contains)).ShouldBeTrue();
                used.ShouldBe(Enumerable.Range(1, 9).Select(n => $"I{n}"), ignoreOrder: true);
            });

    [Theory]
    [InlineData("2025-06-30", "F2024-001")]
    [InlineData("2025-07-01", "F2025-001")]
    [InlineData("2026-01-15", "F2025-001")]
    public void A_financial_year_has_a_count_and_a_name_of_its_own(string day, string number) =>
        new Series("Invoices", "Invoice", "F{yyyy}-{000}", SeriesRestart.FinancialYear)
            .Next(DateOnly.Parse(day), _ => false, 7)
            .Number.ShouldBe(number);

    [Fact]
    public void What_is_told_before_is_what_is_given_whatever_is_used() =>
        (
            from byHand in Gen.Int[1, 30].HashSet[0, 12]
            from days in Gen.Int[0, 900].List[1, 30]
            from restarts in Gen.Enum<SeriesRestart>()
            from begins in Gen.Int[1, 12]
            select (byHand, days, restarts, begins)
        ).Sample(x =>
        {
            var series = new Series("Invoices", "Invoice", "I{yyyy}-{0}", x.restarts);
            var used = x.byHand.Select(n => $"I2025-{n}").ToHashSet();
            foreach (var day in x.days.Select(d => new DateOnly(2024, 1, 1).AddDays(d)))
            {
                var told = series.Next(day, used.Contains, x.begins).Number;
                series.Take(day, used.Contains, x.begins).ShouldBe(told);
                used.Add(told).ShouldBeTrue("no number comes twice");
            }
        });

    [Theory]
    [InlineData(DueRule.DaysAfter, 14, 0, 0, "2025-01-31", "2025-02-14")]
    [InlineData(DueRule.DayOfMonth, 0, 31, 1, "2025-01-15", "2025-02-28")]
    [InlineData(DueRule.DayOfMonth, 0, 31, 1, "2024-01-15", "2024-02-29")]
    [InlineData(DueRule.DayOfMonth, 0, 15, 2, "2025-11-30", "2026-01-15")]
    [InlineData(DueRule.EndOfMonth, 10, 0, 0, "2025-02-03", "2025-03-10")]
    [InlineData(DueRule.EndOfMonth, 0, 0, 0, "2025-04-30", "2025-04-30")]
    [InlineData(DueRule.OnReceipt, 0, 0, 0, "2025-04-30", "2025-04-30")]
    public void Due_days_follow_the_terms(
        DueRule rule,
        int days,
        int dayOfMonth,
        int months,
        string date,
        string due
    ) =>
        new PaymentTerms("x", rule, days, dayOfMonth, months == 0 ? 1 : months)
            .DueOn(DateOnly.Parse(date))
            .ShouldBe(DateOnly.Parse(due));

    [Fact]
    public void A_due_day_is_never_before_the_date() =>
        (
            from rule in Gen.Enum<DueRule>()
            from days in Gen.Int[0, 120]
            from dom in Gen.Int[1, 31]
            from ahead in Gen.Int[1, 2]
            from day in Gen.Int[0, 3000]
            select (terms: new PaymentTerms("x", rule, days, dom, ahead), date: new DateOnly(2020, 1, 1).AddDays(day))
        ).Sample(x => x.terms.DueOn(x.date).ShouldBeGreaterThanOrEqualTo(x.date));

    [Fact]
    public void The_early_discount_is_offered_up_to_its_last_day()
    {
        new PaymentTerms("2 % in 8 days", DueRule.DaysAfter, 30, earlyPercent: 2, earlyDays: 8)
            .EarlyUntil(Day)
            .ShouldBe(new DateOnly(2025, 9, 25));
        new PaymentTerms("30 days", DueRule.DaysAfter, 30).EarlyUntil(Day).ShouldBeNull();
    }

    [Theory]
    [InlineData(DueRule.DaysAfter, -1, 0, 1, "days")]
    [InlineData(DueRule.DayOfMonth, 0, 32, 1, "dayOfMonth")]
    [InlineData(DueRule.DayOfMonth, 0, 1, 3, "monthsAhead")]
    public void Terms_that_cannot_be_are_refused(DueRule rule, int days, int dom, int ahead, string field) =>
        Should
            .Throw<RefusalException>(() => new PaymentTerms("x", rule, days, dom, ahead))
            .Refusals[0]
            .Field.ShouldBe(field);

    [Theory]
    [InlineData("EE38 2200 2210 2014 5685", true)]
    [InlineData("EE382200221020145684", false)]
    [InlineData("EE38", false)]
    [InlineData("", true)]
    public void Account_numbers_are_checked(string iban, bool good)
    {
        if (good)
            Iban.Check(iban, "iban");
        else
            Should.Throw<RefusalException>(() => Iban.Check(iban, "iban"));
    }

    [Fact]
    public void Made_account_numbers_are_valid() =>
        Gen.Int[0, 999_999_999].Sample(n => Iban.Check(Iban.Make("EE", $"9922001{n:000000000}"), "iban"));
}
