namespace Jugaad.Core.Layouts;

/// <summary>Sets a table: its head, its rows, and what it carries from page to page.</summary>
internal sealed class TableSetter
{
    private readonly Setting _setting;
    private readonly Piece _piece;
    private readonly PieceTable _table;
    private readonly double _size;
    private readonly List<Atom> _atoms = [];
    private double _y;
    private int _row;

    private TableSetter(Setting setting, Piece piece, PieceTable table) =>
        (_setting, _piece, _table, _size) = (setting, piece, table, setting.SizeOf(piece));

    internal static SetPiece Set(Setting setting, Piece piece, PieceTable table)
    {
        var setter = new TableSetter(setting, piece, table);
        var content = setting.Content;
        switch (table.Of)
        {
            case TableOf.Facts:
                setter.Facts();
                break;
            case TableOf.Lines when content.Tables is { } own:
                foreach (var (each, i) in own.Select((t, i) => (t, i)))
                    setter.Own(each, i > 0);
                break;
            default:
                setter.Rows(TableRows.Of(content, table.Of));
                break;
        }

        return setter._atoms.Count == 0
            ? PieceSetter.Nothing(piece)
            : PieceSetter.Tall(piece, setter._y, setter._atoms);
    }

    private double HeadSize => _table.HeadSize > 0 ? _table.HeadSize : _size;

    private string HeadColour => _table.HeadColour.Length > 0 ? _table.HeadColour : "quiet";

    private double Right => _piece.X + _piece.Width;

    /// <summary>How many lines of text a page is sure to have room for.</summary>
    private int MostLines(double leading)
    {
        var layout = _setting.Layout;
        var room = layout.IsStrip
            ? double.MaxValue
            : layout.FootTop - layout.Of(BandKind.LaterHead).Height - layout.Top - 20;
        return (int)Math.Clamp(room / leading, 1, 10_000);
    }

    private void Add(double height, IReadOnlyList<Mark> marks, TableRun? run = null, long before = 0, double needs = 0)
    {
        _atoms.Add(
            new Atom(_y, height, marks)
            {
                Run = run,
                Before = before,
                Needs = needs,
            }
        );
        _y += height;
    }

    private RuleMark Line(double y, double width, Ink ink, double? from = null) =>
        new(from ?? _piece.X, y, Right, y, width, ink);

    private Atom? Head(IReadOnlyList<PlacedColumn> columns)
    {
        if (!_table.Heads || columns.All(c => c.Head.Length == 0))
            return null;
        var leading = Setting.LeadingOf(HeadSize);
        var piece = _piece with { Size = HeadSize, Leading = leading };
        var lines = new RowSetter(_setting, piece, [.. columns.Select(c => c with { Size = 0, Colour = "" })]).Lines(
            c => c.Head,
            HeadSize,
            true,
            HeadColour
        );
        var marks = Stacked(lines, leading);
        if (!_table.Ruled)
            return new Atom(0, lines.Count * leading, marks);
        marks.Add(Line((lines.Count * leading) + 0.9, 0.3, Ink.Dark));
        return new Atom(0, (lines.Count * leading) + 2.1, marks);
    }

    private static List<Mark> Stacked(IReadOnlyList<IReadOnlyList<Mark>> lines, double leading, int from = 0) =>
        [.. lines.SelectMany((marks, i) => marks.Select(m => m.Down((i + from) * leading)))];

    private void Rows(IReadOnlyList<TableRow> rows)
    {
        if (rows.Count == 0)
            return;
        Say();
        var columns = PlacedColumn.Of(_piece, _table, _setting.Content, rows);
        var head = Head(columns);
        var carries = _table.Of == TableOf.Lines && columns.Any(c => c.Key == "Amount") && !_setting.Layout.IsStrip;
        var run = new TableRun(
            head,
            carries ? sum => Sum(columns, PaperWord.CarriedOver, sum, false) : null,
            carries ? sum => Sum(columns, PaperWord.BroughtForward, sum, true) : null
        );
        if (head is not null)
            Add(head.Height, head.Marks, needs: head.Height + (2 * _setting.LeadingOf(_piece, _size)));
        var before = 0L;
        foreach (var (row, line) in rows.Select((r, i) => (r, i)))
        {
            var first = _atoms.Count;
            switch (row.Role)
            {
                case RowRole.Section:
                case RowRole.Words:
                    Across(row, run, before);
                    break;
                case RowRole.Subtotal:
                    Subtotal(columns, row, run, before);
                    break;
                default:
                    Row(columns, row, run, before);
                    break;
            }

            if (_table.Of == TableOf.Lines)
                for (var i = first; i < _atoms.Count; i++)
                    _atoms[i] = _atoms[i] with { Line = line };
            before = row.Running;
        }

        if (_table.Of == TableOf.Taxes && _setting.Content.HomeRate is { Length: > 0 } rate)
            Plain(rate, _size, "quiet");
    }

