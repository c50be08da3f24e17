using System.Buffers.Text;
using System.Linq.Expressions;
using System.Security.Cryptography;
using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Machine;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>
/// The addresses at which customers see their papers and their account: made, lasting, made anew, taken back, looked
/// at.
/// </summary>
public sealed class CustomerLinks(BooksContext db, BookWriter writer, BooksHead head, OutsideAddress outside)
{
    private static Expression<Func<DocumentLink, bool>> To(int documentId) => l => l.DocumentId == documentId;

    private static Expression<Func<AccountLink, bool>> Of(int customerId) => l => l.CustomerId == customerId;

    /// <summary>
    /// The whole address of a document's page. It is made where there is none yet or it was taken back; one that has
    /// ended goes on.
    /// </summary>
    public async Task<string> AddressAsync(int documentId, CancellationToken stop = default) =>
        $"{await outside.NowAsync(stop)}/p/{await TokenAsync(To(documentId), t => new DocumentLink(documentId, t), stop)}";

    /// <summary>The whole address of a customer's account; made like that of a document.</summary>
    public async Task<string> AccountAddressAsync(int customerId, CancellationToken stop = default) =>
        $"{await outside.NowAsync(stop)}/a/{await TokenAsync(Of(customerId), t => new AccountLink(customerId, t), stop)}";

    /// <summary>The same, where it is there and opens; empty where not. Nothing is made.</summary>
    public async Task<string> KnownAccountAddressAsync(int customerId, CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var link = await db.AccountLinks.AsNoTracking().SingleOrDefaultAsync(Of(customerId), stop);
        return link?.OpensOn(today) == true ? $"{await outside.NowAsync(stop)}/a/{link.Token}" : "";
    }

    /// <summary>Where a document's page is on this site, where its address is there and opens; empty where not.</summary>
    public async Task<string> KnownPathAsync(int documentId, CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var link = await db.Set<DocumentLink>().AsNoTracking().SingleOrDefaultAsync(To(documentId), stop);
        return link?.OpensOn(today) == true ? $"/p/{link.Token}" : "";
    }

    private async Task<string> TokenAsync<TLink>(
        Expression<Func<TLink, bool>> which,
        Func<string, TLink> make,
        CancellationToken stop
    )
        where TLink : CustomerLink
    {
        var today = await head.TodayAsync(stop);
        var link = await db.Set<TLink>().AsNoTracking().SingleOrDefaultAsync(which, stop);
        if (link?.OpensOn(today) == true)
            return link.Token;
        await writer.WriteAsync(
            Right.Draft,
            stop,
            async () =>
            {
                var kept = await db.Set<TLink>().SingleOrDefaultAsync(which, stop);
                if (kept is null)
                    db.Add(kept = make(NewToken()));
                else if (kept.IsTakenBack)
                    kept.Renew(NewToken(), null);
                kept.Last(await UntilAsync(today, stop));
                await writer.SaveAsync(stop);
                return kept.Id;
            }
        );
        return await db.Set<TLink>().AsNoTracking().Where(which).Select(l => l.Token).SingleAsync(stop);
    }

    /// <summary>Has the address open nothing any more.</summary>
    public Task<int> TakeBackAsync(int documentId, Once once = default) =>
        ChangeAsync(To(documentId), once, null, documentId, "The customer's link was taken back", Close);

    /// <summary>Puts another address in its place; the one before opens nothing any more.</summary>
    public Task<int> RenewAsync(int documentId, Once once = default) =>
        ChangeAsync(To(documentId), once, null, documentId, "The customer's link was made anew", Anew);

    /// <inheritdoc cref="TakeBackAsync"/>
    public Task<int> TakeBackAccountAsync(int customerId, Once once = default) =>
        ChangeAsync(Of(customerId), once, customerId, null, "The link to their account was taken back", Close);

    /// <inheritdoc cref="RenewAsync"/>
    public Task<int> RenewAccountAsync(int customerId, Once once = default) =>
        ChangeAsync(Of(customerId), once, customerId, null, "The link to their account was made anew", Anew);

    private static void Close(CustomerLink link, DateOnly? until) => link.TakeBack();

    private static void Anew(CustomerLink link, DateOnly? until) => link.Renew(NewToken(), until);

    private Task<int> ChangeAsync<TLink>(
        Expression<Func<TLink, bool>> which,
        Once once,
        int? customerId,
        int? documentId,
        string words,
        Action<CustomerLink, DateOnly?> change
    )
        where TLink : CustomerLink =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var link =
                    await db.Set<TLink>().SingleOrDefaultAsync(which, stop)
                    ?? throw new RefusalException("", "There is no such link yet. Make one.");
                change(link, await UntilAsync(await head.TodayAsync(stop), stop));
                await writer.TrailAsync($"{words}", customerId, documentId);
                return link.Id;
            }
        );

    private async Task<DateOnly?> UntilAsync(DateOnly today, CancellationToken stop) =>
        (await db.MailSettings.AsNoTracking().Select(s => (int?)s.LinkDays).FirstOrDefaultAsync(stop))
            is > 0
                and { } days
            ? today.AddDays(days)
            : null;

    /// <summary>A name that nobody can guess, for an address.</summary>
    public static string NewToken() => Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(24));

    /// <summary>The document behind a token, where customers may see it; null where there is none.</summary>
    public async Task<Document?> FindAsync(string token, CancellationToken stop = default)
    {
        if (await OpenAsync<DocumentLink>(token, stop) is not { } link)
            return null;
        var id = link.DocumentId;
        var document = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Charges)
            .Include(d => d.Customer)
            .SingleAsync(d => d.Id == id, stop);
        // A draft is nobody's to see, also one that was sent before and is being corrected.
        return document.Number is null || document.IsDraft ? null : document;
    }

    /// <summary>The customer whose account is behind a token; null where there is none.</summary>
    public async Task<int?> FindAccountAsync(string token, CancellationToken stop = default) =>
        (await OpenAsync<AccountLink>(token, stop))?.CustomerId;

    private async Task<TLink?> OpenAsync<TLink>(string token, CancellationToken stop)
        where TLink : CustomerLink
    {
        if (token.Length is < 20 or > 64)
            return null;
        var link = await db.Set<TLink>().AsNoTracking().SingleOrDefaultAsync(l => l.Token == token, stop);
        return link?.OpensOn(await head.TodayAsync(stop)) == true ? link : null;
    }

    /// <summary>Notes that the customer looked at a paper.</summary>
    public Task<int> SeeAsync(int documentId, CancellationToken stop = default) =>
        SeeAsync(To(documentId), null, documentId, "Seen by the customer for the first time", stop);

    /// <summary>Notes that the customer looked at their account.</summary>
    public Task<int> SeeAccountAsync(int customerId, CancellationToken stop = default) =>
        SeeAsync(Of(customerId), customerId, null, "The customer looked at their account for the first time", stop);

    private Task<int> SeeAsync<TLink>(
        Expression<Func<TLink, bool>> which,
        int? customerId,
        int? documentId,
        string words,
        CancellationToken stop
    )
        where TLink : CustomerLink =>
        writer.WriteAsync(
            Right.Customer,
            stop,
            async () =>
            {
                var link = await db.Set<TLink>().SingleAsync(which, stop);
                if (link.See((await head.NowAsync(stop)).DateTime))
                    await writer.TrailAsync($"{words}", customerId, documentId);
                return link.Id;
            }
        );
}
