using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Drafting;

/// <summary>Keeps beginnings for quotes, orders and invoices.</summary>
public sealed class StartersDesk(BooksContext db, BookWriter writer, Drafts drafts)
{
    /// <summary>Keeps what an editor holds, or a document, as a starter.</summary>
    /// <param name="currency">That its prices are in.</param>
    /// <exception cref="RefusalException">When the name is missing or taken, or there is no line.</exception>
    public Task<int> KeepAsync(
        DocumentKind kind,
        string name,
        string about,
        DraftContent content,
        Currency currency,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                if (await db.Starters.AnyAsync(s => s.Kind == kind && s.Name == name.Trim() && !s.Retired, stop))
                    throw new RefusalException(
                        "name",
                        $"There is a starter “{name.Trim()}” for {KindPolicy.Of(kind).AWord} already. Choose another name."
                    );
                var starter = new Starter(kind, currency);
                starter.Write(name, about, Copies.Free(content) with { Currency = "" });
                db.Starters.Add(starter);
                await writer.TrailAsync($"Starter {starter.Name} kept");
                await writer.SaveAsync(stop);
                return starter.Id;
            }
        );

    /// <inheritdoc cref="KeepAsync"/>
    public async Task<int> FromDocumentAsync(int documentId, string name, string about, Once once = default)
    {
        var document = await drafts.LoadAsync(documentId, once.Stop);
        var kind = document.Kind is DocumentKind.Quote or DocumentKind.Order ? document.Kind : DocumentKind.Invoice;
        return await KeepAsync(kind, name, about, document.Content(), document.Currency, once);
    }

    /// <summary>Names it anew.</summary>
    public Task<int> DescribeAsync(int id, string name, string about, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var starter = await FindAsync(id, stop);
                starter.Write(name, about, starter.Content);
                return id;
            }
        );

    /// <summary>Offers it no more, or again.</summary>
    public Task<int> RetireAsync(int id, bool retired, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                (await FindAsync(id, stop)).Retire(retired);
                return id;
            }
        );

    private async Task<Starter> FindAsync(int id, CancellationToken stop) =>
        await db.Starters.SingleOrDefaultAsync(s => s.Id == id, stop)
        ?? throw new RefusalException("", "This starter is not there any more.");
}
