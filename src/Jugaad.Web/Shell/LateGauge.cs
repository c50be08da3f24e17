using System.Globalization;
using Jugaad.Desk.Post;
using Microsoft.AspNetCore.Html;

namespace Jugaad.Web.Shell;

/// <summary>
/// The late gauge: a thin line with a notch at the due day. Left of the notch, ink shows how much of the term has gone;
/// right of it, madder grows with the days late, up to 90.
/// </summary>
public static class LateGauge
{
    private const double Width = 96;
    private const double Notch = 40;
    private const int MostDays = 90;

    /// <summary>In words, as in <c>due in 6 days</c> or <c>12 days late</c>.</summary>
    public static string Words(DateOnly due, DateOnly today)
    {
        var late = today.DayNumber - due.DayNumber;
        return late switch
        {
            0 => "due today",
            > 0 => $"{MailComposing.Days(late)} late",
            _ => $"due in {MailComposing.Days(-late)}",
        };
    }

    public static IHtmlContent Draw(DateOnly date, DateOnly due, DateOnly today)
    {
        var late = today.DayNumber - due.DayNumber;
        var term = Math.Max(1, due.DayNumber - date.DayNumber);
        var gone = late >= 0 ? 1 : Math.Clamp((today.DayNumber - date.DayNumber) / (double)term, 0, 1);
        var past = Math.Clamp(late / (double)MostDays, 0, 1) * (Width - Notch - 2);
        static string N(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);
        var svg =
            $"<svg class=\"late-gauge\" width=\"{N(Width)}\" height=\"16\" viewBox=\"0 0 {N(Width)} 16\" role=\"img\" aria-label=\"{Words(due, today)}\"><title>{Words(due, today)}</title>"
            + $"<line class=\"gauge-term\" x1=\"0\" y1=\"8\" x2=\"{N(Width)}\" y2=\"8\"/><line class=\"gauge-gone\" x1=\"0\" y1=\"8\" x2=\"{N(gone * Notch)}\" y2=\"8\"/>";
        if (past > 0)
            svg +=
                $"<line class=\"gauge-late\" x1=\"{N(Notch)}\" y1=\"8\" x2=\"{N(Notch + Math.Max(past, 2))}\" y2=\"8\"/>";
        return new HtmlString(
            svg + $"<line class=\"gauge-notch\" x1=\"{N(Notch)}\" y1=\"2\" x2=\"{N(Notch)}\" y2=\"14\"/></svg>"
        );
    }
}
