using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>An e-invoice that was put into the tray, and how far it got.</summary>
/// <param name="Href">The page of what was sent.</param>
/// <param name="DocumentId">Null for a summary of small sales.</param>
/// <param name="Why">What the receiver or the network said last; empty for nothing.</param>
public sealed record EInvoiceRow(
    int PostItemId,
    string Href,
    int? DocumentId,
    string Number,
    int CustomerId,
    string Customer,
    string To,
    DateOnly Day,
    EInvoiceFate Fate,
    string Why
)
{
    /// <summary>Null for a paper.</summary>
    public int? SummaryId { get; init; }
}

/// <summary>An issued document that could go as an e-invoice and has not, with where it would go.</summary>
public sealed record EInvoiceToSend(
    int DocumentId,
    string Number,
    int CustomerId,
    string Customer,
    DateOnly Date,
    EInvoiceRoute Route
);

/// <summary>The fate of e-invoices, and which could still go.</summary>
public sealed class EInvoiceScreens(BooksContext db, EInvoiceSending sending)
{
    /// <summary>The newest are shown up to here.</summary>
    public const int MostRows = 500;

    /// <summary>Newest first.</summary>
    /// <param name="only">With that fate; null for all.</param>
    public async Task<IReadOnlyList<EInvoiceRow>> RowsAsync(
        EInvoiceFate? only,
        int? documentId = null,
        int? customerId = null,
        int? summaryId = null,
        CancellationToken stop = default
    )
    {
        var wanted = db.Post.AsNoTracking().Where(p => p.Way == PostWay.Network);
        if (documentId is not null)
            wanted = wanted.Where(p => p.Attachments.Any(a => a.DocumentId == documentId));
        if (summaryId is not null)
            wanted = wanted.Where(p => p.SummaryId == summaryId);
        if (customerId is not null)
            wanted = wanted.Where(p => p.CustomerId == customerId);
        var posts = await With(wanted, only)
            .OrderByDescending(p => p.Id)
            .Take(MostRows)
            .Select(p => new
            {
                p.Id,
                p.State,
                p.To,
                p.Day,
                p.LastProblem,
                p.SummaryId,
                CustomerId = p.CustomerId ?? 0,
                Customer = db.Customers.Where(c => c.Id == p.CustomerId).Select(c => c.Name).FirstOrDefault() ?? "",
                DocumentId = p.Attachments.Select(a => (int?)a.DocumentId).FirstOrDefault(),
                Answer = db
                    .NetworkAnswers.Where(a => a.PostItemId == p.Id && a.Counts)
                    .OrderByDescending(a => a.Id)
                    .Select(a => new { Kind = (AnswerKind?)a.Kind, a.Reason })
                    .FirstOrDefault(),
            })
            .ToListAsync(stop);
        var rows = posts
            .Select(p =>
                (
                    Post: p,
                    Fate: p.State switch
                    {
                        PostState.Sent => EInvoiceFates.Of(p.Answer?.Kind),
                        PostState.Waiting or PostState.OnItsWay => EInvoiceFate.OnItsWay,
                        PostState.Withdrawn => EInvoiceFate.Withdrawn,
                        _ => EInvoiceFate.Stuck,
                    }
                )
            )
            .ToList();
        var ids = rows.Select(r => r.Post.DocumentId).OfType<int>().ToList();
        var documents = await db
            .Documents.Where(d => ids.Contains(d.Id))
            .ToDictionaryAsync(d => d.Id, d => d.Number ?? "", stop);
        var gathered = rows.Select(r => r.Post.SummaryId).OfType<int>().ToList();
        var summaries = await db
            .SalesSummaries.Where(s => gathered.Contains(s.Id))
            .ToDictionaryAsync(s => s.Id, s => s.Number, stop);
        return rows.ConvertAll(r => new EInvoiceRow(
            r.Post.Id,
            r.Post.SummaryId is { } summary ? $"/post/summaries/{summary}" : $"/papers/{r.Post.DocumentId}",
            r.Post.DocumentId,
            r.Post.SummaryId is { } number
                ? summaries.GetValueOrDefault(number, "")
                : documents.GetValueOrDefault(r.Post.DocumentId ?? 0, ""),
            r.Post.CustomerId,
            r.Post.Customer,
            r.Post.To,
            r.Post.Day,
            r.Fate,
            r.Post.Answer?.Reason is { Length: > 0 } said ? said : r.Post.LastProblem
        )
        {
            SummaryId = r.Post.SummaryId,
        });
    }

