using System.Globalization;
using Jugaad.Desk.Screens;
using Microsoft.AspNetCore.Html;

namespace Jugaad.Web.Shell;

/// <summary>
/// Draws how far an order is: one thin rail for what was ordered, and on it what is delivered and what is billed, each
/// as long as its share. Its title says the same in words.
/// </summary>
public static class ProgressBars
{
    private const double Length = 84;

    public static IHtmlContent Draw(Progress progress)
    {
        var bars = new List<(string Class, long Amount)> { ("whole", progress.Whole) };
        if (progress.Delivered is { } delivered)
            bars.Add(("delivered", delivered));
        bars.Add(("billed", progress.Billed));
        var marks = bars.Select(
            (b, i) =>
                $"<rect class=\"{b.Class}\" x=\"0\" y=\"{3 + (i * 5)}\" width=\"{Text(Length * Share(progress, b.Amount))}\" height=\"3\" />"
        );
        return new HtmlString(
            $"<svg class=\"progress-bars\" viewBox=\"0 0 {Length} 18\" width=\"{Length}\" height=\"18\" role=\"img\" aria-label=\"{Words(progress)}\"><title>{Words(progress)}</title>{string.Concat(marks)}</svg>"
        );
    }

    /// <summary>Such as <c>60 % delivered, 25 % billed</c>.</summary>
    public static string Words(Progress progress)
    {
        string Percent(long amount) =>
            Share(progress, amount) switch
            {
                <= 0 => "nothing",
                >= 1 => "all",
                var share => $"{Math.Clamp((int)(share * 100), 1, 99)} %",
            };
        return progress.Delivered is { } delivered
            ? $"{Percent(delivered)} delivered, {Percent(progress.Billed)} billed"
            : $"{Percent(progress.Billed)} billed";
    }

    private static double Share(Progress progress, long amount) =>
        progress.Whole == 0 ? 1 : Math.Clamp((double)amount / progress.Whole, 0, 1);

    private static string Text(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);
}
