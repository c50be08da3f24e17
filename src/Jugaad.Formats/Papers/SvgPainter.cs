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
    public static IReadOnlyList<string> Paint(DisplayList paper, Func<PaperPicture, string?> addressOf) =>
        paper.Pages.Select((page, i) => Paint(paper, page, i, addressOf)).ToList();

    private static string Paint(DisplayList paper, PaperPage page, int index, Func<PaperPicture, string?> addressOf)
    {
        var svg = new StringBuilder();
        svg.Append($"<svg xmlns=\"http://www.w3.org/2000/svg\" class=\"paper-page\" viewBox=\"0 0 {N(paper.Width)} {N(paper.Height)}\" role=\"img\" aria-label=\"{Escape(paper.Title)}, page {index + 1}\">");
        foreach (var mark in page.Marks) Draw(svg, mark, addressOf);
        return svg.Append("</svg>").ToString();
    }

    private static void Draw(StringBuilder svg, Mark mark, Func<PaperPicture, string?> addressOf)
    {
        switch (mark)
        {
            case TextMark text:
                var anchor = text.Anchor == Anchor.End ? " text-anchor=\"end\"" : "";
                var weight = text.Bold ? " font-weight=\"700\"" : "";
                svg.Append($"<text x=\"{N(text.X)}\" y=\"{N(text.Y)}\" font-size=\"{N(text.Size * 25.4 / 72)}\" fill=\"{Inks.Hex(text.Ink)}\"{weight}{anchor}>{Escape(text.Text)}</text>");
                break;
            case RuleMark rule:
                svg.Append($"<line x1=\"{N(rule.X1)}\" y1=\"{N(rule.Y1)}\" x2=\"{N(rule.X2)}\" y2=\"{N(rule.Y2)}\" stroke=\"{Inks.Hex(rule.Ink)}\" stroke-width=\"{N(rule.Width)}\"/>");
                break;
            case BoxMark box:
                svg.Append($"<rect x=\"{N(box.X)}\" y=\"{N(box.Y)}\" width=\"{N(box.Width)}\" height=\"{N(box.Height)}\" fill=\"{Inks.Hex(box.Ink)}\"/>");
                break;
            case CodeMark code:
                var modules = CodeModules.Of(code.Text);
                svg.Append($"<path shape-rendering=\"crispEdges\" fill=\"{Inks.Hex(Ink.Dark)}\" transform=\"translate({N(code.X)} {N(code.Y)}) scale({(code.Size / modules.Side).ToString("0.######", CultureInfo.InvariantCulture)})\" d=\"");
                foreach (var (x, y, length) in modules.Runs) svg.Append(CultureInfo.InvariantCulture, $"M{x} {y}h{length}v1h-{length}z");
                svg.Append("\"/>");
                break;
            case PictureMark place when addressOf(place.Picture) is { } address:
                svg.Append($"<image x=\"{N(place.X)}\" y=\"{N(place.Y)}\" width=\"{N(place.Width)}\" height=\"{N(place.Height)}\" preserveAspectRatio=\"xMinYMin meet\" href=\"{Escape(address)}\"/>");
                break;
        }
    }

    private static string N(double value) => value.ToString("0.###", CultureInfo.InvariantCulture);

    private static string Escape(string text) => WebUtility.HtmlEncode(text);
}
