using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Each summary tells sales at the counter of its days that are told nowhere else, adds up to them, and has what a return
/// needs: a sale that was told before.
/// </summary>
internal sealed class SummariesProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var summaries = await db
            .SalesSummaries.AsNoTracking()
            .Include(s => s.Sales)
            .OrderBy(s => s.Id)
            .ToListAsync(stop);
        var told = summaries.SelectMany(s => s.Sales).Select(s => s.DocumentId).ToHashSet();
        var documents = await db
            .Documents.AsNoTracking()
            .Where(d => told.Contains(d.Id))
            .ToDictionaryAsync(d => d.Id, stop);
        var counter = await db.Businesses.Select(b => b.CounterCustomerId).FirstOrDefaultAsync(stop);
        var alone = await db
            .Post.OnNetwork()
            .SelectMany(p => p.Attachments.Select(a => a.DocumentId))
            .Where(d => told.Contains(d))
            .ToListAsync(stop);
        var sent = (
            await db.Post.Where(p => p.SummaryId != null).Select(p => p.SummaryId!.Value).ToListAsync(stop)
        ).ToHashSet();
        foreach (var unknown in sent.Where(id => summaries.TrueForAll(s => s.Id != id)))
            findings.Add($"Summary {unknown}: was sent, and is not there");
        foreach (var summary in summaries)
            One(findings, summary, documents, counter);
        foreach (
            var twice in summaries
                .SelectMany(s => s.Sales)
                .Where(s => s.Counts)
                .Select(s => s.DocumentId)
                .Concat(alone)
                .GroupBy(d => d)
                .Where(g => g.Count() > 1)
        )
            findings.Add(
                $"{documents.GetValueOrDefault(twice.Key)?.Number}: is told {twice.Count()} times in e-invoices"
            );
        Returns(findings, summaries, documents, [.. alone]);
        findings.Count("summaries of sales", summaries.Count);
    }

    private static void One(Findings findings, SalesSummary summary, Dictionary<int, Document> documents, int? counter)
    {
        var sales = summary.Sales.Select(s => documents.GetValueOrDefault(s.DocumentId)).OfType<Document>().ToList();
        findings.Unless(
            sales.Count > 0
                && sales.Count == summary.Sales.Count
                && summary.Sales.Select(s => s.Position).Order().SequenceEqual(Enumerable.Range(0, sales.Count)),
            $"{summary.Number}: what it tells of is not all there"
        );
        foreach (
            var strange in sales.Where(d =>
                d.CustomerId != counter
                || d.Number is null
                || d.Date < summary.From
                || d.Date > summary.Until
                || !d.Currency.Equals(summary.Currency)
                || (
                    summary.IsReturns
                        ? d.Kind != DocumentKind.CreditNote
                        : d.Kind != DocumentKind.Invoice || d.PaidWords.Length == 0
                )
            )
        )
            findings.Add($"{summary.Number}: tells {strange.Number}, which is no such sale of its days");
        var (net, tax) = (sales.Sum(d => d.Net), sales.Sum(d => d.Tax));
        var (total, payable) = (sales.Sum(d => d.Total), sales.Sum(d => d.Payable));
        findings.Unless(
            (summary.Net, summary.Tax, summary.Total, summary.Payable) == (net, tax, total, payable),
            $"{summary.Number}: comes to {Findings.Text(summary.Net, summary.Currency)}, {Findings.Text(summary.Tax, summary.Currency)} of tax, {Findings.Text(summary.Total, summary.Currency)} and {Findings.Text(summary.Payable, summary.Currency)} to be paid, and its sales to {Findings.Text(net, summary.Currency)}, {Findings.Text(tax, summary.Currency)}, {Findings.Text(total, summary.Currency)} and {Findings.Text(payable, summary.Currency)}"
        );
        findings.Unless(
            Enum.IsDefined(summary.Kind)
                && summary.From <= summary.Until
                && summary.Sender is not null
                && summary.Addressee is not null,
            $"{summary.Number}: its kind, its days or its parties are none"
        );
        findings.Unless(
            summary.Stands == (summary.DissolvedBecause.Length == 0)
                && summary.Sales.All(s => s.Counts == summary.Stands)
                && (summary.DissolvedOn ?? summary.Date) >= summary.Date,
            $"{summary.Number}: it stands and was taken back at once"
        );
    }

    /// <summary>What came back was told where its sale had been told before.</summary>
    private static void Returns(
        Findings findings,
        List<SalesSummary> summaries,
        Dictionary<int, Document> documents,
        HashSet<int> alone
    )
    {
        var where = summaries
            .Where(s => s.Stands)
            .SelectMany(s => s.Sales.Select(sale => (sale.DocumentId, s.Id)))
            .GroupBy(s => s.DocumentId)
            .ToDictionary(g => g.Key, g => g.First().Id);
        foreach (var summary in summaries.Where(s => s is { Stands: true, IsReturns: true }))
        {
            foreach (var told in summary.Sales)
                if (
                    documents.GetValueOrDefault(told.DocumentId)?.FromDocumentId is { } sale
                    && !alone.Contains(sale)
                    && (!where.TryGetValue(sale, out var before) || before > summary.Id)
                )
                    findings.Add(
                        $"{summary.Number}: tells {documents[told.DocumentId].Number}, and not before it the sale that it is on"
                    );
        }
    }
}
