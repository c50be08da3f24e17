using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Making;

/// <summary>What becomes of a quote after it was sent.</summary>
public sealed class Quotes(BooksContext db, BookWriter writer, BooksHead head, Drafts drafts)
{
    /// <param name="chosen">The lines that the customer chose, where there are any to choose from; null to leave them
    /// as they are.</param>
    /// <exception cref="RefusalException">When alternatives are left open, or it waits for no answer.</exception>
    public Task<int> AnswerAsync(
        int id,
        bool accepted,
        string note = "",
        LossReason? lostBy = null,
        Once once = default,
        IReadOnlySet<int>? chosen = null
    ) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var quote = await drafts.LoadAsync(id, stop);
                if (accepted && chosen is not null && quote.Lines.Any(l => l.Choice != LineChoice.Firm))
                    quote.Choose(chosen);
                quote.Answer(accepted, await head.TodayAsync(stop), note, lostBy);
                await writer.TrailAsync(
                    $"Quote {quote.Number} {(accepted ? "accepted" : "declined")}{(note.Trim().Length > 0 ? $": {note.Trim()}" : "")}",
                    quote.CustomerId,
                    id
                );
                return id;
            }
        );

    /// <summary>Takes the answer back.</summary>
    public Task<int> ReopenAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var quote = await drafts.LoadAsync(id, stop);
                if (await MadeFrom(id).AnyAsync(stop))
                    throw new RefusalException(
                        "",
                        "Something was made from this quote already. Put that draft away first."
                    );
                quote.Reopen();
                await writer.TrailAsync($"Answer to quote {quote.Number} taken back", quote.CustomerId, id);
                return id;
            }
        );

    /// <summary>
    /// Makes a draft of the next revision; the earlier one stays as it was sent, and is replaced once the revision is
    /// sent.
    /// </summary>
    /// <returns>The draft's id; that of the one already begun, where there is one.</returns>
    public Task<int> ReviseAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                if (
                    await db
                        .Documents.Where(d => d.RevisesId == id && d.State == DocumentState.Draft)
                        .Select(d => (int?)d.Id)
                        .FirstOrDefaultAsync(stop) is
                    { } begun
                )
                    return begun;
                var quote = await drafts.LoadAsync(id, stop);
                var today = await head.TodayAsync(stop);
                var days = quote.ValidUntil is { } until ? until.DayNumber - quote.Date.DayNumber : 30;
                var revision = await drafts.MakeAsync(
                    DocumentKind.Quote,
                    quote.Content() with
                    {
                        Date = today,
                        TaxDate = null,
                        ValidUntil = today.AddDays(days),
                        NumberByHand = "",
                    },
                    null,
                    $"Revision of {quote.Number} begun",
                    stop
                );
                revision.Revise(quote);
                return revision.Id;
            }
        );

    /// <summary>Says when to ask what became of a quote; null for not at all.</summary>
    public Task<int> FollowUpAsync(int id, DateOnly? day, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var quote = await drafts.LoadAsync(id, stop);
                quote.FollowUpOn(day);
                await writer.TrailAsync(
                    day is { } on ? (Phrase)$"To follow up on {on:yyyy-MM-dd}" : "No follow-up any more",
                    quote.CustomerId,
                    id
                );
                return id;
            }
        );

    private IQueryable<Document> MadeFrom(int id) =>
        db.Documents.Where(d => d.FromDocumentId == id && d.State != DocumentState.Cancelled);
}
