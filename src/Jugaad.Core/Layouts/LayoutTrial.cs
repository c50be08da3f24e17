using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>What was found when a layout was filled with a paper.</summary>
/// <param name="Refused">Whether it cannot be put to use like that; else it is only worth knowing.</param>
/// <param name="Piece">The id of the piece; empty where it is about none.</param>
/// <param name="Number">Of the paper that showed it.</param>
public sealed record LayoutFinding(bool Refused, string Piece, string Words, string Number = "")
{
    /// <summary>The kind of paper that lacks something that it must say; empty for what is wrong on any.</summary>
    public string Lacking { get; init; } = "";
}

/// <summary>Looks at a paper in a layout as its reader would: is all there, and can it be read?</summary>
public static class LayoutTrial
{
    /// <summary>Texts may touch by this much: letters seldom fill their line.</summary>
    private const double Touch = 0.4;

    public static IReadOnlyList<LayoutFinding> Of(
        Layout layout,
        PaperContent content,
        DisplayList paper,
        ITextMeasure measure
    ) =>
        [
            .. Lacking(content, paper),
            .. Outside(paper, measure),
            .. Over(layout, paper, measure),
            .. paper.Tight.Select(id => new LayoutFinding(
                false,
                id,
                "a text has so little room that it is set very small. Give it more.",
                content.Number
            )),
        ];

    /// <summary>What a paper of the kind must say by law or by sense.</summary>
    private static IEnumerable<LayoutFinding> Lacking(PaperContent content, DisplayList paper)
    {
        if (!Enum.TryParse<DocumentKind>(content.Kind, out var kind))
            yield break;
        var policy = KindPolicy.Of(kind);
        bool Says(params string[] names) => names.Any(paper.Said.Contains);
        LayoutFinding Lacks(string what, bool refused = true) =>
            new(refused, "", $"{what} {(refused ? "is missing" : "is not on it")}.", content.Number)
            {
                Lacking = refused ? content.Kind : "",
            };
        if (!Says("Business"))
            yield return Lacks("The name of the business");
        if (!Says("Customer"))
            yield return Lacks("The name of the customer");
        if (!Says("Number"))
            yield return Lacks("The number");
        if (!Says("Date"))
            yield return Lacks("The date");
        if (policy.HasDueDay && content.Values.GetValueOrDefault("Paid", "").Length == 0 && !Says("Until"))
            yield return Lacks("The due day");
        if (content.Lines.Count > 0 && !Says("Lines"))
            yield return Lacks("The table of what is sold");
        if (content.ShowsPrices && !Says("Totals", "Total", "TotalNumber"))
            yield return Lacks("What it comes to");
        if (policy.Posts && content.Taxes.Count > 0 && !Says("Taxes"))
            yield return Lacks("The tax by rate");
        if (policy.Posts && content.Sender.TaxNumber.Length > 0 && !Says("BusinessNumbers", "TaxNumber"))
            yield return Lacks("The tax number of the business");
        if (content.Values.GetValueOrDefault("Corrects", "").Length > 0 && !Says("Corrects"))
            yield return Lacks("The number of the paper that it corrects");
        if (content.Closing.Count > 0 && !Says("Closing", "Remarks"))
            yield return Lacks("What is said at the end, such as how to pay and why no tax is charged", policy.Posts);
        if (content.Addressee.AddressLines.Length > 0 && !Says("CustomerAddress"))
            yield return Lacks("The customer's address", false);
        if (content.Note.Length > 0 && !Says("Note"))
            yield return Lacks("The note", false);
        if (content.Opening.Length > 0 && !Says("Opening"))
            yield return Lacks("The text above the lines", false);
    }

    private static IEnumerable<LayoutFinding> Outside(DisplayList paper, ITextMeasure measure)
    {
        foreach (var (page, i) in paper.Pages.Select((p, i) => (p, i)))
        {
            foreach (
                var mark in page.Marks.Where(m =>
                    BoxOf(m, measure) is { } box
                    && (
                        box.Left < -0.05
                        || box.Top < -0.05
                        || box.Right > paper.Width + 0.05
                        || box.Bottom > paper.Height + 0.05
                    )
                )
            )
                yield return new LayoutFinding(
                    true,
                    mark.Piece,
                    $"it lies outside of page {i + 1}{(mark is TextMark text ? $" with “{Short(text.Text)}”" : "")}.",
                    paper.Title
                );
        }
    }

    private static IEnumerable<LayoutFinding> Over(Layout layout, DisplayList paper, ITextMeasure measure)
    {
        var said = new HashSet<(string, string)>();
        var ground = layout.Ground?.Picture;
        foreach (var page in paper.Pages)
        {
            var boxes = page
                .Marks.Where(m => m is TextMark or CodeMark or StripesMark or PictureMark)
                .Where(m => m is not PictureMark picture || picture.Picture != ground)
                .Select(m => (Mark: m, Box: BoxOf(m, measure)!.Value))
                .OrderBy(b => b.Box.Top)
                .ToList();
            for (var i = 0; i < boxes.Count; i++)
            {
                for (var j = i + 1; j < boxes.Count && boxes[j].Box.Top < boxes[i].Box.Bottom - Touch; j++)
                {
                    var (one, other) = (boxes[i], boxes[j]);
                    if (
                        one.Box.Right - Touch > other.Box.Left
                        && other.Box.Right - Touch > one.Box.Left
                        && said.Add((one.Mark.Piece, other.Mark.Piece))
                    )
                        yield return new LayoutFinding(
                            false,
                            one.Mark.Piece,
                            one.Mark.Piece == other.Mark.Piece
                                ? $"parts of it stand over each other: “{Short(TextOf(one.Mark))}” and “{Short(TextOf(other.Mark))}”."
                                : $"it stands over “{other.Mark.Piece}”.",
                            paper.Title
                        );
                }
            }
        }
    }

    private static string TextOf(Mark mark) => mark is TextMark text ? text.Text : "";

    private static string Short(string text) => text.Length <= 30 ? text : $"{text[..29]}…";

    private static (double Left, double Top, double Right, double Bottom)? BoxOf(Mark mark, ITextMeasure measure)
    {
        switch (mark)
        {
            case TextMark text:
                var (width, high) = (measure.Width(text.Text, text.Size, text.Style), Setting.Millimetres(text.Size));
                var left = text.Anchor switch
                {
                    Anchor.End => text.X - width,
                    Anchor.Middle => text.X - (width / 2),
                    _ => text.X,
                };
                return (left, text.Y - (high * 0.75), left + width, text.Y + (high * 0.2));
            case PictureMark picture:
                return (picture.X, picture.Y, picture.X + picture.Width, picture.Y + picture.Height);
            case CodeMark code:
                return (code.X, code.Y, code.X + code.Size, code.Y + code.Size);
            case StripesMark stripes:
                return (stripes.X, stripes.Y, stripes.X + stripes.Width, stripes.Y + stripes.Height);
            case BoxMark box:
                return (box.X, box.Y, box.X + box.Width, box.Y + box.Height);
            case RuleMark rule:
                return (rule.X1, rule.Y1, rule.X2, rule.Y2);
            default:
                return null;
        }
    }
}
