using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>An e-invoice with what it breaks of the standard's rules; it leaves only where that is nothing.</summary>
/// <param name="DocumentId">Null for a summary of small sales, which has no paper.</param>
public sealed record CheckedEInvoice(int? DocumentId, EInvoice Invoice, IReadOnlyList<Breach> Breaches);

/// <summary>Tells issued documents as e-invoices of EN 16931, and checks them before they leave.</summary>
public sealed class EInvoices(BooksContext db, BooksHead head, SummaryEInvoices summaries)
{
    /// <exception cref="RefusalException">When no document has the number, or the standard has no words for it.</exception>
    public async Task<CheckedEInvoice> OfAsync(string number, CancellationToken stop = default)
    {
        var id = await db
            .Documents.Where(d => d.Number == number && d.Kind != DocumentKind.Quote)
            .Select(d => (int?)d.Id)
            .FirstOrDefaultAsync(stop);
        if (
            id is null
            && await db.SalesSummaries.Where(s => s.Number == number).Select(s => (int?)s.Id).SingleOrDefaultAsync(stop)
                is { } summary
        )
            return await summaries.OfAsync(summary, stop);
        return await OfAsync(
            id ?? throw new RefusalException("number", $"No document has the number “{number}”."),
            stop
        );
    }

    /// <summary>The files that go along with a document; those of kinds that may not be embedded stay out.</summary>
    private async Task<List<Supporting>> FilesAsync(int id, CancellationToken stop) =>
        (
            await db
                .DocumentFiles.AsNoTracking()
                .Where(f => f.DocumentId == id && f.GoesAlong)
                .OrderBy(f => f.Id)
                .ToListAsync(stop)
        )
            .Where(f => CodeLists.KindOf(f.Name) is not null)
            .Select(f => new Supporting
            {
                Reference = f.Name,
                Content = f.Content,
                Kind = CodeLists.KindOf(f.Name)!,
                FileName = f.Name,
            })
            .ToList();

    /// <summary>Why an issued document has no e-invoice that could leave; null where it has, and for a draft.</summary>
    public async Task<Phrase?> ProblemAsync(int id, CancellationToken stop = default)
    {
        if (await db.Documents.AnyAsync(d => d.Id == id && d.Number == null, stop))
            return null;
        try
        {
            return (await OfAsync(id, stop)).Breaches is [var breach, ..]
                ? (Phrase)$"It breaks {breach.Rule}: {breach.Problem}"
                : null;
        }
        catch (RefusalException refused)
        {
            return refused.Refusals[0].Phrase;
        }
    }

    /// <inheritdoc cref="OfAsync(string, CancellationToken)"/>
    public async Task<CheckedEInvoice> OfAsync(int id, CancellationToken stop = default)
    {
        var document =
            await db
                .Documents.AsNoTracking()
                .AsSplitQuery()
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .Include(d => d.Taxes)
                .SingleOrDefaultAsync(d => d.Id == id, stop)
            ?? throw new RefusalException("", $"There is no document {id}. Look for it under Sell.");
        var wanted = document.Lines.Select(l => l.ItemId).OfType<int>().Distinct().ToList();
        var items = await db.Items.AsNoTracking().Where(i => wanted.Contains(i.Id)).ToDictionaryAsync(i => i.Id, stop);
        var corrects = document.Particulars.Corrects;
        DateOnly? corrected =
            corrects.Length == 0
                ? null
                : await db
                    .Documents.Where(d => d.Number == corrects)
                    .Select(d => (DateOnly?)d.Date)
                    .FirstOrDefaultAsync(stop);
        var made = EInvoiceMaker.Of(
            document,
            new EInvoiceSources(
                (await head.BusinessAsync(stop)).HomeCurrency,
                items.GetValueOrDefault<int, Item>,
                corrected
            )
            {
                Files = await FilesAsync(id, stop),
            }
        );
        return new CheckedEInvoice(id, made, EInvoiceCheck.Of(made));
    }
}
