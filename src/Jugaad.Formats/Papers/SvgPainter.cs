using System.Globalization;
using System.Net;
using System.Text;
using Jugaad.Core.Layouts;
using Jugaad.Formats.Codes;

namespace Jugaad.Formats.Papers;

/// <summary>Draws a display list as one SVG for each page, for the screen. Text stays text.</summary>
public static class SvgPainter
{
    /// <param name="addressOf">Where the page finds a picture; null where there is none.</param>
    /// <param name="pieces">Whether the marks of each piece of the layout stand in a group that says which.</param>
    /// <param name="anchors">Whether they stand in groups that can be led to, each line of the document in its
    /// own.</param>
    public static IReadOnlyList<string> Paint(
        DisplayList paper,
        Func<string, string?> addressOf,
        bool pieces = false,
        bool anchors = false
    )
    {
        var given = new HashSet<string>();
        string Opening(string piece, int? line)
        {
            if (!anchors)
                return $"<g data-piece=\"{Escape(piece)}\">";
            // What stands on several pages is led to where it is first.
            var id = PaperAnchor.Of(piece, line);
            return given.Add(id) ? $"<g id=\"{Escape(id)}\">" : "<g>";
        }

        Func<string, int?, string>? group = pieces || anchors ? Opening : null;
        return paper.Pages.Select((page, i) => Paint(paper, page, i, addressOf, group, anchors)).ToList();
    }

    /// <param name="group">How the group of a piece, or of a line in it, begins; null where there are none.</param>
    private static string Paint(
        DisplayList paper,
        PaperPage page,
        int index,
        Func<string, string?> addressOf,
        Func<string, int?, string>? group,
        bool byLine
    )
    {
        string? AddressOf(string key) =>
            paper.Pictures.TryGetValue(key, out var own)
                ? $"data:{own.Type};base64,{Convert.ToBase64String(own.Data)}"
                : addressOf(key);
        var svg = new StringBuilder();
        svg.Append(
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" class=\"paper-page\" viewBox=\"0 0 {N(paper.Width)} {N(paper.Height)}\" role=\"img\" aria-label=\"{Escape(paper.Title)}, page {index + 1}\">"
        );
        var within = (Piece: "", Line: (int?)null);
        foreach (var mark in page.Marks)
        {
            var of = (mark.Piece, byLine ? mark.OfLine : null);
            if (group is not null && of != within)
            {
                if (within.Piece.Length > 0)
                    svg.Append("</g>");
                within = of;
                if (within.Piece.Length > 0)
                    svg.Append(group(within.Piece, within.Line));
            }

            Draw(svg, mark, AddressOf);
        }

        if (within.Piece.Length > 0)
            svg.Append("</g>");
        return svg.Append("</svg>").ToString();
    }