    private void Say()
    {
        _setting.Fields.Say($"{_table.Of}");
        if (_table.Of == TableOf.Totals)
            _setting.Fields.Say("Total", "Currency");
    }

    private void Plain(string text, double size, string colour)
    {
        var leading = _setting.LeadingOf(_piece, size);
        foreach (var line in TextFlow.Wrap(text, _piece.Width, size, _setting.StyleOf(_piece), _setting.Measure))
            Add(leading, [Text(_piece.X, leading, line, size, false, colour, Anchor.Start)]);
    }

    private TextMark Text(
        double x,
        double leading,
        string text,
        double size,
        bool bold,
        string colour,
        Anchor anchor
    ) =>
        new(
            x,
            Setting.Baseline(leading, size),
            text,
            size,
            bold || _piece.Bold,
            _setting.Layout.InkOf(colour.Length > 0 ? colour : _piece.Colour),
            anchor
        )
        {
            Face = _setting.StyleOf(_piece).Face,
            Italic = _piece.Italic,
        };

    /// <summary>A row of figures. Its text is set in pieces where it is longer than a page.</summary>
    private void Row(IReadOnlyList<PlacedColumn> columns, TableRow row, TableRun run, long before)
    {
        var sum = row.Role == RowRole.Sum;
        var look = _table.Sum;
        var size = sum && look.Size > 0 ? look.Size : 0;
        var leading = _setting.LeadingOf(_piece, _size);
        var setter = new RowSetter(_setting, _piece, columns);
        var lines =
            _table.Stacked && !sum
                ? StackedLines(row, leading)
                : setter.Lines(c => row[c.Key], size, sum && look.Bold, sum ? look.Colour : _piece.Colour);
        if (sum)
            _y += 1.4;
        var most = MostLines(leading);
        foreach (var (part, i) in lines.Chunk(most).Select((p, i) => (p, i)))
        {
            var marks = Stacked(part, leading);
            var height = (part.Length * leading) + _table.RowGap;
            if (_table.Ruled)
                marks.Add(Line((part.Length * leading) + (_table.RowGap * 0.64), 0.15, Ink.Rule));
            if (_table.Striped.Length > 0 && _row % 2 == 1)
                marks.Insert(0, new BoxMark(_piece.X, 0, _piece.Width, height, _setting.Layout.InkOf(_table.Striped)));
            if (sum && look.DoubleRule)
            {
                // The double rule of a ledger under what it comes to.
                var (under, from) = (part.Length * leading, columns[^1].X);
                marks.Add(Line(under + 0.3, 0.25, Ink.Dark, from));
                marks.Add(Line(under + 1, 0.25, Ink.Dark, from));
                height += 2.2;
            }

            // The figures stand in the first part, so that what is carried over from there on has them.
            Add(height, marks, run, i == 0 ? before : row.Running);
        }

        _row++;
    }

