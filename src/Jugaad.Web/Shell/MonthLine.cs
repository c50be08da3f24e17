using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;

namespace Jugaad.Web.Shell;

/// <summary>Figures of months as a thin line with its last value written out; a month without a figure has no point.</summary>
public static class MonthLine
{
    private const double Width = 380;
    private const double Height = 92;
    private const double Foot = 74;

    /// <param name="label">What the line is, and its unit.</param>
    public static IHtmlContent Draw(string label, IReadOnlyList<(DateOnly Month, int? Value)> months)
    {
        var known = months.Where(m => m.Value is not null).Select(m => m.Value!.Value).ToList();
        var (least, most) = (Math.Min(0, known.DefaultIfEmpty(0).Min()), Math.Max(1, known.DefaultIfEmpty(1).Max()));
        double X(int i) => 10 + (i * (Width - 60) / Math.Max(1, months.Count - 1));
        double Y(int value) => Foot - ((value - least) / (double)(most - least) * (Foot - 16));
        static string N(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);
        var svg = new StringBuilder(
            $"<svg class=\"month-line\" viewBox=\"0 0 {Width} {Height}\" role=\"img\" aria-label=\"{label}, by month; the table has the figures\"><line class=\"axis\" x1=\"0\" y1=\"{N(Y(0))}\" x2=\"{Width}\" y2=\"{N(Y(0))}\"/>"
        );
        (double X, double Y)? before = null;
        for (var i = 0; i < months.Count; i++)
        {
            if (i % 3 == 0)
                svg.Append(
                    $"<text x=\"{N(X(i))}\" y=\"{N(Height - 3)}\" text-anchor=\"{(i == 0 ? "start" : "middle")}\">{months[i].Month.ToString("MMM yy", CultureInfo.InvariantCulture)}</text>"
                );
            if (months[i].Value is not { } value)
            {
                before = null;
                continue;
            }

            var at = (X: X(i), Y: Y(value));
            if (before is { } from)
                svg.Append(
                    $"<line class=\"line\" x1=\"{N(from.X)}\" y1=\"{N(from.Y)}\" x2=\"{N(at.X)}\" y2=\"{N(at.Y)}\"/>"
                );
            svg.Append(
                $"<circle cx=\"{N(at.X)}\" cy=\"{N(at.Y)}\" r=\"2.4\"><title>{months[i].Month.ToString("MMMM yyyy", CultureInfo.InvariantCulture)}: {value}</title></circle>"
            );
            before = at;
        }

        if (months.Count > 0 && months[^1].Value is { } last)
            svg.Append($"<text class=\"last\" x=\"{N(X(months.Count - 1) + 8)}\" y=\"{N(Y(last) + 5)}\">{last}</text>");
        return new HtmlString(svg.Append("</svg>").ToString());
    }
}
