using Jugaad.Core.EInvoicing;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;

namespace Jugaad.Desk.Papers;

/// <summary>Lays e-invoices of anybody out as papers.</summary>
public sealed class EInvoicePapers(BooksHead head, IPaperPrinter printer)
{
    /// <summary>Its pages as SVG, in the plain layout; each piece and line can be led to (<see cref="PaperAnchor"/>).</summary>
    public async Task<IReadOnlyList<string>> SvgAsync(EInvoice invoice, CancellationToken stop = default)
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var content = EInvoicePaper.Of(invoice, format, PaperWords.English);
        return printer.Svg(Composer.Compose(ShippedLayouts.Plain, content, printer.Measure), _ => null, anchors: true);
    }
}
