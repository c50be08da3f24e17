using Jugaad.Core.Documents;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>
/// Keeps where papers went when they were issued, so that a period tells the same whoever moves afterwards.
/// </summary>
internal static class PaperPlaces
{
    /// <summary>Keeps where a paper went that is being issued: where the one that it corrects went, or its own.</summary>
    internal static async Task KeepPlaceAsync(this BooksContext db, Document document, CancellationToken stop)
    {
        var corrected =
            document.FromDocumentId is { } id && CorrectedSupply.Corrects(document.Kind)
                ? await db.PaperPlaces.AsNoTracking().FirstOrDefaultAsync(p => p.DocumentId == id, stop)
                : null;
        db.PaperPlaces.Add(
            corrected is null
                ? PaperPlace.Of(document.Id, document.Addressee!, document.Place)
                : corrected with
                {
                    DocumentId = document.Id,
                }
        );
    }
}
