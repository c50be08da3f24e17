using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Lines;

/// <summary>Keeps what a draft says of its stages true: when it is saved, and again before it is issued.</summary>
public sealed class StageWords(BooksContext db, BooksHead head)
{
    /// <summary>
    /// What another stage billed of the same; a part that was credited by quantity counts as not billed.
    /// </summary>
    private sealed record Earlier(int DocumentId, int LineId, int? FromLineId, int? FromChargeId, long Amount);

    /// <param name="document">A computed draft; its words are put right.</param>
    /// <param name="id">The draft's own id; null where it is not kept yet.</param>
    internal async Task PutRightAsync(Document document, int? id, CancellationToken stop)
    {
        var staged = document.Lines.Where(l => l.Role == LineRole.Stage).OrderBy(l => l.Position).ToList();
        if (document.Kind != DocumentKind.Invoice || staged.Count == 0)
            return;
        var format = (await head.BusinessAsync(stop)).Format;
        var sources = await SourcesAsync(staged, stop);
        if (sources.Count == 0)
            return;
        var earlier = await EarlierAsync(sources, id, stop);
        var now = new Dictionary<(int?, int?), long>();
        foreach (var line in staged)
        {
            var of = (line.FromLineId, line.FromChargeId);
            if (WholeOf(sources, line) is not { } whole)
                continue;
            var before =
                earlier.Where(e => (e.FromLineId, e.FromChargeId) == of).Sum(e => e.Amount) + now.GetValueOrDefault(of);
            now[of] = now.GetValueOrDefault(of) + AmountOf(line);
            document.Say(
                line.Position,
                StageText.WithProgress(
                    line.Text,
                    StageText.Progress(whole, before, AmountOf(line), document.Currency, format)
                )
            );
        }

        foreach (var section in document.Lines.Where(l => l.Role == LineRole.Section).ToList())
        {
            var first = staged.Find(l => l.Position > section.Position) ?? staged[0];
            if (SourceOf(sources, first) is not { } source)
                continue;
            var number =
                earlier
                    .Where(e => SourceOf(sources, e.FromLineId, e.FromChargeId) == source)
                    .GroupBy(e => e.DocumentId)
                    .Count(d => d.Sum(e => e.Amount) != 0) + 1;
            document.Say(
                section.Position,
                StageText.WithHeading(
                    section.Text,
                    StageText.Heading(
                        number,
                        $"{source.Policy.Word} {source.Number}",
                        await IsLastAsync(source, earlier, now, stop)
                    )
                )
            );
        }
    }

    private static long AmountOf(DocumentLine line) => line.FromChargeId is null ? line.Base : line.Amount;

    private static Document? SourceOf(List<Document> sources, DocumentLine line) =>
        SourceOf(sources, line.FromLineId, line.FromChargeId);

    private static Document? SourceOf(List<Document> sources, int? line, int? charge) =>
        sources.Find(s => s.Lines.Any(l => l.Id == line) || s.Charges.Any(c => c.Id == charge));

    private static long? WholeOf(List<Document> sources, DocumentLine line) =>
        line.FromChargeId is { } charge
            ? sources.SelectMany(s => s.Charges).FirstOrDefault(c => c.Id == charge)?.Amount
            : sources.SelectMany(s => s.Lines).FirstOrDefault(l => l.Id == line.FromLineId)?.Base;

    private Task<List<Document>> SourcesAsync(List<DocumentLine> staged, CancellationToken stop)
    {
        var lines = staged.Select(l => l.FromLineId).OfType<int>().ToList();
        var charges = staged.Select(l => l.FromChargeId).OfType<int>().ToList();
        return db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Charges)
            .Where(d => d.Lines.Any(l => lines.Contains(l.Id)) || d.Charges.Any(c => charges.Contains(c.Id)))
            .ToListAsync(stop);
    }

    /// <summary>Stages that come before: those that are issued, and drafts that were begun earlier.</summary>
    private async Task<List<Earlier>> EarlierAsync(List<Document> sources, int? id, CancellationToken stop)
    {
        var lines = sources.SelectMany(s => s.Lines).Select(l => l.Id).ToList();
        var charges = sources.SelectMany(s => s.Charges).Select(c => c.Id).ToList();
        var own = id ?? int.MaxValue;
        var stages = await (
            from line in db.Set<DocumentLine>().AsNoTracking()
            join document in db.Documents on line.DocumentId equals document.Id
            where
                line.Role == LineRole.Stage
                && document.Kind == DocumentKind.Invoice
                && document.State != DocumentState.Cancelled
                && document.Id != own
                && (document.State != DocumentState.Draft || document.Id < own)
                && (lines.Contains(line.FromLineId ?? 0) || charges.Contains(line.FromChargeId ?? 0))
            select line
        ).ToListAsync(stop);
        var ids = stages.ConvertAll(l => l.Id);
        var credited = await (
            from line in db.Set<DocumentLine>()
            join credit in db.Documents on line.DocumentId equals credit.Id
            where
                credit.Kind == DocumentKind.CreditNote
                && (credit.State == DocumentState.Issued || credit.State == DocumentState.Settled)
                && line.Shares
                && ids.Contains(line.FromLineId ?? 0)
            group line.Base by line.FromLineId!.Value into same
            select new { same.Key, Sum = same.Sum() }
        ).ToDictionaryAsync(c => c.Key, c => c.Sum, stop);
        return stages.ConvertAll(l => new Earlier(
            l.DocumentId,
            l.Id,
            l.FromLineId,
            l.FromChargeId,
            AmountOf(l) - credited.GetValueOrDefault(l.Id)
        ));
    }

    /// <summary>Whether nothing is left to bill in stages after this one.</summary>
    private async Task<bool> IsLastAsync(
        Document source,
        List<Earlier> earlier,
        Dictionary<(int?, int?), long> now,
        CancellationToken stop
    )
    {
        var ids = source.Lines.Select(l => l.Id).ToList();
        var otherwise = await (
            from line in db.Set<DocumentLine>()
            join document in db.Documents on line.DocumentId equals document.Id
            where
                line.FromLineId != null
                && ids.Contains(line.FromLineId.Value)
                && line.Role == LineRole.Item
                && document.State != DocumentState.Cancelled
                && (document.Kind == DocumentKind.Invoice || document.Kind == DocumentKind.Order)
            select line.FromLineId!.Value
        )
            .Distinct()
            .ToListAsync(stop);
        bool All(int? line, int? charge, long whole) =>
            whole
            == earlier.Where(e => e.FromLineId == line && e.FromChargeId == charge).Sum(e => e.Amount)
                + now.GetValueOrDefault((line, charge));
        return source.Lines.Where(l => l.Counts && !otherwise.Contains(l.Id)).All(l => All(l.Id, null, l.Base))
            && source.Charges.All(c => All(null, c.Id, c.Amount));
    }
}
