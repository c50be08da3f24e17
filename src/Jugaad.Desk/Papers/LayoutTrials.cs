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
    /// On the newest documents, and on the longest, the widest in words, the largest in money and the emptiest. What a
    /// kind of paper must say is asked only of papers that it is meant for: of others it is only worth knowing.
    /// </summary>
    /// <param name="kinds">The kinds that it is meant for, one empty for all; null where nobody said so yet: then it must
    /// be fit for one of them.</param>
    /// <returns>Each thing once, what cannot stand first.</returns>
    public async Task<IReadOnlyList<LayoutFinding>> TryAsync(
        Layout layout,
        IReadOnlyCollection<string>? kinds = null,
        CancellationToken stop = default
    )
    {
        var found = new Dictionary<(bool, string, string, string), LayoutFinding>();
        var tried = new HashSet<string>();
        foreach (var id in await ChosenAsync(stop))
        {
            var document = await papers.LoadAsync(id, stop);
            var content = await papers.ContentAsync(document, document.WrittenIn(document.Customer!), layout, stop);
            tried.Add(content.Kind);
            var paper = Composer.Compose(layout, content, printer.Measure);
            foreach (var finding in LayoutTrial.Of(layout, content, paper, printer.Measure))
                found.TryAdd((finding.Refused, finding.Piece, finding.Words, finding.Lacking), finding);
            if (found.Count > MostFindings)
                break;
        }

        var unfit = found.Values.Select(f => f.Lacking).Where(k => k.Length > 0).ToHashSet();
        bool Stands(string kind) =>
            kinds is null ? tried.IsSubsetOf(unfit) : kinds.Contains("") || kinds.Contains(kind);
        return
        [
            .. found
                .Values.Select(f => f.Lacking.Length > 0 && !Stands(f.Lacking) ? Known(f) : f)
                .DistinctBy(f => (f.Piece, f.Words))
                .OrderByDescending(f => f.Refused)
                .Take(MostFindings),
        ];
    }

    private static LayoutFinding Known(LayoutFinding finding) =>
        finding with
        {
            Refused = false,
            Words =
                $"It is not fit for {PaperKinds.Name(finding.Lacking)}: {char.ToLowerInvariant(finding.Words[0])}{finding.Words[1..]}",
        };

    /// <summary>The kinds that rules give a layout to; null where none does.</summary>
    internal async Task<IReadOnlyCollection<string>?> KindsAsync(int layoutId, CancellationToken stop)
    {
        var kinds = await db.LayoutRules.Where(r => r.LayoutId == layoutId).Select(r => r.Kind).ToListAsync(stop);
        return kinds.Count == 0 ? null : kinds;
    }

    /// <exception cref="Core.RefusalException">With what cannot stand.</exception>
    internal async Task MustStandAsync(Layout layout, IReadOnlyCollection<string>? kinds, CancellationToken stop)
    {
        var refused = (await TryAsync(layout, kinds, stop)).Where(f => f.Refused).ToList();
        if (refused.Count > 0)
            throw new Core.RefusalException([.. refused.Select(f => new Core.Refusal(f.Piece, Words(f)))]);
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
