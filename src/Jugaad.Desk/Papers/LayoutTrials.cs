using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>Tries a layout on the books' own papers before it is put to use.</summary>
public sealed class LayoutTrials(BooksContext db, PaperRoom papers, IPaperPrinter printer)
{
    private const int Newest = 200;
    private const int MostFindings = 30;

    /// <summary>
    /// On the newest documents, and on the longest, the widest in words, the largest in money and the emptiest.
    /// </summary>
    /// <returns>Each thing once, what cannot stand first.</returns>
    public async Task<IReadOnlyList<LayoutFinding>> TryAsync(Layout layout, CancellationToken stop = default)
    {
        var found = new Dictionary<(bool, string, string), LayoutFinding>();
        foreach (var id in await ChosenAsync(stop))
        {
            var document = await papers.LoadAsync(id, stop);
            var content = await papers.ContentAsync(document, document.WrittenIn(document.Customer!), layout, stop);
            var paper = Composer.Compose(layout, content, printer.Measure);
            foreach (var finding in LayoutTrial.Of(layout, content, paper, printer.Measure))
                found.TryAdd((finding.Refused, finding.Piece, finding.Words), finding);
            if (found.Count > MostFindings)
                break;
        }

        return [.. found.Values.OrderByDescending(f => f.Refused).Take(MostFindings)];
    }

    /// <summary>A finding in words, with its piece and the paper that showed it.</summary>
    public static string Words(LayoutFinding finding) =>
        $"{(finding.Piece.Length > 0 ? $"{finding.Piece}: " : "")}{finding.Words}{(finding.Number.Length > 0 ? $" Seen on {finding.Number}." : "")}";

    private async Task<IReadOnlyList<int>> ChosenAsync(CancellationToken stop)
    {
        var documents = db.Documents.AsNoTracking().Where(d => d.Lines.Any());
        var newest = await documents.OrderByDescending(d => d.Id).Select(d => d.Id).Take(Newest).ToListAsync(stop);
        var most = await db.Set<Core.Documents.DocumentLine>()
            .GroupBy(l => l.DocumentId)
            .OrderByDescending(g => g.Count())
            .Select(g => g.Key)
            .Take(2)
            .ToListAsync(stop);
        var widest = await db.Set<Core.Documents.DocumentLine>()
            .OrderByDescending(l => l.Text.Length)
            .Select(l => l.DocumentId)
            .Take(2)
            .ToListAsync(stop);
        var names = await documents
            .OrderByDescending(d => d.Customer!.Name.Length)
            .Select(d => d.Id)
            .Take(2)
            .ToListAsync(stop);
        var largest = await documents.OrderByDescending(d => d.Payable).Select(d => d.Id).Take(2).ToListAsync(stop);
        var least = await documents.OrderBy(d => d.Payable).Select(d => d.Id).Take(1).ToListAsync(stop);
        return [.. newest.Concat(most).Concat(widest).Concat(names).Concat(largest).Concat(least).Distinct()];
    }
}
