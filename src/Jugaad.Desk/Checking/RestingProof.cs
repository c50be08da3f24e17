using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Books that were brought back rest until somebody said that they are the books now, and the trail has who.
/// </summary>
internal sealed class RestingProof(BooksContext db) : IProof
{
    /// <summary>How the trail begins when books are brought back, and when they are taken up.</summary>
    internal const string BroughtBack = "Brought back from ",
        TakenUp = "These are the books from now on";

    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        if (await db.Businesses.AsNoTracking().FirstOrDefaultAsync(stop) is not { } business)
            return;
        var last = await db
            .Trail.AsNoTracking()
            .Where(t => t.Text.StartsWith(BroughtBack) || t.Text.StartsWith(TakenUp))
            .OrderByDescending(t => t.Id)
            .Select(t => t.Text)
            .FirstOrDefaultAsync(stop);
        findings.Unless(
            business.IsResting || last is null || last.StartsWith(TakenUp, StringComparison.Ordinal),
            "The books were brought back from a backup and do not rest, though nobody said that they are the books now"
        );
        findings.Unless(
            business.IsResting == (business.RestsBecause.Length > 0),
            "The books rest and do not say why, or say why and do not rest"
        );
    }
}
