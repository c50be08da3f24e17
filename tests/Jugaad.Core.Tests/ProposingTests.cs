using CsCheck;
using Jugaad.Core.Accounts;
using Jugaad.Core.Matching;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>What a customer's money is for when only its amount is known, and how balances are aged.</summary>
public sealed class ProposingTests
{
    private static readonly DateOnly Start = new(2025, 1, 1);

    private static AccountItem Invoice(int number, long amount, int day = 0) =>
        Generators.Item(AccountItemKind.Invoice, number, Start.AddDays(day), 14, amount);

    private static Proposed Propose(long amount, params AccountItem[] owed) => Proposing.Of(amount, owed, i => i.Open);

    [Fact]
    public void The_invoice_with_exactly_the_amount_comes_before_the_oldest()
    {
        var proposed = Propose(500, Invoice(1, 900), Invoice(2, 500, 5));
        (proposed.Parts.Single().Item.Number, proposed.Left, proposed.Why).ShouldBe(
            ("Invoice-0002", 0, "exactly Invoice-0002")
        );
    }

    [Fact]
    public void Several_that_come_to_it_together_are_next()
    {
        var proposed = Propose(1_400, Invoice(1, 900), Invoice(2, 700, 5), Invoice(3, 500, 9));
        proposed.Parts.Select(p => p.Item.Number).ShouldBe(["Invoice-0001", "Invoice-0003"]);
        proposed.Why.ShouldBe("exactly Invoice-0001 and Invoice-0003");
    }

    [Fact]
    public void Else_the_oldest_are_paid_and_the_rest_is_credit()
    {
        var part = Propose(1_000, Invoice(2, 700, 5), Invoice(1, 900));
        part.Parts.Select(p => (p.Item.Number, p.Amount)).ShouldBe([("Invoice-0001", 900L), ("Invoice-0002", 100L)]);
        var over = Propose(2_000, Invoice(2, 700, 5), Invoice(1, 900));
        (over.Left, over.Why).ShouldBe((400, "all that is open, and the rest stays as credit"));
        Propose(2_000).Left.ShouldBe(2_000);
    }

    [Fact]
    public void Parts_and_rest_always_come_to_the_money_and_no_part_is_more_than_its_room() =>
        (
            from amounts in Gen.Long[1, 50_000].List[0, 12]
            from used in Gen.Long[0, 50_000].List[12, 12]
            from amount in Gen.Long[1, 200_000]
            select (amounts, used, amount)
        ).Sample(t =>
        {
            var owed = t.amounts.Select((a, i) => Invoice(i, a, i)).ToList();
            Func<AccountItem, long> room = item => Math.Max(0, item.Open - t.used[owed.IndexOf(item)]);
            var proposed = Proposing.Of(t.amount, owed, room);
            (proposed.Parts.Sum(p => p.Amount) + proposed.Left).ShouldBe(t.amount);
            foreach (var (item, part) in proposed.Parts)
                part.ShouldBeInRange(1, room(item));
            proposed.Parts.Select(p => p.Item).Distinct().Count().ShouldBe(proposed.Parts.Count);
            if (proposed.Left > 0)
                proposed
                    .Parts.Sum(p => p.Amount)
                    .ShouldBe(owed.Sum(room), "nothing is left over while something has room");
        });

    [Theory]
    [InlineData("30, 60, 90", "30,60,90")]
    [InlineData("7 14", "7,14")]
    [InlineData("15", "15")]
    public void Edges_of_ageing_are_read(string typed, string kept)
    {
        var business = new Business(
            new BusinessDetails
            {
                Name = "Loft",
                HomeCurrency = "EUR",
                Address = new Address("", "", "", "EE"),
            }
        );
        business.Age(typed, true);
        (business.AgeingEdges, business.AgesByDate, business.Edges.Count).ShouldBe(
            (kept, true, kept.Split(',').Length)
        );
    }

    [Theory]
    [InlineData("")]
    [InlineData("0, 30")]
    [InlineData("60, 30")]
    [InlineData("30, 30")]
    [InlineData("thirty")]
    [InlineData("1,2,3,4,5,6,7")]
    public void Edges_that_cannot_be_are_refused(string typed)
    {
        var business = new Business(
            new BusinessDetails
            {
                Name = "Loft",
                HomeCurrency = "EUR",
                Address = new Address("", "", "", "EE"),
            }
        );
        Should.Throw<RefusalException>(() => business.Age(typed, false)).Refusals[0].Field.ShouldBe("edges");
        business.AgeingEdges.ShouldBe("30,60,90");
    }
}
