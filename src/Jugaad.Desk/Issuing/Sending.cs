using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
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
    IssuingDesk issuing,
    BookWriter writer
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

    /// <summary>Issues a draft, and sends it in the form that its customer gets, in one go.</summary>
    /// <exception cref="RefusalException">With what is missing; it stays a draft then.</exception>
    public Task<int> IssueAsync(int id, int version, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var mail = await compose.ForDocumentAsync(id, stop);
                if (!await GetsEInvoiceAsync(id, stop))
                {
                    await issuing.IssueAsync(id, version, mail, stop);
                    return id;
                }

                await issuing.IssueAsync(id, version, null, stop);
                await writer.SaveAsync(stop);
                if (await network.PutOurOwnAsync(id, stop))
                    return id;
                var number = await db.Documents.Where(d => d.Id == id).Select(d => d.Number).SingleAsync(stop);
                await tray.AddOurOwnAsync(mail.Naming(number!), stop);
                return id;
            }
        );

    private async Task<bool> GetsEInvoiceAsync(int id, CancellationToken stop)
    {
        // One that is not there is refused in words by whoever composes its mail.
        var of = await db
            .Documents.Where(d => d.Id == id)
            .Select(d => new { d.Customer!.Takes, d.Kind })
            .SingleOrDefaultAsync(stop);
        return of?.Takes == PaperForm.EInvoice && KindPolicy.Of(of.Kind).Posts;
    }

    /// <summary>
    /// As an e-invoice where the customer gets those, and the directory and the rules let it; else by mail or printed.
    /// </summary>
    private async Task<int> InTheirFormAsync(int documentId, Once once) =>
        await GetsEInvoiceAsync(documentId, once.Stop) && (await network.RouteAsync(documentId, once.Stop)).CanGo
            ? await network.SendAsync(documentId, once)
            : await tray.AddAsync(await compose.ForDocumentAsync(documentId, once.Stop), once);

    /// <summary>Confirms a receipt by mail, with what it was set against.</summary>
    /// <exception cref="RefusalException">When it was undone, or there is no address.</exception>
    public async Task<int> ConfirmAsync(int receiptId, Once once = default) =>
        await tray.AddAsync(await compose.ForReceiptAsync(receiptId, once.Stop), once);
}
