using System.Globalization;
using System.Net;
using System.Text;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Lists;
using Microsoft.AspNetCore.Html;

namespace Jugaad.Web.Shell;

/// <summary>
/// The rows of a report over time, in their order: months as bars, days as a line. The table beneath has the figures;
/// each mark says its own when it is pointed at.
/// </summary>
public static class ReportDrawing
{
    private const double Width = 960;
    private const double Height = 150;
    private const double Top = 14;
    private const double Foot = 126;

    private sealed record Mark(string When, decimal Value, string Text);

    /// <returns>Null where there is nothing to draw: fewer than two rows.</returns>
    /// <param name="text">Writes a cell out.</param>
    public static IHtmlContent? Draw(Report report, Func<object?, string> text)
    {
        if (report.Drawn is not { } drawn || report.Over == DrawnOver.Rows)
            return null;
        var at = report.Columns.ToList().FindIndex(c => c.Key == drawn);
        var marks = report
            .Rows.Where(r => !r.IsSum && r.Cells[at] is Money)
            .Select(r => new Mark(text(r.Cells[0]), ((Money)r.Cells[at]!).Units, text(r.Cells[at])))
            .ToList();
        if (marks.Count < 2)
            return null;
        var (least, most) = (Math.Min(0, marks.Min(m => m.Value)), Math.Max(0, marks.Max(m => m.Value)));
        var span = most - least == 0 ? 1 : most - least;
        double Y(decimal value) => Foot - ((double)((value - least) / span) * (Foot - Top));
        var step = (Width - 20) / marks.Count;
        double X(int i) => 10 + (step * (i + 0.5));
        var head = report.Columns[at].Head;
        var best = marks.MaxBy(m => m.Value)!;
        var svg = new StringBuilder(
            $"<svg class=\"over-time\" viewBox=\"0 0 {N(Width)} {N(Height)}\" role=\"img\" aria-label=\"{Safe($"{head}, {marks[0].When} to {marks[^1].When}: the most is {best.Text} in {best.When}; the table has all figures")}\">"
        );
        if (report.Over == DrawnOver.Months)
            Bars(svg, marks, X, Y, step);
        else
            Line(svg, marks, X, Y);
        svg.Append($"<line class=\"axis\" x1=\"0\" y1=\"{N(Y(0))}\" x2=\"{N(Width)}\" y2=\"{N(Y(0))}\"/>");
        var every = Math.Max(1, (int)Math.Ceiling(marks.Count / 12.0));
        for (var i = 0; i < marks.Count; i += every)
            svg.Append(
                $"<text x=\"{N(X(i))}\" y=\"{N(Height - 6)}\" text-anchor=\"middle\">{Safe(marks[i].When)}</text>"
            );
        var top = marks.IndexOf(best);
        svg.Append(
            $"<text class=\"best\" x=\"{N(Math.Clamp(X(top), 40, Width - 40))}\" y=\"{N(Y(best.Value) - 3)}\" text-anchor=\"middle\">{Safe(best.Text)}</text>"
        );
        return new HtmlString(svg.Append("</svg>").ToString());
    }

    private static void Bars(
        StringBuilder svg,
        List<Mark> marks,
        Func<int, double> x,
        Func<decimal, double> y,
        double step
    )
    {
        var wide = Math.Min(44, step * 0.62);
        for (var i = 0; i < marks.Count; i++)
        {
            var (from, to) = (y(Math.Max(0, marks[i].Value)), y(Math.Min(0, marks[i].Value)));
            svg.Append(
                $"<rect class=\"{(marks[i].Value < 0 ? "below" : "bar")}\" x=\"{N(x(i) - (wide / 2))}\" y=\"{N(from)}\" width=\"{N(wide)}\" height=\"{N(to - from)}\"><title>{Safe($"{marks[i].When}: {marks[i].Text}")}</title></rect>"
            );
        }
    }

    private static void Line(StringBuilder svg, List<Mark> marks, Func<int, double> x, Func<decimal, double> y)
    {
        svg.Append(
            $"<polyline class=\"line\" points=\"{string.Join(' ', marks.Select((m, i) => $"{N(x(i))},{N(y(m.Value))}"))}\"/>"
        );
        for (var i = 0; i < marks.Count; i++)
            svg.Append(
                $"<circle cx=\"{N(x(i))}\" cy=\"{N(y(marks[i].Value))}\" r=\"2.6\"><title>{Safe($"{marks[i].When}: {marks[i].Text}")}</title></circle>"
            );
    }

    private static string N(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);

    private static string Safe(string text) => WebUtility.HtmlEncode(text);
}
