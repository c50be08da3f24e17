using System.Globalization;
using System.Net;
using System.Text;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Screens;
using Microsoft.AspNetCore.Html;

namespace Jugaad.Web.Shell;

/// <summary>
/// Draws the settlement map: debits left, credits right, bands between them as wide as what is allocated. What has no
/// band is open, and has a mark along its edge.
/// </summary>
public static class SettlementMapDrawing
{
    private const double Width = 860;
    private const double Block = 250;

    public static IHtmlContent Draw(MapView view, DisplayFormat format, Currency currency)
    {
        var map = view.Map;
        var svg = new StringBuilder();
        svg.Append(
            $"<svg class=\"settlement-map\" viewBox=\"0 0 {N(Width)} {N(map.Height + 2)}\" role=\"group\" aria-label=\"Settlement map: what was billed on the left, what paid or credited it on the right\">"
        );
        var names = map.Debits.Concat(map.Credits).ToDictionary(b => b.Item.Id, b => b.Item.Number);
        foreach (var band in map.Bands)
        {
            var words = Escape(
                $"{format.WithCode(band.Tie.Amount, currency)} of {names[band.Tie.LoweringId]} is set against {names[band.Tie.RaisingId]}"
            );
            var (left, right, middle) = (Block, Width - Block, Width / 2);
            svg.Append(
                $"<path class=\"band\" d=\"M{N(left)} {N(band.FromTop)}C{N(middle)} {N(band.FromTop)} {N(middle)} {N(band.ToTop)} {N(right)} {N(band.ToTop)}V{N(band.ToTop + band.ToHeight)}C{N(middle)} {N(band.ToTop + band.ToHeight)} {N(middle)} {N(band.FromTop + band.FromHeight)} {N(left)} {N(band.FromTop + band.FromHeight)}z\"><title>{words}</title></path>"
            );
        }

        foreach (var block in map.Debits)
            Item(svg, view, block, 0, format, currency);
        foreach (var block in map.Credits)
            Item(svg, view, block, Width - Block, format, currency);
        return new HtmlString(svg.Append("</svg>").ToString());
    }

    private static void Item(
        StringBuilder svg,
        MapView view,
        MapBlock block,
        double x,
        DisplayFormat format,
        Currency currency
    )
    {
        var (kind, address) = view.Items[block.Item.Id];
        var open = block.Open > 0 ? $", {format.Amount(block.Open, currency)} open" : "";
        var words = Escape(
            $"{kind.Word()} {block.Item.Number} of {format.Date(block.Item.Date)}, {format.WithCode(block.Item.Amount, currency)}{open}"
        );
        var openHigh = block.Item.Amount == 0 ? 0 : block.Height * block.Open / block.Item.Amount;
        var edge = x == 0 ? Block - 5 : x;
        svg.Append(
            $"<a href=\"{address}\"><title>{words}</title><rect class=\"block\" x=\"{N(x)}\" y=\"{N(block.Top)}\" width=\"{N(Block)}\" height=\"{N(block.Height)}\"/>"
        );
        if (openHigh > 0)
            svg.Append(
                $"<rect class=\"open-part\" x=\"{N(edge)}\" y=\"{N(block.Top + block.Height - openHigh)}\" width=\"5\" height=\"{N(openHigh)}\"/>"
            );
        var baseline = block.Top + Math.Min(block.Height / 2, 16) + 4.2;
        svg.Append(
            $"<text x=\"{N(x + 10)}\" y=\"{N(baseline)}\">{Escape(block.Item.Number)}</text><text class=\"fig\" x=\"{N(x + Block - 12)}\" y=\"{N(baseline)}\" text-anchor=\"end\">{Escape(format.Amount(block.Item.Amount, currency))}</text></a>"
        );
    }

    private static string N(double value) => value.ToString("0.##", CultureInfo.InvariantCulture);

    private static string Escape(string text) => WebUtility.HtmlEncode(text);
}
