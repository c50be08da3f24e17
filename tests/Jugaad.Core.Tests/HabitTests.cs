using CsCheck;
using Jugaad.Core.Accounts;

namespace Jugaad.Core.Tests;

/// <summary>How a customer pays, in figures.</summary>
public sealed class HabitTests
{
    private static readonly DateOnly Day = new(2025, 9, 17);

    private static PaidPart Part(int dueDaysAgo, int late, long amount) =>
        new(Day.AddDays(-dueDaysAgo), Day.AddDays(-dueDaysAgo + late), amount);

    [Fact]
    public void Days_are_weighted_by_amount_and_early_counts_below_zero()
    {
        // 300 ten days late and 100 two days early: (3000 − 200) ÷ 400 = 7.
        var habits = PaymentHabits.On(Day, [Part(40, 10, 300), Part(30, -2, 100)])!;
        (habits.DaysLate, habits.PercentOnTime, habits.Paid).ShouldBe((7m, 25, 400));
    }

    [Fact]
    public void Only_twelve_months_count_and_each_has_its_own_figure()
    {
        var habits = PaymentHabits.On(
            Day,
            [Part(20, 5, 100), Part(450, 50, 9_999), new PaidPart(Day, Day.AddDays(3), 100)]
        )!;
        (habits.Paid, habits.Months.Count, habits.Months[0].First, habits.Months[^1].First).ShouldBe(
            (100, 12, new DateOnly(2024, 10, 1), new DateOnly(2025, 9, 1))
        );
        habits.Months[^1].DaysLate.ShouldBe(5);
        habits.Months[5].DaysLate.ShouldBeNull();
    }

    [Fact]
    public void Who_paid_nothing_has_no_habits() => PaymentHabits.On(Day, [Part(400, 5, 100)]).ShouldBeNull();

    [Fact]
    public void The_months_come_to_the_whole_and_the_average_lies_between_the_extremes() =>
        (
            from parts in Gen.Select(Gen.Int[0, 300], Gen.Int[-30, 60], Gen.Long[1, 1_000_000]).List[1, 30]
            select parts
        ).Sample(parts =>
        {
            var all = parts.Select(p => Part(p.Item1, p.Item2, p.Item3)).ToList();
            if (PaymentHabits.On(Day, all) is not { } habits)
                return;
            habits.Months.Sum(m => m.Paid).ShouldBe(habits.Paid);
            habits.DaysLate.ShouldBeInRange(all.Min(p => p.DaysLate), all.Max(p => p.DaysLate));
            habits.PercentOnTime.ShouldBeInRange(0, 100);
        });
}

/// <summary>Where the blocks and bands of the settlement map lie.</summary>
public sealed class SettlementMapTests
{
    private static readonly DateOnly Day = new(2025, 9, 1);

    private static readonly Gen<(List<MapItem> Items, List<MapTie> Ties)> Maps =
        from debits in Gen.Long[1, 100_000].List[1, 8]
        from credits in Gen.Long[1, 100_000].List[1, 8]
        from pairs in Gen.Select(Gen.Int[0, 7], Gen.Int[0, 7], Gen.Int[1, 100]).List[0, 20]
        select Made(debits, credits, pairs);

    private static (List<MapItem>, List<MapTie>) Made(
        List<long> debits,
        List<long> credits,
        List<(int, int, int)> pairs
    )
    {
        var items = debits
            .Select((a, i) => new MapItem(i + 1, $"D{i}", Day.AddDays(i), a, true))
            .Concat(credits.Select((a, i) => new MapItem(100 + i, $"C{i}", Day.AddDays(i), a, false)))
            .ToList();
        var open = items.ToDictionary(i => i.Id, i => i.Amount);
        var ties = new List<MapTie>();
        foreach (var (d, c, share) in pairs)
        {
            var (debit, credit) = ((d % debits.Count) + 1, 100 + (c % credits.Count));
            var amount = Math.Min(open[debit], open[credit]) * share / 100;
            if (amount == 0)
                continue;
            ties.Add(new MapTie(debit, credit, amount, amount));
            open[debit] -= amount;
            open[credit] -= amount;
        }

        return (items, ties);
    }

    [Fact]
    public void Bands_lie_within_their_blocks_beside_each_other_and_leave_what_is_open() =>
        Maps.Sample(m =>
        {
            var map = SettlementMap.Of(m.Items, m.Ties);
            map.Bands.Count.ShouldBe(m.Ties.Count);
            foreach (var column in new[] { map.Debits, map.Credits })
            {
                foreach (var (above, below) in column.Zip(column.Skip(1)))
                    below.Top.ShouldBeGreaterThan(above.Top + above.Height - 0.001);
                foreach (var block in column)
                {
                    var bands = map
                        .Bands.Where(b => b.Tie.RaisingId == block.Item.Id || b.Tie.LoweringId == block.Item.Id)
                        .Select(b =>
                            block.Item.Raises
                                ? (Top: b.FromTop, Height: b.FromHeight)
                                : (Top: b.ToTop, Height: b.ToHeight)
                        )
                        .OrderBy(b => b.Top)
                        .ToList();
                    foreach (var (above, below) in bands.Zip(bands.Skip(1)))
                        below.Top.ShouldBe(above.Top + above.Height, 0.001);
                    if (bands.Count > 0)
                        bands[0].Top.ShouldBe(block.Top, 0.001);
                    (bands.Sum(b => b.Height) + (block.Height * block.Open / block.Item.Amount)).ShouldBe(
                        block.Height,
                        0.001
                    );
                }
            }

            map.Height.ShouldBeGreaterThanOrEqualTo(map.Debits[^1].Top + map.Debits[^1].Height - 0.001);
        });

    [Fact]
    public void Equal_amounts_are_equally_high_and_the_smallest_can_still_be_read()
    {
        var map = SettlementMap.Of(
            [
                new(1, "A", Day, 50_000, true),
                new(2, "B", Day, 50_000, true),
                new(3, "C", Day, 1, true),
                new(4, "R", Day, 100_000, false),
            ],
            [new(1, 4, 50_000, 50_000)]
        );
        map.Debits[0].Height.ShouldBe(map.Debits[1].Height, 0.001);
        map.Credits[0].Height.ShouldBe(2 * map.Debits[0].Height, 0.02);
        map.Debits[2].Height.ShouldBe(15);
        map.Bands[0].FromHeight.ShouldBe(map.Bands[0].ToHeight, 0.02);
    }

    [Fact]
    public void An_empty_account_is_an_empty_map() => SettlementMap.Of([], []).Height.ShouldBe(0);
}
