using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Making;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>
/// Bills the deposit that a quote asks for once the quote is accepted, so that it can be paid at once; each once.
/// </summary>
public sealed class AcceptedDeposits(
    BooksContext db,
    BookWriter writer,
    Drafts drafts,
    Stages stages,
    IssuingDesk issuing,
    MailComposing compose,
    PostTray tray
)
{
    /// <summary>The bill of a deposit made from a quote, also as a draft; null where there is none.</summary>
    public Task<Document?> OfAsync(int quoteId, CancellationToken stop = default) =>
        db
            .Documents.AsNoTracking()
            .Where(d =>
                d.FromDocumentId == quoteId
                && d.State != DocumentState.Cancelled
                && d.Kind == DocumentKind.Invoice
                && d.Lines.Any(l => l.Role == LineRole.Deposit)
            )
            .OrderBy(d => d.Id)
            .FirstOrDefaultAsync(stop);

    /// <summary>Makes a draft of the deposit that an accepted quote asks for; what is there already is enough.</summary>
    /// <exception cref="RefusalException">When the quote asks for none, or nothing is left to bill.</exception>
    public Task<int> DraftAsync(int quoteId, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop => await OfAsync(quoteId, stop) is { } there ? there.Id : await MakeAsync(quoteId, stop)
        );

    /// <summary>
    /// Issues the deposit that a quote asks for as its customer accepts it, and puts it in the post. Where it cannot be
    /// issued the acceptance stands, and the trail says why.
    /// </summary>
    /// <returns>Whether there is one to be paid now.</returns>
    public async Task<bool> IssueAsync(int quoteId, CancellationToken stop = default)
    {
        var asks = await db
            .Documents.Where(d => d.Id == quoteId && d.State == DocumentState.Accepted)
            .AnyAsync(d => d.Particulars.DepositPercent != null || d.Particulars.DepositAmount != null, stop);
        if (!asks)
            return false;
        try
        {
            await writer.WriteAsync(
                Right.Customer,
                stop,
                async () =>
                {
                    if (await OfAsync(quoteId, stop) is { } there)
                        return there.Id;
                    var made = await drafts.LoadAsync(await MakeAsync(quoteId, stop), stop);
                    await issuing.IssueOurOwnAsync(made, stop);
                    await tray.AddOurOwnAsync(await compose.ForDocumentAsync(made.Id, stop), stop);
                    return made.Id;
                }
            );
            return true;
        }
        catch (RefusalException refused)
        {
            await writer.WriteAsync(
                Right.Customer,
                stop,
                async () =>
                {
                    await writer.TrailAsync($"The deposit could not be billed: {refused.Message}", null, quoteId);
                    return quoteId;
                }
            );
            return false;
        }
    }

    private async Task<int> MakeAsync(int quoteId, CancellationToken stop)
    {
        var quote = await drafts.LoadAsync(quoteId, stop);
        if (!quote.Particulars.AsksDeposit)
            throw new RefusalException("", "This quote asks for no deposit. Bill one in stages.");
        return await stages.DepositOnAsync(
            quote,
            quote.Particulars.DepositPercent,
            quote.Particulars.DepositAmount,
            stop
        );
    }
}
