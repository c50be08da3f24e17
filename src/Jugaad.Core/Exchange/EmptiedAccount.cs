namespace Jugaad.Core.Exchange;

/// <summary>
/// An account in another currency that comes to nothing comes to nothing at home: what is left there is an exchange gain
/// or loss of the day.
/// </summary>
public static class EmptiedAccount
{
    /// <summary>What is to be taken off at home, by day.</summary>
    /// <param name="moves">What each day moved, in the account's currency and at home, without what was taken off
    /// before; minor units, above zero for what came in. Any order.</param>
    public static IReadOnlyDictionary<DateOnly, long> Rests(IEnumerable<(DateOnly Day, long Amount, long Home)> moves)
    {
        var rests = new SortedDictionary<DateOnly, long>();
        var (amount, home) = (0L, 0L);
        foreach (var day in moves.GroupBy(m => m.Day).OrderBy(g => g.Key))
        {
            amount += day.Sum(m => m.Amount);
            home += day.Sum(m => m.Home);
            if (amount != 0 || home == 0)
                continue;
            rests[day.Key] = home;
            home = 0;
        }

        return rests;
    }
}