    /// <summary>Those of a fate: by how far the post got, and from there by the last answer that counts.</summary>
    private IQueryable<PostItem> With(IQueryable<PostItem> post, EInvoiceFate? fate)
    {
        AnswerKind? answer = Enum.GetValues<AnswerKind>()
            .Cast<AnswerKind?>()
            .FirstOrDefault(a => EInvoiceFates.Of(a) == fate);
        return fate switch
        {
            null => post,
            EInvoiceFate.OnItsWay => post.Where(p => p.State == PostState.Waiting || p.State == PostState.OnItsWay),
            EInvoiceFate.Stuck => post.Where(p => p.State == PostState.Failed || p.State == PostState.Unknown),
            EInvoiceFate.Withdrawn => post.Where(p => p.State == PostState.Withdrawn),
            EInvoiceFate.Arrived => post.Where(p =>
                p.State == PostState.Sent && !db.NetworkAnswers.Any(a => a.PostItemId == p.Id && a.Counts)
            ),
            _ => post.Where(p =>
                p.State == PostState.Sent
                && db.NetworkAnswers.Where(a => a.PostItemId == p.Id && a.Counts)
                    .OrderByDescending(a => a.Id)
                    .Select(a => (AnswerKind?)a.Kind)
                    .FirstOrDefault() == answer
            ),
        };
    }

    /// <summary>Invoices that a customer refused and that are not put right yet.</summary>
    public async Task<IReadOnlyList<EInvoiceRow>> RefusedByAsync(int customerId, CancellationToken stop = default)
    {
        var refused = await RowsAsync(EInvoiceFate.Refused, null, customerId, null, stop);
        var ids = refused.Select(r => r.DocumentId).OfType<int>().ToList();
        var open = await db
            .Documents.Where(d => ids.Contains(d.Id) && d.State != DocumentState.Cancelled)
            .Select(d => d.Id)
            .ToListAsync(stop);
        return [.. refused.Where(r => r.DocumentId is { } id && open.Contains(id))];
    }

    /// <summary>
    /// Issued in some days to customers who get e-invoices, and not sent so yet; oldest first. One that was refused was
    /// sent: it is put right by another paper. Sales at the counter to nobody in particular go together, in summaries.
    /// </summary>
    public async Task<IReadOnlyList<EInvoiceToSend>> ToSendAsync(
        DateOnly from,
        DateOnly until,
        CancellationToken stop = default
    )
    {
        var live = db.Post.OnNetwork();
        var counter = await db.Businesses.Select(b => b.CounterCustomerId).FirstOrDefaultAsync(stop);
        var found = await db
            .Documents.Where(d =>
                d.Date >= from
                && d.Date <= until
                && d.Number != null
                && (
                    d.Kind == DocumentKind.Invoice
                    || d.Kind == DocumentKind.CreditNote
                    || d.Kind == DocumentKind.DebitNote
                )
                && d.Customer!.Takes == PaperForm.EInvoice
                && (d.CustomerId != counter || (d.Kind == DocumentKind.Invoice && d.PaidWords == ""))
                && !db.SummarySales.Any(s => s.DocumentId == d.Id && s.Counts)
                && !live.Any(p => p.Attachments.Any(a => a.DocumentId == d.Id))
            )
            .OrderBy(d => d.Date)
            .ThenBy(d => d.Id)
            .Take(MostRows)
            .Select(d => new
            {
                d.Id,
                d.Number,
                d.CustomerId,
                d.Customer!.Name,
                d.Date,
            })
            .ToListAsync(stop);
        var rows = new List<EInvoiceToSend>();
        foreach (var d in found)
            rows.Add(new(d.Id, d.Number ?? "", d.CustomerId, d.Name, d.Date, await sending.RouteAsync(d.Id, stop)));
        return rows;
    }
}
