using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Taxes;
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
        var corrected = await db.CorrectedAsync(document, stop);
        return new IssuedFacts(
            (
                await db.Items.AsNoTracking().Where(i => items.Contains(i.Id)).OrderBy(i => i.Id).ToListAsync(stop)
            ).ConvertAll(i =>
            {
                var now = ItemFacts.Of(i, numbers.GetValueOrDefault(i.Id, ""));
                return now with { IsGoods = corrected?.Facts?.Of(i.Id)?.IsGoods ?? now.IsGoods };
            }),
            (
                await db
                    .TaxCodes.AsNoTracking()
                    .Where(c => codes.Contains(c.Id) && c.ExemptionCode != "")
                    .OrderBy(c => c.Id)
                    .ToListAsync(stop)
            ).ConvertAll(c => new ExemptionFact(c.Id, c.ExemptionCode))
        )
        {
            SuppliedIn = corrected?.SuppliedIn ?? await db.PlaceNowAsync(document, stop),
        };
    }

    private static async Task<Place> PlaceNowAsync(this BooksContext db, Document document, CancellationToken stop)
    {
        var to =
            document.Place
            ?? await db.Customers.Where(c => c.Id == document.CustomerId).Select(c => c.Address).SingleAsync(stop);
        return TaxCase.ToldPlace(to, await db.Businesses.Select(b => b.Address).SingleAsync(stop));
    }
}
