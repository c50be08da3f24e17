using System.Globalization;
using System.Text;
using Jugaad.Desk.Reports;
using Microsoft.AspNetCore.Html;

namespace Jugaad.Web.Shell;

/// <summary>
/// Expected money along a line of weeks: what is late stands left of today in madder, what is to come on the right in
/// ink, what is promised of it in slate, and a thin line from the least to the most that is likely.
/// </summary>
public static class ExpectedLine
{
    private const double Width = 1200;
    private const double Height = 150;
    private const double Base = 124;
    private const double Left = 110;

    /// <summary>Which week a part belongs to: its number from 0, <c>later</c> or <c>dispute</c>.</summary>
    public static string WeekOf(ExpectedThen then, ExpectedRow row) =>
        row.Part.Expected is not { } expected ? "dispute"
        : expected.Day > then.Money.Weeks[^1].To ? "later"
        : ((expected.Day.DayNumber - then.Day.DayNumber) / 7).ToString(CultureInfo.InvariantCulture);

    /// <param name="late">What is late, in home currency.</param>
    public static IHtmlContent Draw(DeskPage page, ExpectedThen then, long late)
    {
        var weeks = then.Money.Weeks;
        var most = Math.Max(1, Math.Max(late, weeks.Max(w => w.High)));
        var step = (Width - Left) / weeks.Count;
        var bar = Math.Min(34, step * 0.5);
        double Y(long amount) => Base - (amount / (double)most * (Base - 16));
        var svg = new StringBuilder();
        svg.Append(
            CultureInfo.InvariantCulture,
            $"<svg class=\"expected-line\" viewBox=\"0 0 {Width} {Height}\" role=\"img\" aria-label=\"Expected money by week; the table below has the figures\">"
        );
        if (late > 0)
        {
            svg.Append(
                $"<rect class=\"owed-late\" x=\"{N(Left - 62)}\" y=\"{N(Y(late))}\" width=\"34\" height=\"{N(Base - Y(late))}\"><title>{page.Amount(late, then.Home)} late</title></rect>"
            );
            Text(svg, Left - 45, Y(late) - 4, "middle", page.Amount(late, then.Home), "late");
        }

        Text(svg, Left - 45, Base + 16, "middle", "late", "");
        svg.Append($"<line class=\"axis\" x1=\"0\" y1=\"{N(Base)}\" x2=\"{N(Width)}\" y2=\"{N(Base)}\"/>");
        svg.Append($"<line class=\"gauge-today\" x1=\"{N(Left)}\" y1=\"4\" x2=\"{N(Left)}\" y2=\"{N(Base + 4)}\"/>");
        for (var i = 0; i < weeks.Count; i++)
        {
            var week = weeks[i];
            var x = Left + (i * step) + (step / 2);
            svg.Append(
                $"<g class=\"week\" data-week=\"{i}\"><title>{page.Day(week.From)}: {page.Amount(week.Amount, then.Home)}</title><rect class=\"hit\" x=\"{N(x - (step / 2))}\" y=\"0\" width=\"{N(step)}\" height=\"{N(Height)}\"/>"
            );
            svg.Append(
                $"<rect class=\"to-come\" x=\"{N(x - (bar / 2))}\" y=\"{N(Y(week.Amount))}\" width=\"{N(bar)}\" height=\"{N(Base - Y(week.Amount))}\"/>"
            );
            if (week.Promised > 0)
                svg.Append(
                    $"<rect class=\"promised\" x=\"{N(x - (bar / 2))}\" y=\"{N(Y(week.Promised))}\" width=\"{N(bar)}\" height=\"{N(Base - Y(week.Promised))}\"/>"
                );
            if (week.High > week.Low)
                svg.Append(
                    $"<line class=\"likely\" x1=\"{N(x)}\" y1=\"{N(Y(week.High))}\" x2=\"{N(x)}\" y2=\"{N(Y(week.Low))}\"/><line class=\"likely\" x1=\"{N(x - 5)}\" y1=\"{N(Y(week.High))}\" x2=\"{N(x + 5)}\" y2=\"{N(Y(week.High))}\"/><line class=\"likely\" x1=\"{N(x - 5)}\" y1=\"{N(Y(week.Low))}\" x2=\"{N(x + 5)}\" y2=\"{N(Y(week.Low))}\"/>"
                );
            if (weeks.Count <= 16)
                Text(svg, x, Base + 16, "middle", week.From.ToString("d MMM", CultureInfo.InvariantCulture), "");
            svg.Append("</g>");
        }

        svg.Append("</svg>");
        return new HtmlString(svg.ToString());
    }

    private static void Text(StringBuilder svg, double x, double y, string anchor, string text, string kind) =>
        svg.Append(
            $"<text class=\"{kind}\" x=\"{N(x)}\" y=\"{N(y)}\" text-anchor=\"{anchor}\">{System.Net.WebUtility.HtmlEncode(text)}</text>"
        );

    private static string N(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);
}
