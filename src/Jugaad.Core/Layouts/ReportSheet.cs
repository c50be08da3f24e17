using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>A column of a report on paper.</summary>
/// <param name="IsFigure">Whether it stands right-aligned.</param>
public sealed record SheetColumn(string Head, bool IsFigure);

/// <summary>
/// A report on paper: its head, and a table whose columns have the room that their texts need, on a sheet that lies
/// where they need more than one that stands.
/// </summary>
public static class ReportSheet
{
    private const double Gap = 4;

    private static Layout Standing => ShippedLayouts.Report;

    private static Layout Lying => ShippedLayouts.ReportAcross;

    /// <param name="about">Of which days it tells.</param>
    /// <param name="rows">Figures are written out already.</param>
    /// <param name="facts">What stands beneath its head.</param>
    /// <param name="words">In which its pages are counted.</param>
    public static DisplayList Compose(
        string title,
        string about,
        IReadOnlyList<(string Label, string Value)> facts,
        IReadOnlyList<(IReadOnlyList<SheetColumn> Columns, IReadOnlyList<PaperRow> Rows)> tables,
        Sender sender,
        PaperWords words,
        ITextMeasure measure
    )
    {
        var layout = tables.All(t => Widths(t.Columns, t.Rows, Standing, measure).Sum() <= RoomOf(Standing))
            ? Standing
            : Lying;
        return Composer.Compose(
            layout,
            new PaperContent
            {
                Kind = PaperKinds.Report,
                Heading = title,
                Number = "",
                Sender = sender,
                Addressee = new Addressee("", "", "", "", "", ""),
                CurrencyCode = "",
                Amount = minor => $"{minor}",
                Facts = facts,
                Opening = about,
                Words = words,
                Tables = [.. tables.Select(t => Placed(t.Columns, t.Rows, layout, measure))],
                ShowsTax = false,
            },
            measure
        );
    }

    private static double[] Widths(
        IReadOnlyList<SheetColumn> columns,
        IReadOnlyList<PaperRow> rows,
        Layout layout,
        ITextMeasure measure,
        Func<string, string>? head = null
    ) =>
        [
            .. columns.Select(
                (c, i) =>
                    Gap
                    + rows.Select(r => measure.Width(r.Cells[i], layout.Size, r.Strong))
                        .Append(measure.Width(head?.Invoke(c.Head) ?? c.Head, HeadSizeOf(layout), true))
                        .Max()
            ),
        ];

    private static double RoomOf(Layout layout) => layout.Width - layout.Left - layout.Right;

    private static double HeadSizeOf(Layout layout) =>
        layout.Pieces.Select(p => p.Table).OfType<PieceTable>().First(t => t.Of == TableOf.Lines).HeadSize;

    /// <summary>
    /// Where there is not room for all, texts give way; figures never. They are broken between words as long as that is
    /// enough, so that a number stays in one piece.
    /// </summary>
    private static double[] Fitted(
        IReadOnlyList<SheetColumn> columns,
        IReadOnlyList<PaperRow> rows,
        Layout layout,
        ITextMeasure measure,
        double room
    )
    {
        var widths = Widths(columns, rows, layout, measure);
        var over = widths.Sum() - room;
        if (over <= 0)
            return widths;
        var least = Widths(columns, [.. rows.Select(LongestWords)], layout, measure, LongestWord);
        var gives = columns.Select((c, i) => c.IsFigure ? 0 : widths[i] - least[i]).ToArray();
        over -= Take(widths, gives, Math.Min(over, gives.Sum()));
        var texts = columns.Select((c, i) => c.IsFigure ? 0 : widths[i]).ToArray();
        Take(widths, texts, Math.Min(over, texts.Sum()));
        return widths;

        string LongestWord(string text) => text.Split(' ').MaxBy(word => measure.Width(word, layout.Size, false)) ?? "";
        PaperRow LongestWords(PaperRow row) => row with { Cells = [.. row.Cells.Select(LongestWord)] };
    }

    /// <summary>Takes an amount off of widths, of each by its share.</summary>
    /// <returns>What was taken.</returns>
    private static double Take(double[] widths, double[] shares, double amount)
    {
        var all = shares.Sum();
        if (all <= 0)
            return 0;
        for (var i = 0; i < widths.Length; i++)
            widths[i] -= amount * shares[i] / all;
        return amount;
    }

    private static PaperTable Placed(
        IReadOnlyList<SheetColumn> columns,
        IReadOnlyList<PaperRow> rows,
        Layout layout,
        ITextMeasure measure
    )
    {
        var room = RoomOf(layout);
        var widths = Fitted(columns, rows, layout, measure, room);
        // What is left over goes before the figures, so that they stand at the right edge.
        var spare = Math.Max(0, room - widths.Sum());
        var placed = new List<PaperColumn>();
        var left = layout.Left;
        for (var i = 0; i < columns.Count; i++)
        {
            if (spare > 0 && (columns[i].IsFigure || i + 1 == columns.Count))
            {
                left += columns[i].IsFigure ? spare : 0;
                spare = 0;
            }

            placed.Add(
                columns[i].IsFigure
                    ? new PaperColumn(
                        columns[i].Head,
                        left + widths[i] - (i + 1 == columns.Count ? 0 : Gap / 2),
                        Anchor.End
                    )
                    : new PaperColumn(columns[i].Head, left)
            );
            left += widths[i];
        }

        return new PaperTable(placed, rows) { From = layout.Left, To = layout.Width - layout.Right };
    }
}
