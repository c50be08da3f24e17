namespace Jugaad.Core.Accounts;

/// <summary>An item as the map takes it: what raises the balance or lowers it, with an amount in minor units.</summary>
public sealed record MapItem(int Id, string Number, DateOnly Date, long Amount, bool Raises);

/// <summary>That two items of the map are set against each other, with how much.</summary>
/// <param name="Amount">What of the raising item it closes; as wide is its band.</param>
/// <param name="Lowered">What of the lowering item it closes: at home another amount, where rates differ.</param>
public sealed record MapTie(int RaisingId, int LoweringId, long Amount, long Lowered)
{
    /// <summary>What of an item it closes; 0 for an item that it has nothing to do with.</summary>
    public long Of(int itemId) =>
        itemId == RaisingId ? Amount
        : itemId == LoweringId ? Lowered
        : 0;
}

/// <summary>An item's block in the drawing, in the drawing's units from its top.</summary>
/// <param name="Open">What of the amount has no band.</param>
public sealed record MapBlock(MapItem Item, double Top, double Height, long Open);

/// <summary>
/// A band between two blocks: where it begins at the debit and at the credit, and how wide it is at each.
/// </summary>
public sealed record MapBand(MapTie Tie, double FromTop, double FromHeight, double ToTop, double ToHeight);

/// <summary>
/// The settlement map: debits in one column and credits in another, in time order, and bands between them as wide as
/// what is allocated. All blocks have one scale, so that equal amounts are equally high; only the smallest are drawn a
/// little higher.
/// </summary>
/// <param name="Height">Of the whole drawing.</param>
public sealed record SettlementMap(
    IReadOnlyList<MapBlock> Debits,
    IReadOnlyList<MapBlock> Credits,
    IReadOnlyList<MapBand> Bands,
    double Height
)
{
    /// <summary>Lays the map out.</summary>
    /// <param name="height">What the higher column's blocks share, gaps aside.</param>
    /// <param name="least">How high the smallest block is at the least; room for its words.</param>
    public static SettlementMap Of(
        IReadOnlyList<MapItem> items,
        IReadOnlyList<MapTie> ties,
        double height = 420,
        double least = 15,
        double gap = 5
    )
    {
        var most = Math.Max(
            items.Where(i => i.Raises).Sum(i => i.Amount),
            items.Where(i => !i.Raises).Sum(i => i.Amount)
        );
        var scale = most == 0 ? 0 : height / most;
        var known = items.ToDictionary(i => i.Id);
        var drawn = ties.Where(t => known.ContainsKey(t.RaisingId) && known.ContainsKey(t.LoweringId)).ToList();
        var debits = Column(items.Where(i => i.Raises), drawn, scale, least, gap);
        var credits = Column(items.Where(i => !i.Raises), drawn, scale, least, gap);
        return new SettlementMap(debits, credits, Tied(debits, credits, drawn), Math.Max(End(debits), End(credits)));
    }

    private static double End(List<MapBlock> column) => column.Count == 0 ? 0 : column[^1].Top + column[^1].Height;

    private static List<MapBlock> Column(
        IEnumerable<MapItem> items,
        List<MapTie> ties,
        double scale,
        double least,
        double gap
    )
    {
        var column = new List<MapBlock>();
        var top = 0.0;
        foreach (var item in items.OrderBy(i => i.Date).ThenBy(i => i.Id))
        {
            var block = new MapBlock(
                item,
                top,
                Math.Max(least, item.Amount * scale),
                item.Amount - ties.Sum(t => t.Of(item.Id))
            );
            column.Add(block);
            top += block.Height + gap;
        }

        return column;
    }

    /// <summary>
    /// From each block the bands leave in the order of the blocks that they go to, so that as few as possible cross.
    /// </summary>
    private static List<MapBand> Tied(List<MapBlock> debits, List<MapBlock> credits, List<MapTie> ties)
    {
        var from = debits.ToDictionary(b => b.Item.Id);
        var to = credits.ToDictionary(b => b.Item.Id);
        var places = new Dictionary<(MapTie, bool), (double Top, double Height)>(ReferenceTies.Of);
        foreach (var debit in debits)
            Stack(debit, ties.Where(t => t.RaisingId == debit.Item.Id).OrderBy(t => to[t.LoweringId].Top), true);
        foreach (var credit in credits)
            Stack(credit, ties.Where(t => t.LoweringId == credit.Item.Id).OrderBy(t => from[t.RaisingId].Top), false);
        return ties.ConvertAll(t => new MapBand(
            t,
            places[(t, true)].Top,
            places[(t, true)].Height,
            places[(t, false)].Top,
            places[(t, false)].Height
        ));

        void Stack(MapBlock block, IEnumerable<MapTie> bands, bool isDebit)
        {
            var top = block.Top;
            foreach (var band in bands)
            {
                var high = block.Item.Amount == 0 ? 0 : block.Height * band.Amount / block.Item.Amount;
                places[(band, isDebit)] = (top, high);
                top += high;
            }
        }
    }

    /// <summary>Two ties may say the same; each is a band of its own.</summary>
    private sealed class ReferenceTies : IEqualityComparer<(MapTie Tie, bool IsDebit)>
    {
        public static ReferenceTies Of { get; } = new();

        public bool Equals((MapTie Tie, bool IsDebit) x, (MapTie Tie, bool IsDebit) y) =>
            ReferenceEquals(x.Tie, y.Tie) && x.IsDebit == y.IsDebit;

        public int GetHashCode((MapTie Tie, bool IsDebit) obj) =>
            HashCode.Combine(System.Runtime.CompilerServices.RuntimeHelpers.GetHashCode(obj.Tie), obj.IsDebit);
    }
}
