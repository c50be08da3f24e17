using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>What the document that another corrects has told of where it was supplied and what was goods.</summary>
/// <param name="Facts">Null for what was issued before they were kept.</param>
/// <param name="Told">Where it was supplied by what authorities were told; null where none was.</param>
internal sealed record Corrected(IssuedFacts? Facts, Place? Told)
{
    internal Place? SuppliedIn => Facts?.SuppliedIn ?? Told;
}

/// <summary>Looks up what is corrected.</summary>
internal static class CorrectedSupply
{
    /// <returns>Null for what corrects nothing.</returns>
    internal static async Task<Corrected?> CorrectedAsync(
        this BooksContext db,
        Document document,
        CancellationToken stop
    ) =>
        document.FromDocumentId is { } id && Corrects(document.Kind)
            ? new Corrected(
                await db.Documents.Where(d => d.Id == id).Select(d => d.Facts).SingleAsync(stop),
                await db
                    .TaxFigures.Where(f => f.DocumentId == id)
                    .OrderBy(f => f.Id)
                    .Select(f => (Place?)f.Place)
                    .FirstOrDefaultAsync(stop)
            )
            : null;

    internal static bool Corrects(DocumentKind kind) => kind is DocumentKind.CreditNote or DocumentKind.DebitNote;
}
