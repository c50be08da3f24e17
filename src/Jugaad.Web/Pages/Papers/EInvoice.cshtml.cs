using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Screens;
using Jugaad.Formats.EInvoices;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Papers;

/// <summary>An issued document as an e-invoice: what it still lacks, or the file in either syntax.</summary>
[Needs(Right.See)]
public sealed class EInvoiceModel(SellScreens screens, EInvoices einvoices, PaperRoom papers, EInvoicePapers laidOut)
    : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public MarginView Margin { get; private set; } = null!;

    /// <summary>Null where the standard has no words for it.</summary>
    public CheckedEInvoice? Made { get; private set; }

    /// <summary>Why it cannot be told at all.</summary>
    public string Refused { get; private set; } = "";

    public EInvoiceSyntax Syntax { get; private set; }

    public EInvoiceBeside Beside { get; private set; } = null!;

    private byte[] _file = [];

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.MarginAsync(Id) is not { } margin)
            return false;
        Margin = margin;
        Syntax = Request.Query["as"] == "cii" ? EInvoiceSyntax.Cii : EInvoiceSyntax.Ubl;
        try
        {
            Made = await einvoices.OfAsync(Id);
            _file = EInvoiceFiles.Write(Made.Invoice, Syntax);
            Beside = await EInvoiceBeside.OfAsync(EInvoiceFiles.Read(_file), laidOut);
        }
        catch (RefusalException refused)
        {
            Refused = refused.In(Format);
        }

        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    /// <summary>Only what keeps every rule leaves as a file.</summary>
    public async Task<IActionResult> OnGetFileAsync()
    {
        if (!await ShowAsync() || Made is null || Made.Breaches.Count > 0)
            return NotFound();
        if (Request.Query["as"] == "pdf")
            return File(
                HybridPdf.Attach(
                    (await papers.PdfAsync(Id, [new PaperStyle()])).Content,
                    EInvoiceFiles.Write(Made.Invoice, EInvoiceSyntax.Cii),
                    Made.Invoice.Issued!.Value
                ),
                "application/pdf",
                $"{Made.Invoice.Number.Replace('/', '-')}.pdf"
            );
        return File(
            _file,
            "application/xml",
            $"{Made.Invoice.Number.Replace('/', '-')}-{Syntax.ToString().ToLowerInvariant()}.xml"
        );
    }
}
