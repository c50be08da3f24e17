using Jugaad.Core.Amounts;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A summary of small sales, and how far it got. Amounts are minor units.</summary>
/// <param name="Fate">Null where it was not sent.</param>
public sealed record SummaryRow(SalesSummary Summary, int Sales, EInvoiceFate? Fate);

/// <summary>A sale that a summary tells of.</summary>
public sealed record SummarySaleRow(
    int DocumentId,
    string Number,
    DateOnly Date,
    long Net,
    long Tax,
    long Payable,
    string Paid
);

/// <summary>One summary with all that it tells of.</summary>
public sealed record SummaryView(
    SalesSummary Summary,
    IReadOnlyList<SummarySaleRow> Sales,
    IReadOnlyList<EInvoiceRow> Fates
)
{
    public Currency Currency => Summary.Currency;
}

/// <summary>Summaries of small sales as they are looked at.</summary>
public sealed class SummaryScreens(BooksContext db, EInvoiceScreens fates)
{
    /// <summary>The newest are shown up to here.</summary>
    public const int MostRows = 200;

    /// <summary>Newest first.</summary>
    public async Task<IReadOnlyList<SummaryRow>> RowsAsync(CancellationToken stop = default)
    {
        var rows = await db
            .SalesSummaries.AsNoTracking()
            .OrderByDescending(s => s.Id)
            .Take(MostRows)
            .Select(s => new { Summary = s, Sales = s.Sales.Count })
            .ToListAsync(stop);
        var sent = (await fates.RowsAsync(null, null, null, null, stop)).Where(f => f.SummaryId is not null).ToList();
        return rows.ConvertAll(r => new SummaryRow(
            r.Summary,
            r.Sales,
            sent.Find(f => f.SummaryId == r.Summary.Id)?.Fate
        ));
    }

    /// <returns>Null where there is none.</returns>
    public async Task<SummaryView?> FindAsync(int id, CancellationToken stop = default)
    {
        if (await db.SalesSummaries.AsNoTracking().SingleOrDefaultAsync(s => s.Id == id, stop) is not { } summary)
            return null;
        var sales = await (
            from told in db.SummarySales
            join document in db.Documents on told.DocumentId equals document.Id
            where told.SummaryId == id
            orderby told.Position
            select new SummarySaleRow(
                document.Id,
                document.Number ?? "",
                document.Date,
                document.Net,
                document.Tax,
                document.Payable,
                document.PaidWords
            )
        ).ToListAsync(stop);
        return new SummaryView(summary, sales, await fates.RowsAsync(null, null, null, id, stop));
    }

    /// <summary>The summary that stands in which a sale is told; null where it is in none.</summary>
    public async Task<SalesSummary?> OfSaleAsync(int documentId, CancellationToken stop = default) =>
        await (
            from told in db.SummarySales
            join summary in db.SalesSummaries on told.SummaryId equals summary.Id
            where told.Counts && told.DocumentId == documentId
            select summary
        )
            .AsNoTracking()
            .SingleOrDefaultAsync(stop);
}
