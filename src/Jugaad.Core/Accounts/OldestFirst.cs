namespace Jugaad.Core.Accounts;

/// <summary>Proposes what to set money against: by due day, then date, then number.</summary>
public static class OldestFirst
{
    /// <summary>The order itself.</summary>
    public static IOrderedEnumerable<AccountItem> Order(IEnumerable<AccountItem> items) =>
        items.OrderBy(i => i.Due).ThenBy(i => i.Date).ThenBy(i => i.Number, StringComparer.Ordinal);

    /// <summary>How much of <paramref name="amount"/> goes against each item; what fits nowhere is left over.</summary>
    /// <param name="amount">Minor units, of the items' currency.</param>
    /// <param name="room">How much goes against an item at most; all that is open where it is null.</param>
    public static IReadOnlyList<(AccountItem Item, long Amount)> Propose(
        long amount,
        IEnumerable<AccountItem> raising,
        Func<AccountItem, long>? room = null
    )
    {
        var proposed = new List<(AccountItem, long)>();
        foreach (var item in Order(raising.Where(i => i.Raises && i.Open > 0)))
        {
            if (amount <= 0)
                break;
            var part = Math.Min(amount, room?.Invoke(item) ?? item.Open);
            proposed.Add((item, part));
            amount -= part;
        }

        return proposed;
    }
}
