using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>A sheet of labels, as it is bought. Millimetres.</summary>
/// <param name="Left">Where the first column begins.</param>
/// <param name="Top">Where the first row begins.</param>
/// <param name="Across">From the left of one label to the left of the next.</param>
/// <param name="Down">From the top of one label to the top of the next.</param>
public sealed record LabelShape(
    string Key,
    string Words,
    double PageWidth,
    double PageHeight,
    int Columns,
    int Rows,
    double Left,
    double Top,
    double Across,
    double Down,
    double Width,
    double Height
)
{
    public static IReadOnlyList<LabelShape> All { get; } =
    [
        new("a4-24", "A4, 3 × 8 of 70 × 37 mm", 210, 297, 3, 8, 0, 0.5, 70, 37, 70, 37),
        new("a4-21", "A4, 3 × 7 of 63.5 × 38.1 mm", 210, 297, 3, 7, 7.25, 15.15, 66, 38.1, 63.5, 38.1),
        new("a4-14", "A4, 2 × 7 of 99.1 × 38.1 mm", 210, 297, 2, 7, 4.65, 15.15, 101.6, 38.1, 99.1, 38.1),
        new("letter-30", "Letter, 3 × 10 of 66.7 × 25.4 mm", 215.9, 279.4, 3, 10, 4.75, 12.7, 69.85, 25.4, 66.7, 25.4),
        new("a4-3", "A4, 3 of 210 × 99 mm, the size of a cheque", 210, 297, 1, 3, 0, 0, 210, 99, 210, 99),
        new(
            "letter-3",
            "Letter, 3 of 215.9 × 93.1 mm, the size of a cheque",
            215.9,
            279.4,
            1,
            3,
            0,
            0,
            215.9,
            93.1,
            215.9,
            93.1
        ),
    ];

    public int PerSheet => Columns * Rows;
}

/// <summary>Sets addresses on sheets of labels, each as large as its label has room for.</summary>
public static class LabelSheet
{
    private const double Inset = 5;
    private const double Largest = 11;
    private const double Smallest = 5;

    /// <param name="skip">How many labels of the first sheet are used up already.</param>
    /// <exception cref="RefusalException">When there is nobody, or more are used up than a sheet has.</exception>
    public static DisplayList Compose(
        IReadOnlyList<Addressee> addressees,
        LabelShape shape,
        int skip,
        ITextMeasure measure
    )
    {
        if (addressees.Count == 0)
            throw new RefusalException("", "There is nobody to print a label for.");
        if (skip < 0 || skip >= shape.PerSheet)
            throw new RefusalException(
                "skip",
                $"A sheet has {shape.PerSheet} labels, so that 0 to {shape.PerSheet - 1} of them may be used up."
            );
        var pages = new List<List<Mark>>();
        for (var i = 0; i < addressees.Count; i++)
        {
            var (sheet, place) = Math.DivRem(i + skip, shape.PerSheet);
            while (pages.Count <= sheet)
                pages.Add([]);
            var (row, column) = Math.DivRem(place, shape.Columns);
            pages[sheet]
                .AddRange(
                    Label(
                        addressees[i],
                        shape,
                        shape.Left + (column * shape.Across),
                        shape.Top + (row * shape.Down),
                        measure
                    )
                );
        }

        return new DisplayList(
            "Labels",
            shape.PageWidth,
            shape.PageHeight,
            [.. pages.Select(marks => new PaperPage(marks))]
        );
    }

    private static IEnumerable<Mark> Label(
        Addressee addressee,
        LabelShape shape,
        double left,
        double top,
        ITextMeasure measure
    )
    {
        var (width, height) = (shape.Width - (2 * Inset), shape.Height - Inset);
        for (var size = Largest; ; size -= 0.5)
        {
            var lines = TextFlow
                .Wrap(addressee.Name, width, size, true, measure)
                .Select(text => (Text: text, Bold: true))
                .Concat(
                    addressee
                        .AddressLines.Split('\n')
                        .Where(l => l.Length > 0)
                        .SelectMany(l => TextFlow.Wrap(l, width, size, false, measure))
                        .Select(text => (Text: text, Bold: false))
                )
                .ToList();
            var leading = Setting.LeadingOf(size);
            if (lines.Count * leading > height && size > Smallest)
                continue;
            var y = top + ((shape.Height - (lines.Count * leading)) / 2) + Setting.Baseline(leading, size);
            return lines.Select((line, i) => new TextMark(left + Inset, y + (i * leading), line.Text, size, line.Bold));
        }
    }
}
