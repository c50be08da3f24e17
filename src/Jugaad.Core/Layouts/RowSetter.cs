namespace Jugaad.Core.Layouts;

/// <summary>
/// Sets one row of a table: words break into lines, figures stay in one and may use the room that the words before them
/// leave; only where there is none are they made smaller.
/// </summary>
internal sealed class RowSetter(Setting setting, Piece piece, IReadOnlyList<PlacedColumn> columns)
{
    private const double Apart = 1;

    private readonly double _size = setting.SizeOf(piece);
    private readonly double _leading = setting.LeadingOf(piece, setting.SizeOf(piece));

    /// <param name="size">Of all cells whose column does not say another; 0 for the table's.</param>
    /// <param name="colour">Of all cells whose column does not say another.</param>
    /// <returns>The marks of each line of the row, from the line's own top.</returns>
    internal IReadOnlyList<IReadOnlyList<Mark>> Lines(
        Func<PlacedColumn, string> textOf,
        double size = 0,
        bool bold = false,
        string colour = ""
    )
    {
        var lines = new List<List<Mark>>();
        // How far the words of the row reach, so that a figure after them knows its room.
        var reach = 0.0;
        foreach (var column in columns)
        {
            var text = textOf(column);
            var own =
                size > 0 ? size
                : column.Size > 0 ? column.Size
                : _size;
            var style = setting.StyleOf(piece) with { Bold = piece.Bold || bold || column.Bold };
            var ink = setting.Layout.InkOf(column.Colour.Length > 0 ? column.Colour : colour);
            if (text.Length == 0)
                continue;
            if (column.IsFigure)
            {
                var room = Math.Max(column.Right - (reach > 0 ? reach + Apart : piece.X), 4);
                var width = setting.Measure.Width(text, own, style);
                var scale = width <= room ? 1 : Math.Max(0.4, room / width);
                if (scale < 0.6)
                    setting.Tight.Add(piece.Id);
                Add(lines, 0, Text(column, text, own * scale, style, ink));
                reach = column.Right;
                continue;
            }

            var wrapped = TextFlow.Wrap(text, column.Width - (column.Width > 4 ? 0.5 : 0), own, style, setting.Measure);
            for (var i = 0; i < wrapped.Count; i++)
                if (wrapped[i].Length > 0)
                    Add(lines, i, Text(column, wrapped[i], own, style, ink));
            reach = column.X + setting.Measure.Width(wrapped[0], own, style);
        }

        return lines;
    }

    internal double Leading => _leading;

    private static void Add(List<List<Mark>> lines, int line, Mark mark)
    {
        while (lines.Count <= line)
            lines.Add([]);
        lines[line].Add(mark);
    }

    private TextMark Text(PlacedColumn column, string text, double size, TypeStyle style, Ink ink) =>
        new(column.At, Setting.Baseline(_leading, _size), text, size, style.Bold, ink, (Anchor)column.Align)
        {
            Face = style.Face,
            Italic = style.Italic,
        };
}