    /// <summary>Words above, and below them what they come from and the amount: for strips.</summary>
    private List<IReadOnlyList<Mark>> StackedLines(TableRow row, double leading)
    {
        var words = _setting.Content.Words;
        var taxes = _table.Of == TableOf.Taxes;
        var (above, label, figure) =
            taxes ? ("", $"{row["Label"]} · {row["Taxable"]}", row["Tax"])
            : _table.Of == TableOf.Totals ? ("", row["Label"], row["Amount"])
            : (
                row["Text"],
                _setting.Content.ShowsPrices
                    ? $"{row["Quantity"]} {row["Unit"]} × {row["Price"]}{(row["Discount"].Length > 0 ? $" {words[PaperWord.Less]} {row["Discount"]}" : "")}"
                    : $"{row["Quantity"]} {row["Unit"]}",
                _setting.Content.ShowsPrices ? row["Amount"] : ""
            );
        var lines = new List<IReadOnlyList<Mark>>();
        var style = _setting.StyleOf(_piece);
        if (above.Length > 0)
            lines.AddRange(
                TextFlow
                    .Wrap(above, _piece.Width, _size, style, _setting.Measure)
                    .Select(line =>
                        (IReadOnlyList<Mark>)[Text(_piece.X, leading, line, _size, false, "", Anchor.Start)]
                    )
            );
        var indent = above.Length > 0 ? 2 : 0;
        var room = _piece.Width - indent - _setting.Measure.Width(figure, _size, style) - 2;
        var labels = TextFlow.Wrap(label, Math.Max(room, 10), _size, style, _setting.Measure);
        for (var i = 0; i < labels.Count; i++)
        {
            var marks = new List<Mark> { Text(_piece.X + indent, leading, labels[i], _size, false, "", Anchor.Start) };
            if (i == labels.Count - 1 && figure.Length > 0)
                marks.Add(Text(Right, leading, figure, _size, false, "", Anchor.End));
            lines.Add(marks);
        }

        if (taxes && row["Home"].Length > 0)
            lines.Add([
                Text(_piece.X + 2, leading, _setting.Content.HomeCode, _size, false, "", Anchor.Start),
                Text(Right, leading, row["Home"], _size, false, "", Anchor.End),
            ]);
        return lines;
    }

    /// <summary>A heading, or words, over the whole width.</summary>
    private void Across(TableRow row, TableRun run, long before)
    {
        var heading = row.Role == RowRole.Section;
        var size = heading ? _size * 1.1 : _size;
        var leading = heading ? Setting.LeadingOf(size) : _setting.LeadingOf(_piece, size);
        var style = _setting.StyleOf(_piece) with { Bold = heading || _piece.Bold };
        var lines = TextFlow.Wrap(row["Text"], _piece.Width, size, style, _setting.Measure);
        foreach (var part in lines.Chunk(MostLines(leading)))
        {
            var above = heading ? 1 : 0;
            var marks = part.Select(
                    (line, i) =>
                        line.Length == 0
                            ? null
                            : Text(_piece.X, leading, line, size, heading, "", Anchor.Start).Down(above + (i * leading))
                )
                .OfType<Mark>()
                .ToList();
            if (_table.Ruled)
                marks.Add(Line(above + (part.Length * leading) + (_table.RowGap * 0.64), 0.15, Ink.Rule));
            var height = above + (part.Length * leading) + _table.RowGap;
            // A heading does not stand alone at the foot of a page.
            Add(height, marks, run, before, heading ? height + (2 * leading) : 0);
        }
    }

    private void Subtotal(IReadOnlyList<PlacedColumn> columns, TableRow row, TableRun run, long before)
    {
        var leading = _setting.LeadingOf(_piece, _size);
        if (_table.Stacked || columns.All(c => c.Key != "Amount"))
        {
            var style = _setting.StyleOf(_piece) with { Bold = true };
            var room = _piece.Width - _setting.Measure.Width(row["Amount"], _size, style) - 2;
            var labels = TextFlow.Wrap(row["Text"], room, _size, style, _setting.Measure);
            for (var i = 0; i < labels.Count; i++)
                Add(
                    leading,
                    i == labels.Count - 1
                        ?
                        [
                            Text(_piece.X, leading, labels[i], _size, true, "", Anchor.Start),
                            Text(Right, leading, row["Amount"], _size, true, "", Anchor.End),
                        ]
                        : [Text(_piece.X, leading, labels[i], _size, true, "", Anchor.Start)],
                    run,
                    before
                );
            return;
        }

        var marks = SumMarks(columns, row["Text"], row["Amount"], true, leading, out var height);
        if (_table.Ruled)
            marks.Add(Line(height + (_table.RowGap * 0.64), 0.3, Ink.Dark));
        Add(height + _table.RowGap, marks, run, before);
    }

    /// <summary>A label that ends where the amounts begin, and an amount.</summary>
    private List<Mark> SumMarks(
        IReadOnlyList<PlacedColumn> columns,
        string label,
        string amount,
        bool bold,
        double leading,
        out double height
    )
    {
        var at = columns.First(c => c.Key == "Amount");
        var style = _setting.StyleOf(_piece) with { Bold = bold };
        var lines = TextFlow.Wrap(label, Math.Max(at.X - _piece.X, 10), _size, style, _setting.Measure);
        height = lines.Count * leading;
        return
        [
            .. lines.Select((line, i) => Text(at.X, leading, line, _size, bold, "quiet", Anchor.End).Down(i * leading)),
            Text(at.At, leading, amount, _size, bold, "", (Anchor)at.Align).Down((lines.Count - 1) * leading),
        ];
    }

