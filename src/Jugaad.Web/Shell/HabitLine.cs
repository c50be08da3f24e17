using System.Globalization;
using System.Text;
using Jugaad.Core.Accounts;
using Microsoft.AspNetCore.Html;

namespace Jugaad.Web.Shell;

/// <summary>
/// Draws twelve months of payment habits: a notch line at the due day, and for each month how late the money came, late
/// above it and early below.
/// </summary>
public static class HabitLine
{
    private const double Step = 20;
    private const double Middle = 24;
    private const double Room = 20;
    private const int MostDays = 45;

    public static IHtmlContent Draw(PaymentHabits habits)
    {
        var words = string.Join(
            "; ",
            habits.Months.Where(m => m.DaysLate is not null).Select(m => $"{Month(m)}: {Days(m.DaysLate!.Value)}")
        );
        var svg = new StringBuilder(
            $"<svg class=\"habit-line\" width=\"{12 * Step}\" height=\"48\" viewBox=\"0 0 {12 * Step} 48\" role=\"img\" aria-label=\"{words}\"><title>{words}</title><line class=\"gauge-notch\" x1=\"0\" y1=\"{Middle}\" x2=\"{12 * Step}\" y2=\"{Middle}\"/>"
        );
        double? before = null;
        for (var i = 0; i < habits.Months.Count; i++)
        {
            if (habits.Months[i].DaysLate is not { } late)
            {
                before = null;
                continue;
            }

            var (x, y) = ((i * Step) + (Step / 2), Middle - (Math.Clamp(late / (double)MostDays, -1, 1) * Room));
            if (before is { } from)
                svg.Append(
                    $"<line class=\"habit\" x1=\"{N(x - Step)}\" y1=\"{N(from)}\" x2=\"{N(x)}\" y2=\"{N(y)}\"/>"
                );
            svg.Append(
                $"<circle class=\"{(late > 0 ? "habit-late" : "habit-good")}\" cx=\"{N(x)}\" cy=\"{N(y)}\" r=\"3\"/>"
            );
            before = y;
        }

        return new HtmlString(svg.Append("</svg>").ToString());
    }

    /// <summary>Such as <c>12 days late</c>, <c>3 days early</c> or <c>on the due day</c>.</summary>
    public static string Days(decimal days) =>
        days switch
        {
            0 => "on the due day",
            > 0 => $"{Number(days)} {(days == 1 ? "day" : "days")} late",
            _ => $"{Number(-days)} {(days == -1 ? "day" : "days")} early",
        };

    private static string Number(decimal days) => days.ToString("0.#", CultureInfo.InvariantCulture);

    private static string Month(HabitMonth month) => month.First.ToString("MMM yyyy", CultureInfo.InvariantCulture);

    private static string N(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);
}
