using System.Buffers.Text;
using System.Security.Cryptography;
using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Machine;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>
/// The addresses at which customers see their papers: made, lasting, made anew, taken back, looked at.
/// </summary>
public sealed class CustomerLinks(BooksContext db, BookWriter writer, BooksHead head, OutsideAddress outside)
{
    /// <summary>
    /// The whole address of a document's page. It is made where there is none yet or it was taken back; one that has
    /// ended goes on.
    /// </summary>
    public async Task<string> AddressAsync(int documentId, CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var link = await db.DocumentLinks.AsNoTracking().SingleOrDefaultAsync(l => l.DocumentId == documentId, stop);
        if (link?.OpensOn(today) != true)
        {
            await writer.WriteAsync(
                Right.Draft,
                stop,
                async () =>
                {
                    var kept = await db.DocumentLinks.SingleOrDefaultAsync(l => l.DocumentId == documentId, stop);
                    if (kept is null)
                        db.DocumentLinks.Add(kept = new DocumentLink(documentId, NewToken()));
                    else if (kept.IsTakenBack)
                        kept.Renew(NewToken(), null);
                    kept.Last(await UntilAsync(today, stop));
                    await writer.SaveAsync(stop);
                    return documentId;
                }
            );
            link = await db.DocumentLinks.AsNoTracking().SingleAsync(l => l.DocumentId == documentId, stop);
        }

        return $"{await outside.NowAsync(stop)}/p/{link!.Token}";
    }

    /// <summary>Has the address open nothing any more.</summary>
    public Task<int> TakeBackAsync(int documentId, Once once = default) =>
        ChangeAsync(
            documentId,
            once,
            (link, _) =>
            {
                link.TakeBack();
                return "The customer's link was taken back";
            }
        );

    /// <summary>Puts another address in its place; the one before opens nothing any more.</summary>
    public Task<int> RenewAsync(int documentId, Once once = default) =>
        ChangeAsync(
            documentId,
            once,
            (link, until) =>
            {
                link.Renew(NewToken(), until);
                return "The customer's link was made anew";
            }
        );

    private Task<int> ChangeAsync(int documentId, Once once, Func<DocumentLink, DateOnly?, string> change) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var link =
                    await db.DocumentLinks.SingleOrDefaultAsync(l => l.DocumentId == documentId, stop)
                    ?? throw new RefusalException("", "This paper has no link yet. Make one.");
                await writer.TrailAsync(
                    $"{change(link, await UntilAsync(await head.TodayAsync(stop), stop))}",
                    null,
                    documentId
                );
                return documentId;
            }
        );

    private async Task<DateOnly?> UntilAsync(DateOnly today, CancellationToken stop) =>
        (await db.MailSettings.AsNoTracking().Select(s => (int?)s.LinkDays).FirstOrDefaultAsync(stop))
            is > 0
                and { } days
            ? today.AddDays(days)
            : null;

    private static string NewToken() => Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(24));

    /// <summary>The document behind a token, where customers may see it; null where there is none.</summary>
    public async Task<Document?> FindAsync(string token, CancellationToken stop = default)
    {
        if (token.Length is < 20 or > 64)
            return null;
        var link = await db.DocumentLinks.AsNoTracking().SingleOrDefaultAsync(l => l.Token == token, stop);
        if (link?.OpensOn(await head.TodayAsync(stop)) != true)
            return null;
        var id = link.DocumentId;
        var document = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Customer)
            .SingleAsync(d => d.Id == id, stop);
        // A draft is nobody's to see, also one that was sent before and is being corrected.
        return document.Number is null || document.IsDraft ? null : document;
    }

    /// <summary>Notes that the customer looked.</summary>
    public Task<int> SeeAsync(int documentId, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Customer,
            stop,
            async () =>
            {
                var link = await db.DocumentLinks.SingleAsync(l => l.DocumentId == documentId, stop);
                if (link.See((await head.NowAsync(stop)).DateTime))
                    await writer.TrailAsync("Seen by the customer for the first time", null, documentId);
                return documentId;
            }
        );
}
