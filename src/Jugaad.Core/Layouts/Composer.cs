using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>
/// Turns what a paper says and a layout into a display list. Lines break over pages between them, with the table's head
/// repeated and the sum carried over; the totals stay in one piece.
/// </summary>
public sealed class Composer
{
    private readonly Layout _layout;
    private readonly PaperContent _content;
    private readonly ITextMeasure _measure;
    private readonly List<List<Mark>> _pages = [];
    private double _y;

    private Composer(Layout layout, PaperContent content, ITextMeasure measure) =>
        (_layout, _content, _measure) = (layout, content, measure);

    private List<Mark> Page => _pages[^1];

    private bool HasDiscounts => _content.Lines.Any(l => l.Discount.Length > 0);

    public static DisplayList Compose(Layout layout, PaperContent content, ITextMeasure measure)
    {
        var composer = new Composer(layout, content, measure);
        composer.FirstPage();
        composer.Opening();
        if (content.Tables is { } tables)
        {
            foreach (var table in tables)
                composer.OwnTable(table);
        }
        else
        {
            composer.Table();
            composer.Totals();
        }

        composer.Closing();
        composer.Feet();
        return new DisplayList(
            $"{content.Heading} {content.Number}".Trim(),
            layout.Width,
            layout.Height,
            composer._pages.ConvertAll(p => new PaperPage(p))
        );
    }

    private void FirstPage()
    {
        _pages.Add([]);
        var sender = _content.Sender;
        if (_content.Mark.Length > 0)
            Text(_layout.Left, _layout.AddresseeTop - 6, _content.Mark, 10.5, true, Ink.Accent);
        if (_content.HasLogo)
            Page.Add(
                new PictureMark(PaperPicture.Logo, _layout.Left, _layout.Top, _layout.LogoWidth, _layout.LogoHeight)
            );
        var y = _layout.Top + 4.5;
        Text(_layout.Right, y, sender.Name, 11.5, true, Ink.Dark, Anchor.End);
        foreach (
            var line in sender
                .AddressLines.Split('\n')
                .Append(sender.Contact)
                .Append(Numbers(sender.RegistrationNumber, sender.TaxNumber))
                .Concat(sender.OtherNumbers)
                .Where(l => l.Length > 0)
        )
            Text(_layout.Right, y += 4.1, line, _layout.SmallSize, false, Ink.Quiet, Anchor.End);

        y = _layout.AddresseeTop;
        var addressee = _content.Addressee;
        foreach (var line in TextFlow.Wrap(addressee.Name, 80, 10.5, true, _measure))
            Text(_layout.Left, y += 4.8, line, 10.5, true);
        foreach (var line in addressee.AddressLines.Split('\n').Where(l => l.Length > 0))
            Text(_layout.Left, y += 4.8, line, 10.5);
        if (addressee.TaxNumber.Length > 0 && _content.ShowsTax)
            Text(
                _layout.Left,
                y += 5.4,
                _content.Words.Fill(PaperWord.TaxNumber, addressee.TaxNumber),
                _layout.SmallSize,
                false,
                Ink.Quiet
            );

        _y = Math.Max(_layout.HeadingTop, y + 12);
        if (_content.IsLetter)
        {
            Subject();
            return;
        }

        Text(_layout.Left, _y, _content.Heading, _layout.HeadingSize, true, Ink.Accent);
        var after = _layout.Left + _measure.Width(_content.Heading, _layout.HeadingSize, true) + 3;
        Text(
            after,
            _y,
            _content.IsDraft ? _content.Words[PaperWord.Draft] : _content.Number,
            _layout.HeadingSize,
            false
        );
        _y += 3.4;
        Facts();
        _y += 7;
    }

    /// <summary>What a letter is about, in as many lines as it takes.</summary>
    private void Subject()
    {
        const double size = 13;
        foreach (var line in TextFlow.Wrap(_content.Heading, _layout.Right - _layout.Left, size, true, _measure))
        {
            Text(_layout.Left, _y, line, size, true, Ink.Accent);
            _y += 6;
        }

        _y -= 1;
        Facts();
        _y += 7;
    }

