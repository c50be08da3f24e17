using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>
/// Puts into the post what needs no look at it first: each the way its customer gets papers, in the words that are
/// usual.
/// </summary>
public sealed class Sending(
    BooksContext db,
    MailComposing compose,
    PostTray tray,
    EInvoiceSending network,
    EInvoices einvoices
)
{
    /// <summary>Sends a paper that is issued.</summary>
    /// <exception cref="RefusalException">When it is a draft or cancelled, or cannot be sent.</exception>
    public async Task<int> SendAsync(int documentId, Once once = default)
    {
        var state = await db
            .Documents.Where(d => d.Id == documentId)
            .Select(d => (DocumentState?)d.State)
            .SingleOrDefaultAsync(once.Stop);
        if (state == DocumentState.Draft)
            throw new RefusalException("", "This is still a draft. Check and issue it first.");
        if (state == DocumentState.Cancelled)
            throw new RefusalException("", "This is cancelled, so it is not sent.");
        return await InTheirFormAsync(documentId, once);
    }

    /// <summary>
    /// In the form that the customer gets, where the directory and the rules let it; else as a plain PDF by mail.
    /// </summary>
    private async Task<int> InTheirFormAsync(int documentId, Once once)
    {
        var mail = await compose.ForDocumentAsync(documentId, once.Stop);
        var form = await db
            .Documents.Where(d => d.Id == documentId)
            .Select(d => new { d.Customer!.Takes, d.Kind })
            .SingleAsync(once.Stop);
        switch (form.Takes)
        {
            case PaperForm.EInvoice when (await network.RouteAsync(documentId, once.Stop)).CanGo:
                return await network.SendAsync(documentId, once);
            case PaperForm.HybridPdf
                when mail.Way == PostWay.Mail
                    && KindPolicy.Of(form.Kind).Posts
                    && await einvoices.ProblemAsync(documentId, once.Stop) is null:
                return await tray.AddAsync(mail with { Hybrid = true }, once);
            case PaperForm.Print:
                return await tray.AddAsync(mail with { Way = PostWay.Print }, once);
            default:
                return await tray.AddAsync(mail, once);
        }
    }

    /// <summary>Confirms a receipt by mail, with what it was set against.</summary>
    /// <exception cref="RefusalException">When it was undone, or there is no address.</exception>
    public async Task<int> ConfirmAsync(int receiptId, Once once = default) =>
        await tray.AddAsync(await compose.ForReceiptAsync(receiptId, once.Stop), once);
}
