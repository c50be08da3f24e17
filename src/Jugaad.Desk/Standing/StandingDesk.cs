using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Standing;

/// <summary>Makes, changes, pauses and skips standing invoices.</summary>
public sealed class StandingDesk(BooksContext db, BookWriter writer, BooksHead head, Drafts drafts)
{
    /// <param name="id">Null for a new one.</param>
    /// <param name="content">What each occurrence bills, from the next one on.</param>
    /// <exception cref="RefusalException">With all that is wrong, fields of texts included.</exception>
    public Task<int> SaveAsync(
        int? id,
        StandingDetails details,
        int customerId,
        DraftContent content,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Issue,
            once,
            async stop =>
            {
                var standing = id is { } there ? await FindAsync(there, stop) : new StandingInvoice(writer.Who);
                standing.Describe(details, customerId, Copies.Free(content));
                standing.Begin(details.MakesUp, await head.TodayAsync(stop));
                // Tried out on the next occurrence, so that what cannot be made is said now and not in the night.
                var business = await head.BusinessAsync(stop);
                var filled = PeriodFields.Fill(
                    standing.Content,
                    standing.Schedule,
                    standing.Next,
                    standing.Made + 1,
                    business.Format
                );
                await drafts.MustBePossibleAsync(
                    DocumentKind.Invoice,
                    filled with
                    {
                        CustomerId = customerId,
                        Date = standing.NextDay ?? await head.TodayAsync(stop),
                    },
                    null,
                    stop
                );
                if (id is null)
                    db.StandingInvoices.Add(standing);
                await writer.TrailAsync(
                    $"Standing invoice {standing.Name} {(id is null ? "begun" : "changed from the next one on")}: {standing.Schedule.Words(business.Format.Date)}",
                    customerId
                );
                await writer.SaveAsync(stop);
                return standing.Id;
            }
        );

    /// <summary>Makes one of a document: the same lines, every month from a month on.</summary>
    /// <returns>Its id; it is paused, so that it is looked over before it does anything.</returns>
    public Task<int> FromDocumentAsync(int documentId, Once once = default) =>
        writer.WriteAsync(
            Right.Issue,
            once,
            async stop =>
            {
                var document = await drafts.LoadAsync(documentId, stop);
                if (document.Kind is DocumentKind.CreditNote or DocumentKind.DebitNote or DocumentKind.DeliveryNote)
                    throw new RefusalException(
                        "",
                        $"{document.Policy.ACapitalWord} does not repeat. Choose an invoice, an order or a quote."
                    );
                var today = await head.TodayAsync(stop);
                var first = document.Date.AddMonths(1) > today ? document.Date.AddMonths(1) : today.AddMonths(1);
                var customer = await db.Customers.SingleAsync(c => c.Id == document.CustomerId, stop);
                var id = await SaveAsync(
                    null,
                    new StandingDetails
                    {
                        Name =
                            $"{customer.Name}, {document.Lines.OrderBy(l => l.Position).FirstOrDefault(l => l.Counts)?.Text.Split('\n')[0] ?? "as agreed"}",
                        Schedule = new Schedule(first, 1, Pace.Months),
                    },
                    document.CustomerId,
                    document.Content(),
                    stop
                );
                await PauseAsync(id, true, stop);
                return id;
            }
        );

    public Task<int> PauseAsync(int id, bool paused, Once once = default) =>
        writer.WriteAsync(
            Right.Issue,
            once,
            async stop =>
            {
                var standing = await FindAsync(id, stop);
                standing.Pause(paused, await head.TodayAsync(stop));
                await writer.TrailAsync(
                    $"Standing invoice {standing.Name} {(paused ? "paused" : "goes on")}",
                    standing.CustomerId
                );
                return id;
            }
        );

    /// <summary>Leaves the next occurrence out.</summary>
    public Task<int> SkipAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Issue,
            once,
            async stop =>
            {
                var standing = await FindAsync(id, stop);
                var skipped = standing.Occur(null);
                await writer.TrailAsync(
                    $"Standing invoice {standing.Name}: {skipped.Day:yyyy-MM-dd} skipped",
                    standing.CustomerId
                );
                return id;
            }
        );

    private async Task<StandingInvoice> FindAsync(int id, CancellationToken stop) =>
        await db.StandingInvoices.Include(s => s.Occurrences).SingleOrDefaultAsync(s => s.Id == id, stop)
        ?? throw new RefusalException("", "This standing invoice is not there.");
}