    /// <summary>A table with columns of its own; it breaks between rows, with its head repeated.</summary>
    private void OwnTable(PaperTable table)
    {
        const double row = 6.2;
        if (_y + (3 * row) > _layout.FootTop - 2)
            NextPage();
        OwnHead(table);
        for (var i = 0; i < table.Rows.Count; i++)
        {
            // What sums up does not stand alone on a page.
            var alone = i + 2 == table.Rows.Count && table.Rows[^1].Strong;
            if (_y + (alone ? 2 * row : row) > _layout.FootTop - 2)
            {
                NextPage();
                OwnHead(table);
            }

            var cells = table.Rows[i];
            for (var c = 0; c < table.Columns.Count; c++)
                Text(
                    table.Columns[c].At,
                    _y + 4,
                    Fitting(table, cells, c),
                    _layout.BodySize,
                    cells.Strong,
                    Ink.Dark,
                    table.Columns[c].Anchor
                );
            _y += row - 0.6;
            Rule(_y, cells.Strong ? 0.3 : 0.15, cells.Strong ? Ink.Dark : Ink.Rule);
            _y += 0.6;
        }

        _y += 8;
    }

    /// <summary>The part of a text that has room before the text of the next column.</summary>
    private string Fitting(PaperTable table, PaperRow row, int column)
    {
        var text = row.Cells[column];
        if (table.Columns[column].Anchor == Anchor.End || column + 1 >= table.Columns.Count || text.Length == 0)
            return text;
        var next = table.Columns[column + 1];
        var ends =
            next.Anchor == Anchor.End
                ? next.At - _measure.Width(row.Cells[column + 1], _layout.BodySize, row.Strong)
                : next.At;
        return TextFlow.Wrap(text, ends - table.Columns[column].At - 2, _layout.BodySize, row.Strong, _measure)[0];
    }

    private void OwnHead(PaperTable table)
    {
        foreach (var column in table.Columns)
            Text(column.At, _y, column.Head, _layout.SmallSize, true, Ink.Quiet, column.Anchor);
        _y += 1.8;
        Rule(_y, 0.3, Ink.Dark);
        _y += 1.2;
    }

    /// <summary>The facts stand in a row between two rules, each under its label.</summary>
    private void Facts()
    {
        Rule(_y, 0.5, Ink.Dark);
        // Up to six in a row; where there are more, as many rows of equal length as it takes.
        var rows = (_content.Facts.Count + 5) / 6;
        var perRow = rows == 1 ? Math.Max(_content.Facts.Count, 4) : (_content.Facts.Count + rows - 1) / rows;
        var width = (_layout.Right - _layout.Left) / perRow;
        foreach (var row in _content.Facts.Chunk(perRow))
        {
            for (var i = 0; i < row.Length; i++)
            {
                var x = _layout.Left + (i * width);
                Text(x, _y + 4.4, row[i].Label, _layout.SmallSize, false, Ink.Quiet);
                Text(
                    x,
                    _y + 9,
                    TextFlow.Wrap(row[i].Value, width - 2, _layout.BodySize, false, _measure)[0],
                    _layout.BodySize
                );
            }

            _y += 11.6;
            Rule(_y, 0.2, Ink.Dark);
        }
    }

    private void Opening()
    {
        if (_content.Opening.Length == 0)
            return;
        foreach (
            var line in TextFlow.Wrap(_content.Opening, _layout.Right - _layout.Left, _layout.BodySize, false, _measure)
        )
        {
            if (_y + _layout.Leading > _layout.FootTop - 20)
                NextPage();
            if (line.Length > 0)
                Text(_layout.Left, _y, line, _layout.BodySize);
            _y += _layout.Leading;
        }

        _y += 4;
    }

    private void Table()
    {
        Head();
        var running = 0L;
        foreach (var line in _content.Lines)
        {
            if (line.Role == LineRole.Subtotal && !_content.ShowsPrices)
                continue;
            if (line.Role is LineRole.Section or LineRole.Subtotal)
            {
                Break(line, running);
                continue;
            }

            var wrapped = TextFlow.Wrap(
                line.Text,
                line.Role == LineRole.Text ? _layout.Right - _layout.Left : TextWidth,
                _layout.BodySize,
                false,
                _measure
            );
            // A text that is longer than a page is set in pieces; all other lines stay whole.
            foreach (var piece in wrapped.Chunk(40).Select((texts, i) => (texts, First: i == 0)))
            {
                var height = (piece.texts.Length * _layout.Leading) + 2.2;
                if (_y + height > _layout.FootTop - 9)
                    Carry(running);
                LineRow(line, piece.texts, piece.First);
            }

            running = line.Running;
        }
    }

