using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>
/// Puts into the post what needs no look at it first: each the way its customer gets papers, in the words that are
/// usual.
/// </summary>
public sealed class Sending(BooksContext db, MailComposing compose, PostTray tray)
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
        return await tray.AddAsync(await compose.ForDocumentAsync(documentId, once.Stop), once);
    }

    /// <summary>Confirms a receipt by mail, with what it was set against.</summary>
    /// <exception cref="RefusalException">When it was undone, or there is no address.</exception>
    public async Task<int> ConfirmAsync(int receiptId, Once once = default) =>
        await tray.AddAsync(await compose.ForReceiptAsync(receiptId, once.Stop), once);
}
