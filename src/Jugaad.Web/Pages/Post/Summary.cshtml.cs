using System.Text;
using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Formats.EInvoices;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Post;

/// <summary>One summary of small sales: what it tells, as which file, and how far it got.</summary>
[Needs(Right.See)]
[Posts(Right.Mail)]
public sealed class SummaryModel(SummaryScreens screens, SalesSummaries summaries, SummaryEInvoices einvoices)
    : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public SummaryView View { get; private set; } = null!;

    public CheckedEInvoice Made { get; private set; } = null!;

    public EInvoiceRoute Route { get; private set; } = null!;

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.FindAsync(Id) is not { } view)
            return false;
        View = view;
        Made = await einvoices.OfAsync(Id);
        Route = await summaries.RouteAsync(Id);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    /// <summary>Only what keeps every rule leaves as a file.</summary>
    public async Task<IActionResult> OnGetFileAsync()
    {
        if (!await ShowAsync() || Made.Breaches.Count > 0)
            return NotFound();
        var syntax = Request.Query["as"] == "cii" ? EInvoiceSyntax.Cii : EInvoiceSyntax.Ubl;
        return File(
            EInvoiceFiles.Write(Made.Invoice, syntax),
            "application/xml",
            $"{View.Summary.Number.Replace('/', '-')}-{syntax.ToString().ToLowerInvariant()}.xml"
        );
    }

    public async Task<IActionResult> OnPostAsync()
    {
        await summaries.SendAsync(Id, Form.Key);
        Say("The summary is in the post tray as an e-invoice.");
        return Redirect($"/post/summaries/{Id}");
    }

    [Posts(Right.Issue)]
    public async Task<IActionResult> OnPostDissolveAsync()
    {
        await summaries.DissolveAsync(Id, Form.Text("reason"), Form.Key);
        Say("Taken back. Its sales can be told in another summary.");
        return Redirect("/post/summaries");
    }
}