    private double TextWidth => (_content.ShowsPrices ? _layout.QuantityRight - 19 : _layout.Right - 30) - _layout.Left;

    private double QuantityRight => _content.ShowsPrices ? _layout.QuantityRight : _layout.Right - 8;

    private void Head()
    {
        var y = _y;
        void Column(double x, string text, Anchor anchor) =>
            Text(x, y, text, _layout.SmallSize, true, Ink.Quiet, anchor);
        Column(_layout.Left, _content.Words[PaperWord.What], Anchor.Start);
        Column(QuantityRight, _content.Words[PaperWord.Quantity], Anchor.End);
        if (_content.ShowsPrices)
        {
            Column(_layout.PriceRight, _content.Words[PaperWord.Price], Anchor.End);
            if (HasDiscounts)
                Column(_layout.DiscountRight, _content.Words[PaperWord.Discount], Anchor.End);
            if (_content.ShowsTax)
                Column(_layout.TaxRight, _content.Words[PaperWord.Tax], Anchor.End);
            Column(_layout.Right, $"{_content.Words[PaperWord.Amount]} {_content.CurrencyCode}", Anchor.End);
        }

        _y += 1.8;
        Rule(_y, 0.3, Ink.Dark);
        _y += 1.2;
    }

    private void LineRow(PaperLine line, string[] texts, bool first)
    {
        var y = _y + 3.6;
        for (var i = 0; i < texts.Length; i++)
            Text(_layout.Left, y + (i * _layout.Leading), texts[i], _layout.BodySize);
        if (first && line.Role != LineRole.Text)
        {
            Figure(QuantityRight, y, line.Quantity);
            Text(QuantityRight + 1, y, line.Unit, _layout.SmallSize, false, Ink.Quiet);
            if (_content.ShowsPrices)
            {
                Figure(_layout.PriceRight, y, line.Price);
                Figure(_layout.DiscountRight, y, line.Discount);
                if (_content.ShowsTax)
                    Figure(_layout.TaxRight, y, line.Tax);
                Figure(_layout.Right, y, line.Amount);
            }
        }

        _y += (texts.Length * _layout.Leading) + 1.4;
        Rule(_y, 0.15, Ink.Rule);
        _y += 0.8;
    }

    /// <summary>A heading, or what the lines above it come to.</summary>
    private void Break(PaperLine line, long running)
    {
        // A heading does not stand alone at the foot of a page.
        if (_y + (line.Role == LineRole.Section ? 16 : 7) > _layout.FootTop - 9)
            Carry(running);
        var y = _y + 4.4;
        if (line.Role == LineRole.Section)
            Text(
                _layout.Left,
                y,
                TextFlow.Wrap(line.Text, _layout.Right - _layout.Left, 10.5, true, _measure)[0],
                10.5,
                true
            );
        else
        {
            var label = TextFlow.Wrap(line.Text, _layout.TaxRight - _layout.Left, _layout.BodySize, true, _measure)[0];
            Text(_layout.TaxRight, y, label, _layout.BodySize, true, Ink.Quiet, Anchor.End);
            Text(_layout.Right, y, line.Amount, _layout.BodySize, true, Ink.Dark, Anchor.End);
        }

        _y += 6.2;
        Rule(_y, line.Role == LineRole.Section ? 0.15 : 0.3, line.Role == LineRole.Section ? Ink.Rule : Ink.Dark);
        _y += 0.8;
    }

    /// <summary>Closes the page with the sum so far and opens the next with it.</summary>
    private void Carry(long running)
    {
        if (_content.ShowsPrices)
            Sum(_content.Words[PaperWord.CarriedOver], running);
        NextPage();
        Head();
        if (!_content.ShowsPrices)
            return;
        Sum(_content.Words[PaperWord.BroughtForward], running);
        _y += 2;
        Rule(_y, 0.15, Ink.Rule);
        _y += 0.8;
    }

    private void Sum(string label, long amount)
    {
        _y += 4;
        Text(_layout.TaxRight, _y, label, _layout.BodySize, false, Ink.Quiet, Anchor.End);
        Figure(_layout.Right, _y, _content.Amount(amount));
    }

    private void NextPage()
    {
        _pages.Add([]);
        var y = _layout.Top + 2;
        Text(_layout.Left, y, $"{_content.Heading} {_content.Number}".Trim(), _layout.BodySize, true);
        Text(_layout.Right, y, _content.Sender.Name, _layout.BodySize, false, Ink.Quiet, Anchor.End);
        _y = y + 2;
        Rule(_y, 0.2, Ink.Dark);
        _y += 8;
    }

