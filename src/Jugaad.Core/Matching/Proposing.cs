using Jugaad.Core.Accounts;

namespace Jugaad.Core.Matching;

/// <summary>What money of a known customer is proposed for, and by what.</summary>
/// <param name="Parts">What goes against which item, in minor units.</param>
/// <param name="Left">What fits nowhere and would stay as credit.</param>
/// <param name="IsExact">Whether it is for certain invoices because of its amount; then <paramref name="Why"/> names
/// them.</param>
/// <param name="Why">In words.</param>
public sealed record Proposed(
    IReadOnlyList<(AccountItem Item, long Amount)> Parts,
    long Left,
    bool IsExact,
    string Why
);

/// <summary>
/// Proposes what a customer's money is for when only its amount is known: the invoice that is open with exactly that
/// amount, several that come to it together, or else the oldest first.
/// </summary>
public static class Proposing
{
    /// <param name="amount">Minor units, above zero.</param>
    /// <param name="owed">What the customer owes, in the currency of the money.</param>
    /// <param name="room">What is still free of an item, where money before this one is to have some of it.</param>
    public static Proposed Of(long amount, IEnumerable<AccountItem> owed, Func<AccountItem, long> room)
    {
        var open = OldestFirst.Order(owed.Where(i => i.Raises && room(i) > 0)).ToList();
        if (open.Count == 0)
            return new Proposed([], amount, false, "nothing is open, so it stays as credit");
        if (open.Find(i => room(i) == amount) is { } one)
            return new Proposed([(one, amount)], 0, true, $"exactly {one.Number}");
        if (Sums.Of(open.ConvertAll(i => room(i)), amount, 1) is [var sum])
            return new Proposed(
                [.. sum.Select(i => (open[i], room(open[i])))],
                0,
                true,
                $"exactly {string.Join(" and ", sum.Select(i => open[i].Number))}"
            );
        var parts = OldestFirst.Propose(amount, open, room);
        var left = amount - parts.Sum(p => p.Amount);
        return new Proposed(
            parts,
            left,
            false,
            left > 0 ? "all that is open, and the rest stays as credit" : "the oldest first"
        );
    }
}
