using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Outside;

namespace Jugaad.Formats.EInvoices;

/// <summary>Writes and reads e-invoices for the desks.</summary>
public sealed class EInvoicePort : IEInvoiceFiles
{
    public byte[] Write(EInvoice invoice, EInvoiceSyntax syntax) => EInvoiceFiles.Write(invoice, syntax);

    public EInvoice Read(byte[] file) => EInvoiceFiles.Read(file).Invoice;

    public IReadOnlyList<Breach> Check(byte[] file) => EInvoiceFiles.Check(EInvoiceFiles.Read(file));

    public byte[] Hybrid(byte[] pdf, EInvoice invoice) =>
        HybridPdf.Attach(pdf, EInvoiceFiles.Write(invoice, EInvoiceSyntax.Cii), invoice.Issued!.Value);
}
