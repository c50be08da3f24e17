using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A draft or open quote that a new rate touches. Amounts are minor units of its currency.</summary>
/// <param name="Then">What it would come to under the new rate.</param>
public sealed record TouchedDocument(
    int Id,
    DocumentKind Kind,
    DocumentState State,
    string Title,
    string Customer,
    DateOnly Date,
    Currency Currency,
    long Now,
    long Then
)
{
    public long Difference => Then - Now;
}

/// <summary>
/// What a rate that begins on a day touches: drafts, and quotes that are open or accepted and not billed. Each is
/// computed on the first day of the rate, or on its own tax date where that is later, as it would be if it were issued
/// or billed then.
/// </summary>
public sealed class RateImpact(BooksContext db, MastersLoader masters)
{
    private const int Most = 300;

    /// <returns>What is touched, and whether there was more than could be looked at.</returns>
    public async Task<(IReadOnlyList<TouchedDocument> Touched, bool More)> OfAsync(
        int componentId,
        DateOnly from,
        CancellationToken stop = default
    )
    {
        var codes = (await db.TaxCodes.AsNoTracking().ToListAsync(stop))
            .Where(c => c.Parts.Any(p => p.Component.Id == componentId))
            .Select(c => c.Id)
            .ToHashSet();
        var documents = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Charges)
            .Include(d => d.Customer)
            .Where(d =>
                d.State == DocumentState.Draft
                || (
                    (d.State == DocumentState.Sent || d.State == DocumentState.Accepted)
                    && !db.Documents.Any(o => o.FromDocumentId == d.Id && o.State != DocumentState.Cancelled)
                )
            )
            .Where(d =>
                d.Lines.Any(l => codes.Contains(l.TaxCodeId)) || d.Charges.Any(c => codes.Contains(c.TaxCodeId))
            )
            .OrderBy(d => d.Date)
            .ThenBy(d => d.Id)
            .Take(Most + 1)
            .AsSplitQuery()
            .ToListAsync(stop);
        var touched = new List<TouchedDocument>();
        foreach (var document in documents.Take(Most))
        {
            if (await ThenAsync(document, from, stop) is { } then && then != document.Payable)
                touched.Add(
                    new TouchedDocument(
                        document.Id,
                        document.Kind,
                        document.State,
                        document.Title,
                        document.Customer!.Name,
                        document.Date,
                        document.Currency,
                        document.Payable,
                        then
                    )
                );
        }

        db.ChangeTracker.Clear();
        return (touched, documents.Count > Most);
    }

    private async Task<long?> ThenAsync(Document document, DateOnly from, CancellationToken stop)
    {
        var content = document.Content();
        var day = content.TaxDate ?? content.Date;
        content = content with { TaxDate = day < from ? from : day };
        try
        {
            var fresh = new Document(document.Kind, "");
            fresh.Rewrite(content, await masters.ForAsync(content, null, stop));
            return fresh.Payable;
        }
        catch (RefusalException)
        {
            // Something else stands in its way, such as an item that is gone; the editor says what when it is opened.
            return null;
        }
    }
}
