namespace Jugaad.Core.Accounts;

/// <summary>Pairs several receipts and credits with several invoices.</summary>
public static class Pairing
{
    /// <summary>
    /// Takes what lowers in its order and fills what raises in its order, so that credit used in the same go goes first
    /// where it stands first. What fits nowhere is left over.
    /// </summary>
    /// <param name="lowering">What each may give, in minor units; not below zero.</param>
    /// <param name="raising">What each is to get.</param>
    public static IReadOnlyList<(int Lowering, int Raising, long Amount)> Of(
        IReadOnlyList<long> lowering,
        IReadOnlyList<long> raising
    )
    {
        var pairs = new List<(int, int, long)>();
        var left = lowering.ToArray();
        var from = 0;
        for (var to = 0; to < raising.Count; to++)
        {
            var wanted = raising[to];
            while (wanted > 0 && from < left.Length)
            {
                var part = Math.Min(wanted, left[from]);
                if (part > 0)
                    pairs.Add((from, to, part));
                wanted -= part;
                left[from] -= part;
                if (left[from] == 0)
                    from++;
            }
        }

        return pairs;
    }
}
