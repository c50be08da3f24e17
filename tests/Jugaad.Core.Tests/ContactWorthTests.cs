using Jugaad.Core.Collecting;

namespace Jugaad.Core.Tests;

/// <summary>What a contact with a customer is worth.</summary>
public sealed class ContactWorthTests
{
    private static long Worth(
        (long Amount, int DaysLate)[] asked,
        int usual = 0,
        bool broke = false,
        int risk = 100,
        int? since = null
    ) =>
        ContactWorth.Of(
            new ContactCase([.. asked.Select(a => new AskedFor(a.Amount, a.DaysLate))], usual, broke, risk, since),
            ContactWeights.Usual
        );

    [Theory]
    // The amount, by days late beyond the habit: 30 days weigh it once, 90 and more three times.
    [InlineData(1000_00, 30, 0, false, 100, null, 1000_00)]
    [InlineData(1000_00, 15, 0, false, 100, null, 500_00)]
    [InlineData(1000_00, 90, 0, false, 100, null, 3000_00)]
    [InlineData(1000_00, 400, 0, false, 100, null, 3000_00)]
    [InlineData(1000_00, 0, 0, false, 100, null, 0)]
    [InlineData(1000_00, -5, 0, false, 100, null, 0)]
    // Somebody who always pays twelve days late is not late before.
    [InlineData(1000_00, 12, 12, false, 100, null, 0)]
    [InlineData(1000_00, 42, 12, false, 100, null, 1000_00)]
    [InlineData(1000_00, 10, -5, false, 100, null, 500_00)]
    // A broken promise, and the grade of the register.
    [InlineData(1000_00, 30, 0, true, 100, null, 1500_00)]
    [InlineData(1000_00, 30, 0, false, 130, null, 1300_00)]
    [InlineData(1000_00, 30, 0, true, 200, null, 3000_00)]
    // Nothing on the day of a contact, all of it again after two weeks.
    [InlineData(1000_00, 30, 0, false, 100, 0, 0)]
    [InlineData(1000_00, 30, 0, false, 100, 7, 500_00)]
    [InlineData(1000_00, 30, 0, false, 100, 14, 1000_00)]
    [InlineData(1000_00, 30, 0, false, 100, 60, 1000_00)]
    public void The_worth_of_a_contact(
        long amount,
        int daysLate,
        int usual,
        bool broke,
        int risk,
        int? since,
        long worth
    ) => Worth([(amount, daysLate)], usual, broke, risk, since).ShouldBe(worth);

    [Fact]
    public void Each_amount_weighs_by_its_own_days() =>
        Worth([(100_00, 60), (5000_00, 0), (100_00, 3)]).ShouldBe(200_00 + 10_00);

    [Fact]
    public void It_is_rounded_once_at_the_end() =>
        Worth([(1, 10), (1, 10), (1, 10)]).ShouldBe(1, "a third three times is one");

    [Fact]
    public void Very_large_amounts_do_not_overflow() =>
        Worth([.. Enumerable.Repeat((long.MaxValue / 4, 90), 20)]).ShouldBe(long.MaxValue);
}