    private void Totals()
    {
        if (!_content.ShowsPrices)
            return;
        var taxHeight =
            _content.Taxes.Count == 0
                ? 0
                : (_content.Taxes.Sum(t => TaxLabel(t).Count) + (_content.HomeRate.Length > 0 ? 2 : 1))
                    * _layout.Leading;
        var height = Math.Max(_content.Totals.Count * 5.4, taxHeight) + 12;
        if (_y + height > _layout.FootTop - 2)
            NextPage();
        var top = _y += 5;
        TaxTable(top);
        foreach (var total in _content.Totals)
        {
            if (total.Strong)
                _y += 1.4;
            Text(
                _layout.TaxRight - 4,
                _y,
                total.Label,
                total.Strong ? 11.5 : _layout.BodySize,
                total.Strong,
                total.Strong ? Ink.Dark : Ink.Quiet,
                Anchor.End
            );
            Text(
                _layout.Right,
                _y,
                total.Amount,
                total.Strong ? 11.5 : _layout.BodySize,
                total.Strong,
                Ink.Dark,
                Anchor.End
            );
            if (total.Strong)
            {
                // The double rule of a ledger under what it comes to.
                Page.Add(new RuleMark(_layout.TaxRight, _y + 1.6, _layout.Right, _y + 1.6, 0.25, Ink.Dark));
                Page.Add(new RuleMark(_layout.TaxRight, _y + 2.3, _layout.Right, _y + 2.3, 0.25, Ink.Dark));
                _y += 2.6;
            }

            _y += 5.2;
        }

        _y = Math.Max(_y, top + taxHeight) + 3;
    }

    /// <summary>Why no tax is charged must be read in full, so that it takes the lines that it takes.</summary>
    private List<string> TaxLabel(PaperTax tax) => TextFlow.Wrap(tax.Label, 46, _layout.SmallSize, false, _measure);

    /// <summary>Tax by treatment, left of the totals.</summary>
    private void TaxTable(double top)
    {
        if (_content.Taxes.Count == 0)
            return;
        var y = top;
        Text(_layout.Left, y, _content.Words[PaperWord.TaxByRate], _layout.SmallSize, true, Ink.Quiet);
        Text(_layout.Left + 66, y, _content.Words[PaperWord.On], _layout.SmallSize, true, Ink.Quiet, Anchor.End);
        Text(_layout.Left + 86, y, _content.Words[PaperWord.Tax], _layout.SmallSize, true, Ink.Quiet, Anchor.End);
        if (_content.HomeCode.Length > 0)
            Text(
                _layout.Left + 106,
                y,
                $"{_content.Words[PaperWord.Tax]} {_content.HomeCode}",
                _layout.SmallSize,
                true,
                Ink.Quiet,
                Anchor.End
            );
        foreach (var tax in _content.Taxes)
        {
            y += _layout.Leading;
            Text(_layout.Left + 66, y, tax.Taxable, _layout.SmallSize, false, Ink.Dark, Anchor.End);
            Text(_layout.Left + 86, y, tax.Tax, _layout.SmallSize, false, Ink.Dark, Anchor.End);
            Text(_layout.Left + 106, y, tax.Home, _layout.SmallSize, false, Ink.Dark, Anchor.End);
            var label = TaxLabel(tax);
            for (var i = 0; i < label.Count; i++)
                Text(_layout.Left, y + (i * _layout.Leading), label[i], _layout.SmallSize);
            y += (label.Count - 1) * _layout.Leading;
        }

        if (_content.HomeRate.Length > 0)
            Text(_layout.Left, y + _layout.Leading, _content.HomeRate, _layout.SmallSize, false, Ink.Quiet);
    }

