namespace Jugaad.Core.Layouts;

/// <summary>A column that has its place on the page.</summary>
/// <param name="X">From the page's left.</param>
/// <param name="Size">0 for the table's.</param>
internal sealed record PlacedColumn(
    string Key,
    string Head,
    double X,
    double Width,
    Align Align,
    double Size,
    bool Bold,
    string Colour,
    bool IsFigure
)
{
    private static readonly string[] Figures =
    [
        "No",
        "Quantity",
        "Price",
        "Discount",
        "Tax",
        "Amount",
        "Taxable",
        "Home",
    ];

    internal double Right => X + Width;

    internal double At =>
        Align switch
        {
            Align.Right => Right,
            Align.Middle => X + (Width / 2),
            _ => X,
        };

    /// <summary>The columns of a table that have a place, with what the flexible one has left of the width.</summary>
    internal static IReadOnlyList<PlacedColumn> Of(
        Piece piece,
        PieceTable table,
        PaperContent content,
        IReadOnlyList<TableRow> rows
    )
    {
        bool HasValues(TableColumn column) => rows.Any(r => r[column.Key].Length > 0);
        var columns = table
            .Columns.Where(c => TableRows.HasPlace(content, table.Of, c.Key) && (!c.OnlyWithValues || HasValues(c)))
            .ToList();
        var left = Math.Max(10, piece.Width - columns.Sum(c => c.Width + c.Gap));
        var (x, placed) = (piece.X, new List<PlacedColumn>());
        foreach (var column in columns)
        {
            x += column.Gap;
            var width = column.Width > 0 ? column.Width : left;
            var head =
                column.Title == "-" || !HasValues(column) && column.Key != "Text" ? ""
                : column.Title.Length > 0 ? column.Title
                : TableRows.Head(content, table.Of, column.Key);
            placed.Add(
                new PlacedColumn(
                    column.Key,
                    head,
                    x,
                    width,
                    column.Align,
                    column.Size,
                    column.Bold,
                    column.Colour,
                    Figures.Contains(column.Key)
                )
            );
            x += width;
        }

        return placed;
    }

    /// <summary>Those of a table that has its columns with it, stretched to the piece.</summary>
    internal static IReadOnlyList<PlacedColumn> Of(
        Piece piece,
        PaperTable table,
        double size,
        double headSize,
        ITextMeasure measure,
        TypeStyle style
    )
    {
        double X(double at) => piece.X + ((at - table.From) / (table.To - table.From) * piece.Width);
        double Widest(int column) =>
            table
                .Rows.Select(r => measure.Width(r.Cells[column], size, style with { Bold = r.Strong }))
                .Append(measure.Width(table.Columns[column].Head, headSize, style with { Bold = true }))
                .Max();
        var placed = new List<PlacedColumn>();
        for (var i = 0; i < table.Columns.Count; i++)
        {
            var column = table.Columns[i];
            var at = X(column.At);
            if (column.Anchor == Anchor.End)
            {
                placed.Add(new PlacedColumn($"{i}", column.Head, at, 0, Align.Right, 0, false, "", true));
                continue;
            }

            var next = i + 1 < table.Columns.Count ? table.Columns[i + 1] : null;
            var end =
                next is null ? piece.X + piece.Width
                : next.Anchor == Anchor.End ? X(next.At) - Widest(i + 1) - 2
                : X(next.At) - 2;
            placed.Add(
                new PlacedColumn($"{i}", column.Head, at, Math.Max(12, end - at), Align.Left, 0, false, "", false)
            );
        }

        return placed;
    }
}
