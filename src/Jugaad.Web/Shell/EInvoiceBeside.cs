using System.Text.RegularExpressions;
using Jugaad.Desk.Papers;
using Jugaad.Formats.EInvoices;

namespace Jugaad.Web.Shell;

/// <summary>An e-invoice laid out as a paper, with its file beside it: each element leads to where the paper says it.</summary>
/// <param name="Pages">As SVG.</param>
public sealed partial record EInvoiceBeside(IReadOnlyList<string> Pages, IReadOnlyList<EInvoiceFileLine> Lines)
{
    public static async Task<EInvoiceBeside> OfAsync(ReadEInvoice read, EInvoicePapers papers)
    {
        var pages = await papers.SvgAsync(read.Invoice);
        // What this paper has no place for leads nowhere.
        var there = pages
            .SelectMany(p => Anchors().Matches(p).Select(m => m.Groups[1].Value))
            .ToHashSet(StringComparer.Ordinal);
        return new EInvoiceBeside(
            pages,
            [
                .. EInvoicePlaces
                    .Of(read)
                    .Select(l => l.Anchor.Length > 0 && !there.Contains(l.Anchor) ? l with { Anchor = "" } : l),
            ]
        );
    }

    [GeneratedRegex("<g id=\"([^\"]+)\">")]
    private static partial Regex Anchors();
}