    /// <summary>What is carried over to the next page, or brought forward from the last.</summary>
    private Atom Sum(IReadOnlyList<PlacedColumn> columns, PaperWord word, long amount, bool ruled)
    {
        var leading = _setting.LeadingOf(_piece, _size);
        var marks = SumMarks(
            columns,
            _setting.Content.Words[word],
            _setting.Content.Amount(amount),
            false,
            leading,
            out var height
        );
        if (!ruled)
            return new Atom(0, height + 1, marks);
        if (_table.Ruled)
            marks.Add(Line(height + 1.4, 0.15, Ink.Rule));
        return new Atom(0, height + 2.2, marks);
    }

    /// <summary>A table that has its columns with it, such as what is open.</summary>
    private void Own(PaperTable table, bool apart)
    {
        if (apart)
            _y += 8;
        var columns = PlacedColumn.Of(_piece, table, _size, HeadSize, _setting.Measure, _setting.StyleOf(_piece));
        var head = Head(columns);
        var run = new TableRun(head, null, null);
        var leading = _setting.LeadingOf(_piece, _size);
        if (head is not null)
            Add(head.Height, head.Marks, needs: head.Height + (2 * leading));
        var setter = new RowSetter(_setting, _piece, columns);
        foreach (var (row, i) in table.Rows.Select((r, i) => (r, i)))
        {
            var lines = setter.Lines(c => row.Cells[int.Parse(c.Key, null)], 0, row.Strong, _piece.Colour);
            var marks = Stacked(lines, leading);
            var height = Math.Max(1, lines.Count) * leading;
            if (_table.Ruled)
                marks.Add(Line(height + 0.6, row.Strong ? 0.3 : 0.15, row.Strong ? Ink.Dark : Ink.Rule));
            // What sums up does not stand alone on a page.
            var alone = i + 2 == table.Rows.Count && table.Rows[^1].Strong;
            Add(height + 1.6, marks, run, 0, alone ? (2 * height) + 3.2 : 0);
        }

        _setting.Fields.Say("Lines");
    }

    /// <summary>Each fact beneath its label, in as many rows of equal length as it takes.</summary>
    private void Facts()
    {
        var facts = _setting.Content.Facts;
        if (facts.Count == 0)
            return;
        _setting.Fields.Say(
            "Date",
            "TaxDate",
            "Until",
            "CustomerCode",
            "PurchaseOrder",
            "Corrects",
            "Project",
            "Reference",
            "Delivered"
        );
        var most = Math.Max(1, _table.PerRow);
        var rows = (facts.Count + most - 1) / most;
        var perRow = rows == 1 ? Math.Max(facts.Count, Math.Min(4, most)) : (facts.Count + rows - 1) / rows;
        var width = _piece.Width / perRow;
        var leading = _setting.LeadingOf(_piece, _size);
        var labels = Setting.LeadingOf(HeadSize);
        foreach (var (row, r) in facts.Chunk(perRow).Select((f, r) => (f, r)))
        {
            var marks = new List<Mark>();
            if (_table.Ruled && r == 0)
                marks.Add(Line(0, 0.5, Ink.Dark));
            var (above, lines) = (1.4, 1);
            for (var i = 0; i < row.Length; i++)
            {
                var x = _piece.X + (i * width);
                var label = TextFlow.Wrap(
                    row[i].Label,
                    width - 1,
                    HeadSize,
                    _setting.StyleOf(_piece),
                    _setting.Measure
                );
                for (var l = 0; l < label.Count; l++)
                    marks.Add(
                        Text(x, labels, label[l], HeadSize, false, HeadColour, Anchor.Start).Down(above + (l * labels))
                    );
                var value = TextFlow.Wrap(row[i].Value, width - 1, _size, _setting.StyleOf(_piece), _setting.Measure);
                for (var l = 0; l < value.Count; l++)
                    marks.Add(
                        Text(x, leading, value[l], _size, false, "", Anchor.Start)
                            .Down(above + (label.Count * labels) + (l * leading))
                    );
                lines = Math.Max(lines, label.Count - 1 + value.Count);
            }

            var height = above + labels + (lines * leading) + 1.6;
            if (_table.Ruled)
                marks.Add(Line(height, 0.2, Ink.Dark));
            Add(height, marks);
        }
    }
}
