using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>How far a standing invoice has come follows from its occurrences.</summary>
internal sealed class StandingProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var all = await db.StandingInvoices.Include(s => s.Occurrences).ToListAsync(stop);
        foreach (var standing in all)
        {
            var what = $"Standing invoice {standing.Name}";
            var now = standing.Occurrences.Where(o => o.Index >= standing.Offset).OrderBy(o => o.Index).ToList();
            findings.Unless(
                standing
                    .Occurrences.Select(o => o.Index)
                    .Order()
                    .SequenceEqual(Enumerable.Range(0, standing.Occurrences.Count)),
                $"{what}: an occurrence of it is missing, or there twice"
            );
            findings.Unless(
                standing.Next == now.Count,
                $"{what}: says that {standing.Next} have come, and {now.Count} have"
            );
            findings.Unless(
                standing.Skipped == now.Count(o => o.DocumentId is null),
                $"{what}: says that {standing.Skipped} were left out, and {now.Count(o => o.DocumentId is null)} were"
            );
            findings.Unless(
                now.TrueForAll(o => o.Day == standing.Schedule.DayOf(o.Index - standing.Offset)),
                $"{what}: an occurrence is of another day than its schedule says"
            );
        }

        var wrong = await (
            from occurrence in db.StandingInvoices.SelectMany(s => s.Occurrences)
            join standing in db.StandingInvoices on occurrence.StandingInvoiceId equals standing.Id
            join document in db.Documents on occurrence.DocumentId equals document.Id
            where document.CustomerId != standing.CustomerId
            select standing.Name
        ).ToListAsync(stop);
        findings.AddRange(wrong.Select(n => $"Standing invoice {n}: gave a document to another customer"));
        findings.AddRange(
            (
                await db
                    .StandingInvoices.SelectMany(s => s.Occurrences)
                    .Where(o => o.DocumentId != null)
                    .GroupBy(o => o.DocumentId)
                    .Where(g => g.Count() > 1)
                    .Select(g => g.Key)
                    .ToListAsync(stop)
            ).Select(d => $"Document {d}: is given by two occurrences")
        );
        findings.Count("standing invoices", all.Count);
    }
}
