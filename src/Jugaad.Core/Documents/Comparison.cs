namespace Jugaad.Core.Documents;

/// <summary>A line of two versions side by side; one of them is null where the line was added or taken out.</summary>
public sealed record ComparedLine(DocumentLine? Before, DocumentLine? After)
{
    /// <summary>What differs, in words; empty where the two are the same.</summary>
    public IReadOnlyList<string> Changed
    {
        get
        {
            if (Before is null || After is null)
                return [Before is null ? "added" : "taken out"];
            var changed = new List<string>();
            if (Before.Text != After.Text)
                changed.Add("words");
            if (Before.Quantity != After.Quantity || Before.Unit != After.Unit)
                changed.Add("quantity");
            if (Before.UnitPrice != After.UnitPrice)
                changed.Add("price");
            if (Before.Discount != After.Discount)
                changed.Add("discount");
            if (Before.Treatment != After.Treatment)
                changed.Add("tax");
            if (Before.Choice != After.Choice || Before.Role != After.Role)
                changed.Add("kind of line");
            return changed;
        }
    }
}

/// <summary>Puts the lines of two versions of a document side by side.</summary>
public static class Comparison
{
    /// <summary>
    /// Lines with the same words belong together, in their order, as many as can be; between them, lines that stand at
    /// the same place are taken for changed ones.
    /// </summary>
    public static IReadOnlyList<ComparedLine> Of(IEnumerable<DocumentLine> before, IEnumerable<DocumentLine> after)
    {
        var (a, b) = (before.OrderBy(l => l.Position).ToList(), after.OrderBy(l => l.Position).ToList());
        var longest = new int[a.Count + 1, b.Count + 1];
        for (var i = a.Count - 1; i >= 0; i--)
        {
            for (var j = b.Count - 1; j >= 0; j--)
                longest[i, j] = Same(a[i], b[j])
                    ? longest[i + 1, j + 1] + 1
                    : Math.Max(longest[i + 1, j], longest[i, j + 1]);
        }

        var rows = new List<ComparedLine>();
        var (x, y) = (0, 0);
        while (x < a.Count || y < b.Count)
        {
            var (gone, come) = (new List<DocumentLine>(), new List<DocumentLine>());
            while (x < a.Count && y < b.Count && !Same(a[x], b[y]))
            {
                if (longest[x + 1, y] >= longest[x, y + 1])
                    gone.Add(a[x++]);
                else
                    come.Add(b[y++]);
            }

            if (x == a.Count || y == b.Count)
            {
                gone.AddRange(a.Skip(x));
                come.AddRange(b.Skip(y));
                (x, y) = (a.Count, b.Count);
            }

            for (var i = 0; i < Math.Max(gone.Count, come.Count); i++)
                rows.Add(new ComparedLine(gone.ElementAtOrDefault(i), come.ElementAtOrDefault(i)));
            if (x < a.Count && y < b.Count)
                rows.Add(new ComparedLine(a[x++], b[y++]));
        }

        return rows;
    }

    private static bool Same(DocumentLine one, DocumentLine other) =>
        one.ItemId == other.ItemId && one.Text == other.Text && one.Role == other.Role;
}
