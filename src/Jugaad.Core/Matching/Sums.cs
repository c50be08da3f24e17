namespace Jugaad.Core.Matching;

/// <summary>Finds which of several amounts come to a sum.</summary>
public static class Sums
{
    /// <summary>More than this many amounts are not looked through in every combination.</summary>
    public const int Most = 16;

    /// <summary>
    /// The combinations of at least two that come to the sum; at most <paramref name="enough"/> of them, those of the
    /// earliest first. Of many amounts, only the <see cref="Most"/> earliest are combined.
    /// </summary>
    /// <param name="amounts">Above zero.</param>
    public static IReadOnlyList<IReadOnlyList<int>> Of(IReadOnlyList<long> amounts, long sum, int enough = 2)
    {
        var found = new List<IReadOnlyList<int>>();
        var count = Math.Min(amounts.Count, Most);
        // What all that is still to come adds up to, so that hopeless branches end early.
        var rest = new long[count + 1];
        for (var i = count - 1; i >= 0; i--)
            rest[i] = rest[i + 1] + amounts[i];
        var chosen = new List<int>();
        void Look(int from, long left)
        {
            if (found.Count >= enough)
                return;
            if (left == 0)
            {
                if (chosen.Count > 1)
                    found.Add([.. chosen]);
                return;
            }

            for (var i = from; i < count && left <= rest[i]; i++)
            {
                if (amounts[i] > left)
                    continue;
                chosen.Add(i);
                Look(i + 1, left - amounts[i]);
                chosen.RemoveAt(chosen.Count - 1);
            }
        }

        Look(0, sum);
        return found;
    }
}
