using System.Globalization;
using System.Text;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Reference;
using Microsoft.AspNetCore.Html;

namespace Jugaad.Web.Shell;

/// <summary>
/// The late gauges of all that a customer owes, under each other on one axis of days, so that the eye sees who drifts:
/// ink for the term, a notch at the due day, madder from there to today, a slate dot where a promise is, hollow where it
/// was broken, small slate marks for the parts of a plan, dots over what is in dispute.
/// </summary>
public static class ChaseGauge
{
    private const int DaysBack = 100;
    private const int DaysAhead = 35;
    private const double PerDay = 2;
    private const int PerItem = 10;
    private const int MostItems = 6;
    private const double Width = (DaysBack + DaysAhead) * PerDay;

    public static IHtmlContent Draw(CustomerOwes owes, DateOnly today)
    {
        var items = owes.Items.Take(MostItems).ToList();
        var height = (Math.Max(1, items.Count) * PerItem) + 6;
        var svg = new StringBuilder();
        svg.Append(
            CultureInfo.InvariantCulture,
            $"<svg class=\"chase-gauge\" width=\"{Width}\" height=\"{height}\" viewBox=\"0 0 {Width} {height}\" role=\"img\" aria-label=\"{Words(owes, today)}\"><title>{Words(owes, today)}</title><line class=\"gauge-today\" x1=\"{N(X(today, today))}\" y1=\"0\" x2=\"{N(X(today, today))}\" y2=\"{height}\"/>"
        );
        for (var i = 0; i < items.Count; i++)
            One(svg, owes, items[i], today, (i * PerItem) + 8);
        svg.Append("</svg>");
        return new HtmlString(svg.ToString());
    }

    private static void One(StringBuilder svg, CustomerOwes owes, OpenOnDay item, DateOnly today, int y)
    {
        Line(svg, "gauge-term", X(item.Date, today), X(item.Due > today ? item.Due : today, today), y);
        Line(svg, "gauge-gone", X(item.Date, today), X(item.Due < today ? item.Due : today, today), y);
        if (item.Due < today)
            Line(
                svg,
                owes.Askable(item.ItemId) > 0 ? "gauge-late" : "gauge-held",
                X(item.Due, today),
                X(today, today),
                y
            );
        var due = N(X(item.Due, today));
        svg.Append($"<line class=\"gauge-notch\" x1=\"{due}\" y1=\"{y - 4}\" x2=\"{due}\" y2=\"{y + 4}\"/>");
        foreach (var portion in owes.Portions.Where(p => p.Item == item.ItemId))
        {
            if (portion is { Kind: PortionKind.Promised, Day: { } until })
                Dot(svg, "gauge-promise", X(until, today), y, 3.6);
            else if (portion is { Kind: PortionKind.Planned, Day: { } part })
                Dot(svg, "gauge-part", X(part, today), y, 2.2);
            else if (portion.Kind == PortionKind.Disputed)
                Line(svg, "gauge-dispute", X(item.Due, today), X(item.Due, today) + 14, y - 3);
        }

        if (owes.Promises.FirstOrDefault(p => p.Judged.IsBroken && IsFor(p.Promise, item)) is { } broken)
            Dot(svg, "gauge-broken", X(broken.Promise.Until, today), y, 3.2);
    }

    /// <summary>
    /// Whether a promise was about an item: it names it, or names none of its currency and was made after it.
    /// </summary>
    private static bool IsFor(CustomerPromise promise, OpenOnDay item) =>
        promise.Items.Count == 0
            ? promise.Currency.Equals(item.Currency) && item.Date <= promise.Made
            : promise.Items.Any(i => i.ItemId == item.ItemId);

    /// <summary>In words, such as <c>2 open, the oldest 12 days late; promised for 19 Sep</c>.</summary>
    private static string Words(CustomerOwes owes, DateOnly today)
    {
        if (owes.Items.Count == 0)
            return "nothing open";
        var words = $"{owes.Items.Count} open, the oldest {LateGauge.Words(owes.Items[0].Due, today)}";
        var promised = owes.Portions.Where(p => p.Kind == PortionKind.Promised).Select(p => p.Day).Min();
        return promised is { } day ? $"{words}; promised for {day:d MMM}" : words;
    }

    private static double X(DateOnly day, DateOnly today) =>
        (Math.Clamp(day.DayNumber - today.DayNumber, -DaysBack, DaysAhead - 2) + DaysBack) * PerDay;

    private static void Line(StringBuilder svg, string kind, double from, double to, int y)
    {
        if (to > from)
            svg.Append($"<line class=\"{kind}\" x1=\"{N(from)}\" y1=\"{y}\" x2=\"{N(to)}\" y2=\"{y}\"/>");
    }

    private static void Dot(StringBuilder svg, string kind, double x, int y, double r) =>
        svg.Append($"<circle class=\"{kind}\" cx=\"{N(x)}\" cy=\"{y}\" r=\"{N(r)}\"/>");

    private static string N(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);
}
