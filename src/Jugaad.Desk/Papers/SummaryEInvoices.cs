using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>Tells summaries of small sales as e-invoices of EN 16931, and checks them before they leave.</summary>
public sealed class SummaryEInvoices(BooksContext db)
{
    /// <exception cref="RefusalException">When there is no such summary.</exception>
    public async Task<CheckedEInvoice> OfAsync(int id, CancellationToken stop = default) =>
        await OfAsync(
            await db.SalesSummaries.AsNoTracking().Include(s => s.Sales).SingleOrDefaultAsync(s => s.Id == id, stop)
                ?? throw new RefusalException("", $"There is no summary {id}. Look for it under Post."),
            stop
        );

    internal async Task<CheckedEInvoice> OfAsync(SalesSummary summary, CancellationToken stop)
    {
        var documents = await DocumentsAsync(summary, stop);
        var made = SummaryMaker.Of(summary, documents, await PrecedingAsync(documents, stop));
        return new CheckedEInvoice(null, made, EInvoiceCheck.Of(made));
    }

    /// <summary>What it tells of, in its order, with the taxes.</summary>
    internal async Task<IReadOnlyList<Document>> DocumentsAsync(SalesSummary summary, CancellationToken stop)
    {
        var ids = summary.Sales.OrderBy(s => s.Position).Select(s => s.DocumentId).ToList();
        var found = await db
            .Documents.AsNoTracking()
            .Include(d => d.Taxes)
            .Where(d => ids.Contains(d.Id))
            .ToDictionaryAsync(d => d.Id, stop);
        return ids.ConvertAll(id => found[id]);
    }

    /// <summary>
    /// In what the sales were told that some credits are on (BG-3): a summary that stands, or the sale by itself where it
    /// went so.
    /// </summary>
    private async Task<IReadOnlyList<PrecedingInvoice>> PrecedingAsync(
        IReadOnlyList<Document> documents,
        CancellationToken stop
    )
    {
        var sales = documents
            .Where(d => d.Kind == DocumentKind.CreditNote)
            .Select(d => d.FromDocumentId)
            .OfType<int>()
            .ToList();
        if (sales.Count == 0)
            return [];
        var told = await (
            from sale in db.SummarySales
            join summary in db.SalesSummaries on sale.SummaryId equals summary.Id
            where sale.Counts && sales.Contains(sale.DocumentId)
            select new
            {
                sale.DocumentId,
                summary.Number,
                summary.Date,
            }
        ).ToListAsync(stop);
        var inSummaries = told.ConvertAll(t => t.DocumentId);
        var alone = await db
            .Documents.Where(d => sales.Contains(d.Id) && !inSummaries.Contains(d.Id))
            .Select(d => new { Number = d.Number!, d.Date })
            .ToListAsync(stop);
        return
        [
            .. told.Select(t => (t.Number, t.Date))
                .Concat(alone.Select(a => (a.Number, a.Date)))
                .Distinct()
                .OrderBy(p => p.Date)
                .ThenBy(p => p.Number, StringComparer.Ordinal)
                .Select(p => new PrecedingInvoice(p.Number, p.Date)),
        ];
    }
}
