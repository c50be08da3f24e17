using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Holds where papers are kept to have gone against what stands on them, and that of what corrects a paper against
/// that paper's. What was issued before papers kept their buyer in parts can be held by its country alone.
/// </summary>
internal sealed class PaperPlacesProof(BooksContext db) : IProof
{
    private const int Batch = 2_000;

    private sealed record Paper(
        int Id,
        string? Number,
        DocumentKind Kind,
        int? FromId,
        Addressee? To,
        Address? Place,
        PaperPlace? Kept,
        PaperPlace? Corrected
    );

    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        for (var last = 0; ; )
        {
            var some = await (
                from document in db.Documents.AsNoTracking()
                where document.Id > last && db.AccountItems.Any(i => i.DocumentId == document.Id)
                orderby document.Id
                join kept in db.PaperPlaces.AsNoTracking() on document.Id equals kept.DocumentId into places
                from kept in places.DefaultIfEmpty()
                join of in db.PaperPlaces.AsNoTracking() on document.FromDocumentId equals of.DocumentId into froms
                from corrected in froms.DefaultIfEmpty()
                select new Paper(
                    document.Id,
                    document.Number,
                    document.Kind,
                    document.FromDocumentId,
                    document.Addressee,
                    document.Place,
                    kept,
                    corrected
                )
            )
                .Take(Batch)
                .ToListAsync(stop);
            if (some.Count == 0)
                break;
            foreach (var paper in some)
                findings.Unless(
                    paper.Kept is not null && Agrees(paper, paper.Kept),
                    $"{paper.Number}: is kept to have gone elsewhere than it says"
                );
            last = some[^1].Id;
        }

        findings.AddRange(
            (
                await db
                    .PaperPlaces.Where(p => !db.AccountItems.Any(i => i.DocumentId == p.DocumentId))
                    .Select(p => p.DocumentId)
                    .ToListAsync(stop)
            ).Select(id => $"Paper {id}: is kept to have gone somewhere, but was never billed")
        );
    }

    private static bool Agrees(Paper paper, PaperPlace kept)
    {
        if (paper.Corrected is { } corrected && CorrectedSupply.Corrects(paper.Kind))
            return kept == corrected with { DocumentId = paper.Id };
        if (paper.To is not { } to)
            return true;
        return paper.Place is null && to.Parts is null
            ? kept.BuyerCountry == to.Country
            : kept == PaperPlace.Of(paper.Id, to, paper.Place);
    }
}