    private static void Draw(StringBuilder svg, Mark mark, Func<string, string?> addressOf)
    {
        switch (mark)
        {
            case TextMark text:
                DrawText(svg, text);
                break;
            case RuleMark rule:
                svg.Append(
                    $"<line x1=\"{N(rule.X1)}\" y1=\"{N(rule.Y1)}\" x2=\"{N(rule.X2)}\" y2=\"{N(rule.Y2)}\" stroke=\"{rule.Ink.Hex}\" stroke-width=\"{N(rule.Width)}\"/>"
                );
                break;
            case BoxMark box:
                svg.Append(
                    $"<rect x=\"{N(box.X)}\" y=\"{N(box.Y)}\" width=\"{N(box.Width)}\" height=\"{N(box.Height)}\" {(box.Line > 0 ? $"fill=\"none\" stroke=\"{box.Ink.Hex}\" stroke-width=\"{N(box.Line)}\"" : $"fill=\"{box.Ink.Hex}\"")}/>"
                );
                break;
            case CodeMark code:
                var modules = CodeModules.Of(code.Text);
                svg.Append(
                    $"<path shape-rendering=\"crispEdges\" fill=\"{Ink.Dark.Hex}\" transform=\"translate({N(code.X)} {N(code.Y)}) scale({(code.Size / modules.Side).ToString("0.######", CultureInfo.InvariantCulture)})\" d=\""
                );
                foreach (var (x, y, length) in modules.Runs)
                    svg.Append(CultureInfo.InvariantCulture, $"M{x} {y}h{length}v1h-{length}z");
                svg.Append("\"/>");
                break;
            case StripesMark stripes:
                svg.Append($"<path shape-rendering=\"crispEdges\" fill=\"{Ink.Dark.Hex}\" d=\"");
                foreach (var (x, width) in Stripes.Of(stripes.Text, stripes.X, stripes.Width))
                    svg.Append($"M{N(x)} {N(stripes.Y)}h{N(width)}v{N(stripes.Height)}h-{N(width)}z");
                svg.Append("\"/>");
                break;
            case PictureMark place when addressOf(place.Picture) is { } address:
                svg.Append(
                    $"<image x=\"{N(place.X)}\" y=\"{N(place.Y)}\" width=\"{N(place.Width)}\" height=\"{N(place.Height)}\" preserveAspectRatio=\"xMinYMin meet\" href=\"{Escape(address)}\"/>"
                );
                break;
        }
    }

    /// <summary>
    /// Text of one run stands as it is. Where several typefaces or directions meet, or a narrow blank is set, each part
    /// is put where the PDF has it.
    /// </summary>
    private static void DrawText(StringBuilder svg, TextMark text)
    {
        var size = text.Size * 25.4 / 72;
        var shaped = Shaped.Of(text.Text, text.Style);
        var look =
            $"y=\"{N(text.Y)}\" font-size=\"{N(size)}\" fill=\"{text.Ink.Hex}\"{(text.Bold ? " font-weight=\"700\"" : "")}{(text.Italic ? " font-style=\"italic\"" : "")}";
        if (shaped.Runs is [{ Run.Rightwards: true } only] && !only.Run.Text.Contains((char)Shaped.NarrowBlank))
        {
            svg.Append(
                $"<text x=\"{N(text.X)}\" {look}{ClassOf(only.Run.Face)}{AnchorOf(text.Anchor)}>{Escape(only.Run.Text)}</text>"
            );
            return;
        }

        var left = text.X - (shaped.Width * size * Shaped.Behind(text.Anchor));
        // What runs from right to left stands in an element of its own, or the browser would order the line a second
        // time.
        var apart = shaped.Runs.Any(r => !r.Run.Rightwards);
        if (!apart)
            svg.Append($"<text {look}>");
        foreach (var run in shaped.Runs)
        {
            var face = ClassOf(run.Run.Face);
            foreach (var (part, x) in Parts(run))
                svg.Append(
                    apart
                        ? $"<text x=\"{N(left + (x * size))}\" {look}{face}>{Escape(part)}</text>"
                        : $"<tspan x=\"{N(left + (x * size))}\"{face}>{Escape(part)}</tspan>"
                );
        }

        if (!apart)
            svg.Append("</text>");
    }

    /// <summary>A run cut behind its narrow blanks; of a browser's own width for them nothing is seen then.</summary>
    private static IEnumerable<(string Text, double X)> Parts(ShapedRun run)
    {
        var text = run.Run.Text;
        if (!run.Run.Rightwards || !text.Contains((char)Shaped.NarrowBlank))
        {
            yield return (text, run.X);
            yield break;
        }

        var start = 0;
        while (start < text.Length)
        {
            var blank = text.IndexOf((char)Shaped.NarrowBlank, start);
            var end = blank < 0 ? text.Length : blank + 1;
            yield return (text[start..end], run.X + run.Glyphs.First(g => g.Cluster >= start).X);
            start = end;
        }
    }

    private static string ClassOf(PaperFace face) => face == PaperFace.First ? "" : $" class=\"face-{face.Key}\"";

    private static string AnchorOf(Anchor anchor) =>
        anchor switch
        {
            Anchor.End => " text-anchor=\"end\"",
            Anchor.Middle => " text-anchor=\"middle\"",
            _ => "",
        };

    private static string N(double value) => value.ToString("0.###", CultureInfo.InvariantCulture);

    private static string Escape(string text) => WebUtility.HtmlEncode(text);
}
