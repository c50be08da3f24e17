using Jugaad.Desk.Papers;
using Jugaad.Formats.EInvoices;

namespace Jugaad.Web.Shell;

/// <summary>An e-invoice laid out as a paper, with its file beside it: each element leads to where the paper says it.</summary>
/// <param name="Pages">As SVG.</param>
public sealed record EInvoiceBeside(IReadOnlyList<string> Pages, IReadOnlyList<EInvoiceFileLine> Lines)
{
    public static async Task<EInvoiceBeside> OfAsync(ReadEInvoice read, EInvoicePapers papers)
    {
        var pages = await papers.SvgAsync(read.Invoice);
        var all = string.Concat(pages);
        // What this paper has no place for leads nowhere.
        bool Stands(string anchor) => all.Contains($"id=\"{anchor}\"", StringComparison.Ordinal);
        return new EInvoiceBeside(
            pages,
            [
                .. EInvoicePlaces
                    .Of(read)
                    .Select(l => l.Anchor.Length > 0 && !Stands(l.Anchor) ? l with { Anchor = "" } : l),
            ]
        );
    }
}
