using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>Looks up what a document keeps of its items and tax codes when it is issued.</summary>
internal static class FactsOfIssue
{
    internal static async Task<IssuedFacts> FactsAsync(
        this BooksContext db,
        Document document,
        CancellationToken stop = default
    )
    {
        var items = document.Lines.Select(l => l.ItemId).OfType<int>().Distinct().ToList();
        var codes = document.Lines.Select(l => l.TaxCodeId).Distinct().ToList();
        var numbers = await TheirNumbers.OfAsync(db, document.CustomerId, items, stop);
        return new IssuedFacts(
            (
                await db.Items.AsNoTracking().Where(i => items.Contains(i.Id)).OrderBy(i => i.Id).ToListAsync(stop)
            ).ConvertAll(i => ItemFacts.Of(i, numbers.GetValueOrDefault(i.Id, ""))),
            (
                await db
                    .TaxCodes.AsNoTracking()
                    .Where(c => codes.Contains(c.Id) && c.ExemptionCode != "")
                    .OrderBy(c => c.Id)
                    .ToListAsync(stop)
            ).ConvertAll(c => new ExemptionFact(c.Id, c.ExemptionCode))
        );
    }
}