    private void Closing()
    {
        var code = _content.TransferCode.Length > 0 ? _layout.TransferCodeSize : 0;
        if (code > 0 && _y + 4 + code > _layout.FootTop - 2)
            NextPage();
        var width = _layout.Right - _layout.Left - (code > 0 ? code + 6 : 0);
        var lines = _content
            .Closing.SelectMany(c => TextFlow.Wrap(c, width, _layout.BodySize, false, _measure))
            .ToList();
        if (_content.Note.Length > 0)
        {
            if (lines.Count > 0)
                lines.Add("");
            lines.AddRange(TextFlow.Wrap(_content.Note, width, _layout.BodySize, false, _measure));
        }

        _y += 4;
        var codeFoot = TransferCode(code);
        foreach (var line in lines)
        {
            if (_y + _layout.Leading > _layout.FootTop - 2)
                NextPage();
            if (line.Length > 0)
                Text(_layout.Left, _y, line, _layout.BodySize);
            _y += _layout.Leading;
        }

        if (_pages.Count == codeFoot.Page)
            _y = Math.Max(_y, codeFoot.Y);
        if (!_content.HasSignature)
            return;
        if (_y + _layout.SignatureHeight > _layout.FootTop - 2)
            NextPage();
        Page.Add(
            new PictureMark(PaperPicture.Signature, _layout.Left, _y, _layout.SignatureWidth, _layout.SignatureHeight)
        );
        _y += _layout.SignatureHeight;
    }

    /// <summary>The square code stands right of the closing words.</summary>
    /// <returns>The page that it is on, and where it ends there.</returns>
    private (int Page, double Y) TransferCode(double size)
    {
        if (size <= 0)
            return (0, 0);
        var top = _y - 4;
        Page.Add(new CodeMark(_layout.Right - size, top, size, _content.TransferCode));
        Text(
            _layout.Right
                - (size / 2)
                - (_measure.Width(_content.Words[PaperWord.ScanToPay], _layout.SmallSize, false) / 2),
            top + size + 2.6,
            _content.Words[PaperWord.ScanToPay],
            _layout.SmallSize,
            false,
            Ink.Quiet
        );
        return (_pages.Count, top + size + 5);
    }

    private void Feet()
    {
        var sender = _content.Sender;
        var banks = sender
            .MoreBanks.Prepend(new SenderBank(sender.BankName, sender.Iban, sender.Bic))
            .Select(Bank)
            .Where(b => b.Length > 0)
            .Take(3)
            .ToList();
        for (var i = 0; i < _pages.Count; i++)
        {
            var page = _pages[i];
            page.Add(new RuleMark(_layout.Left, _layout.FootTop, _layout.Right, _layout.FootTop, 0.2, Ink.Dark));
            for (var n = 0; n < banks.Count; n++)
                page.Add(new TextMark(_layout.Left, _layout.FootTop + 4.6 + (n * 3.8), banks[n], _layout.SmallSize));
            page.Add(
                new TextMark(
                    _layout.Right,
                    _layout.FootTop + 4.6,
                    _content.Words.Fill(PaperWord.PageOf, i + 1, _pages.Count),
                    _layout.SmallSize,
                    false,
                    Ink.Quiet,
                    Anchor.End
                )
            );
            var y = _layout.FootTop + 5 + (Math.Max(1, banks.Count) * 3.8);
            foreach (
                var line in TextFlow
                    .Wrap(sender.Footer, _layout.Right - _layout.Left, _layout.SmallSize, false, _measure)
                    .Take(2)
            )
            {
                page.Add(new TextMark(_layout.Left, y, line, _layout.SmallSize, false, Ink.Quiet));
                y += 3.8;
            }
        }
    }

    private static string Bank(SenderBank bank) =>
        string.Join(
            " · ",
            new[]
            {
                bank.Name,
                bank.Iban.Length > 0 ? $"IBAN {Trade.Iban.Grouped(bank.Iban)}" : "",
                bank.Bic.Length > 0 ? $"BIC {bank.Bic}" : "",
            }.Where(t => t.Length > 0)
        );

    private string Numbers(string registration, string tax) =>
        string.Join(
            " · ",
            new[]
            {
                registration.Length > 0 ? _content.Words.Fill(PaperWord.RegNo, registration) : "",
                tax.Length > 0 ? _content.Words.Fill(PaperWord.TaxNo, tax) : "",
            }.Where(t => t.Length > 0)
        );

    private void Figure(double right, double y, string text) =>
        Text(right, y, text, _layout.BodySize, false, Ink.Dark, Anchor.End);

    private void Text(
        double x,
        double y,
        string text,
        double size,
        bool bold = false,
        Ink ink = Ink.Dark,
        Anchor anchor = Anchor.Start
    )
    {
        if (text.Length > 0)
            Page.Add(new TextMark(x, y, text, size, bold, ink, anchor));
    }

    private void Rule(double y, double width, Ink ink) =>
        Page.Add(new RuleMark(_layout.Left, y, _layout.Right, y, width, ink));
}
