using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>
/// Sets what a paper says on a strip of 80 mm, as long as it needs to be: what a till's printer takes.
/// </summary>
public static class SlipComposer
{
    private const double Width = 80;
    private const double Left = 4;
    private const double Right = Width - 4;
    private const double Size = 8.5;
    private const double Step = 4.1;

    /// <param name="paid">How it was paid, a line each; empty where it was not.</param>
    public static DisplayList Compose(PaperContent content, string paid, ITextMeasure measure)
    {
        var marks = new List<Mark>();
        var y = 4.0;
        void Text(string text, double size = Size, bool bold = false, Ink ink = Ink.Dark)
        {
            foreach (var line in TextFlow.Wrap(text, Right - Left, size, bold, measure))
                marks.Add(new TextMark(Left, y += size * 0.48, line, size, bold, ink));
        }

        void Pair(string label, string value, double size = Size, bool bold = false)
        {
            y += size * 0.48;
            var room = Right - Left - measure.Width(value, size, bold) - 2;
            marks.Add(new TextMark(Left, y, TextFlow.Wrap(label, room, size, bold, measure)[0], size, bold));
            marks.Add(new TextMark(Right, y, value, size, bold, Ink.Dark, Anchor.End));
        }

        void Rule(double width = 0.2)
        {
            marks.Add(new RuleMark(Left, y += 2, Right, y, width, Ink.Dark));
            y += 1;
        }

        Text(content.Sender.Name, 11, true);
        foreach (var line in content.Sender.AddressLines.Split('\n').Where(l => l.Length > 0))
            Text(line, 7.5, false, Ink.Quiet);
        if (content.Sender.TaxNumber.Length > 0)
            Text(content.Words.Fill(PaperWord.TaxNo, content.Sender.TaxNumber), 7.5, false, Ink.Quiet);
        y += 2;
        Text(
            $"{content.Heading} {(content.IsDraft ? content.Words[PaperWord.Draft] : content.Number)}".Trim(),
            10,
            true
        );
        Pair(content.Facts.Count > 0 ? content.Facts[0].Value : "", content.Addressee.Name, 7.5);
        Rule();
        foreach (var line in content.Lines)
        {
            if (!line.Role.HasFigures())
            {
                if (line.Role == LineRole.Subtotal)
                    Pair(line.Text, line.Amount, Size, true);
                else
                    Text(line.Text, Size, line.Role == LineRole.Section);
                continue;
            }

            Text(line.Text);
            Pair(
                $"  {line.Quantity} {line.Unit} × {line.Price}{(line.Discount.Length > 0 ? $" {content.Words[PaperWord.Less]} {line.Discount}" : "")}",
                line.Amount
            );
        }

        Rule();
        foreach (var total in content.Totals)
            Pair(total.Label, total.Amount, total.Strong ? 11 : Size, total.Strong);
        if (content.ShowsTax)
        {
            Rule(0.1);
            foreach (var tax in content.Taxes)
            {
                Pair($"{tax.Label} · {tax.Taxable}", tax.Tax, 7.5);
                if (tax.Home.Length > 0)
                    Pair($"  {content.HomeCode}, {content.HomeRate}", tax.Home, 7.5);
            }
        }

        if (paid.Length > 0)
        {
            Rule(0.1);
            foreach (var part in paid.Split(" · "))
                Text(part);
        }

        y += 1;
        foreach (
            var words in content
                .Closing.Where(c => paid.Length == 0 || c != content.Words.Fill(PaperWord.Paid, paid))
                .Append(content.Note)
                .Append(content.Sender.Footer)
                .Where(w => w.Length > 0)
        )
            Text(words, 7.5, false, Ink.Quiet);
        return new DisplayList(
            $"{content.Heading} {content.Number}".Trim(),
            Width,
            Math.Max(60, y + Step + 4),
            [new PaperPage(marks)]
        );
    }
}
