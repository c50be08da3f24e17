using CsCheck;
using Jugaad.Core.Collecting;

namespace Jugaad.Core.Tests;

/// <summary>What is owed, divided by how it stands.</summary>
public sealed class PortionsTests
{
    private static readonly DateOnly Due = new(2025, 9, 1);
    private static readonly OwedItem[] Two = [new(1, Due, 100_00), new(2, Due.AddDays(10), 50_00)];

    [Fact]
    public void What_nothing_was_said_about_is_free() =>
        Portions
            .Of(Two, [], [], [])
            .ShouldBe([new(1, PortionKind.Free, null, 100_00), new(2, PortionKind.Free, null, 50_00)]);

    [Fact]
    public void A_promise_for_all_takes_the_oldest_first_and_leaves_what_is_in_dispute() =>
        Portions
            .Of(Two, [new(1, 30_00)], [], [new([], Due.AddDays(20), 90_00)])
            .ShouldBe([
                new(1, PortionKind.Disputed, null, 30_00),
                new(1, PortionKind.Promised, Due.AddDays(20), 70_00),
                new(2, PortionKind.Promised, Due.AddDays(20), 20_00),
                new(2, PortionKind.Free, null, 30_00),
            ]);

    [Fact]
    public void A_promise_that_names_its_invoice_goes_before_one_for_all() =>
        Portions
            .Of(Two, [], [], [new([], Due.AddDays(5), 100_00), new([1], Due.AddDays(20), 80_00)])
            .ShouldBe([
                new(1, PortionKind.Promised, Due.AddDays(20), 80_00),
                new(1, PortionKind.Promised, Due.AddDays(5), 20_00),
                new(2, PortionKind.Promised, Due.AddDays(5), 50_00),
            ]);

    [Fact]
    public void The_parts_of_a_plan_lie_on_its_items_in_their_order() =>
        Portions
            .Of(
                Two,
                [],
                [new([1, 2], [new(Due.AddDays(30), 75_00, 75_00, null), new(Due.AddDays(60), 75_00, 75_00, null)])],
                []
            )
            .ShouldBe([
                new(1, PortionKind.Planned, Due.AddDays(30), 75_00),
                new(1, PortionKind.Planned, Due.AddDays(60), 25_00),
                new(2, PortionKind.Planned, Due.AddDays(60), 50_00),
            ]);

    [Fact]
    public void Portions_add_up_to_what_is_open_whatever_was_said()
    {
        var amount = Gen.Long[1, 500_00];
        var items = amount.List[0, 6];
        var ids = Gen.Int[1, 7].HashSet[0, 4];
        Gen.Select(
                items,
                Gen.Select(Gen.Int[1, 7], amount).List[0, 4],
                Gen.Select(ids, amount.List[1, 3]).List[0, 3],
                Gen.Select(ids, Gen.Int[0, 60], amount).List[0, 4]
            )
            .Sample(
                (open, disputes, plans, promises) =>
                {
                    var owed = open.Select((o, i) => new OwedItem(i + 1, Due.AddDays(i % 3), o)).ToList();
                    var portions = Portions.Of(
                        owed,
                        disputes.Select(d => new DisputedNow(d.Item1, d.Item2)),
                        plans.Select(p => new PlannedNow(
                            p.Item1,
                            [.. p.Item2.Select((a, i) => new PlanPartNow(Due.AddDays(i), a, a, null))]
                        )),
                        promises.Select(p => new PromisedNow(p.Item1, Due.AddDays(p.Item2), p.Item3))
                    );
                    portions.ShouldAllBe(p => p.Amount > 0);
                    foreach (var item in owed)
                        portions.Where(p => p.Item == item.Id).Sum(p => p.Amount).ShouldBe(item.Open);
                    portions.Select(p => p.Item).ShouldBeSubsetOf(owed.Select(o => o.Id));
                }
            );
    }
}
