using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Lines;

/// <summary>
/// What a draft's lines are parts of: their origins, what other documents made of the same, and what goes back of which
/// tax.
/// </summary>
/// <param name="Lines">By the id of the line that something was made from.</param>
/// <param name="Charges">By the id of the charge that something was made from.</param>
internal sealed record WholesOf(
    IReadOnlyDictionary<int, LineOrigin> Lines,
    IReadOnlyDictionary<int, LineOrigin> Charges,
    IReadOnlyList<EarlierPart> Earlier,
    IReadOnlyDictionary<int, SharedLine> Shared,
    IReadOnlyDictionary<int, SharedDocument> Documents
);

/// <summary>Reads what a draft's lines are parts of.</summary>
public sealed class Wholes(BooksContext db, LineUses uses)
{
    /// <summary>A line or charge that something was made from, with the one whose parts are added up.</summary>
    private sealed record Source(int Id, int RootId, int RootDocumentId, DocumentKind Kind, string Treatment);

    /// <param name="documentId">The draft that has the content, whose own lines as kept do not count; null where it is
    /// not kept yet.</param>
    internal async Task<WholesOf> OfAsync(DraftContent content, int? documentId, CancellationToken stop)
    {
        var lines = await LineSourcesAsync([.. content.Lines.Select(l => l.FromLineId).OfType<int>().Distinct()], stop);
        var charges = await ChargeSourcesAsync(
            [
                .. content
                    .Lines.Select(l => l.FromChargeId)
                    .Concat(content.Charges.Select(c => c.FromChargeId))
                    .OfType<int>()
                    .Distinct(),
            ],
            stop
        );
        var back = await TakenBackAsync(
            [.. lines.Concat(charges).Where(s => KindPolicy.Of(s.Kind).Posts).Select(s => s.RootDocumentId).Distinct()],
            documentId,
            stop
        );
        LineOrigin Origin(Source s, int? lineId, IReadOnlyDictionary<int, TakenBack> taken) =>
            KindPolicy.Of(s.Kind).Posts
                ? new LineOrigin(s.RootDocumentId, lineId, Treatment.Parse(s.Treatment), taken.GetValueOrDefault(s.Id))
                : new LineOrigin(s.RootDocumentId, lineId, null, null);
        var (shared, documents) = await SharedAsync(lines, documentId, stop);
        return new WholesOf(
            lines.ToDictionary(l => l.Id, l => Origin(l, l.RootId, back.Lines)),
            charges.ToDictionary(c => c.Id, c => Origin(c, null, back.Charges)),
            await EarlierAsync(
                [
                    .. lines
                        .Concat(charges)
                        .Where(s => !KindPolicy.Of(s.Kind).Posts)
                        .Select(s => s.RootDocumentId)
                        .Distinct(),
                ],
                documentId,
                stop
            ),
            shared,
            documents
        );
    }

    /// <summary>
    /// A delivery note that belongs to an order stands for it: the parts of the order are what adds up.
    /// </summary>
    private async Task<List<Source>> LineSourcesAsync(List<int> ids, CancellationToken stop)
    {
        if (ids.Count == 0)
            return [];
        var found = await (
            from line in db.Set<DocumentLine>()
            join document in db.Documents on line.DocumentId equals document.Id
            where ids.Contains(line.Id)
            select new
            {
                line.Id,
                line.FromLineId,
                line.DocumentId,
                document.Kind,
                line.Treatment,
            }
        ).ToListAsync(stop);
        var orderLines = found
            .Where(l => l.Kind == DocumentKind.DeliveryNote)
            .Select(l => l.FromLineId)
            .OfType<int>()
            .ToList();
        var orders = await db.Set<DocumentLine>()
            .Where(l => orderLines.Contains(l.Id))
            .ToDictionaryAsync(l => l.Id, l => l.DocumentId, stop);
        return found.ConvertAll(l =>
            l.Kind == DocumentKind.DeliveryNote && l.FromLineId is { } root && orders.TryGetValue(root, out var order)
                ? new Source(l.Id, root, order, DocumentKind.Order, l.Treatment)
                : new Source(l.Id, l.Id, l.DocumentId, l.Kind, l.Treatment)
        );
    }

    private async Task<List<Source>> ChargeSourcesAsync(List<int> ids, CancellationToken stop) =>
        ids.Count == 0
            ? []
            : await (
                from charge in db.Set<DocumentCharge>()
                join document in db.Documents on charge.DocumentId equals document.Id
                where ids.Contains(charge.Id)
                select new Source(charge.Id, charge.Id, charge.DocumentId, document.Kind, charge.Treatment)
            ).ToListAsync(stop);

    private async Task<(Dictionary<int, SharedLine> Lines, Dictionary<int, SharedDocument> Documents)> SharedAsync(
        List<Source> sources,
        int? documentId,
        CancellationToken stop
    )
    {
        if (sources.Count == 0)
            return ([], []);
        var ids = sources.Select(s => s.RootDocumentId).Distinct().ToList();
        var documents = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Where(d => ids.Contains(d.Id))
            .ToListAsync(stop);
        var found = await uses.OfAsync(
            [.. documents.SelectMany(d => d.Lines).Where(l => l.Counts).Select(l => l.Id)],
            documentId,
            stop
        );
        var lines = new Dictionary<int, SharedLine>();
        foreach (var source in sources.Where(s => found.ContainsKey(s.RootId)))
        {
            var (line, use) = (found[source.RootId].Line, found[source.RootId].Left);
            lines[source.Id] = KindPolicy.Of(source.Kind).Posts
                ? new SharedLine(
                    source.RootDocumentId,
                    line.Id,
                    line.Quantity,
                    line.UnitPrice,
                    line.Amount,
                    line.Base - use.Cheaper,
                    use.Credited,
                    use.CreditedByQuantity
                )
                : new SharedLine(
                    source.RootDocumentId,
                    line.Id,
                    line.Quantity,
                    line.UnitPrice,
                    line.Amount,
                    line.Base,
                    use.Ordered + use.Billed,
                    use.OrderedAmount + use.BilledByQuantity
                );
        }

        bool Untouched(LineUse use) => use is { Ordered: 0, Billed: 0, Staged: 0, Credited: 0, Cheaper: 0 };
        var delivered = sources.Where(s => s.Id != s.RootId).Select(s => s.RootDocumentId).ToHashSet();
        return (
            lines,
            documents.ToDictionary(
                d => d.Id,
                d => new SharedDocument(
                    d.DiscountPercent,
                    d.DiscountAmount,
                    d.Lines.Where(l => l.Counts).ToDictionary(l => l.Id, l => l.Quantity),
                    !delivered.Contains(d.Id) && d.Lines.Where(l => l.Counts).All(l => Untouched(found[l.Id].Left))
                )
            )
        );
    }

    /// <summary>
    /// Of documents that were billed: which group each line and charge was taxed in, and what other documents took back
    /// of it.
    /// </summary>
    private async Task<(Dictionary<int, TakenBack> Lines, Dictionary<int, TakenBack> Charges)> TakenBackAsync(
        List<int> ids,
        int? documentId,
        CancellationToken stop
    )
    {
        var (ofLines, ofCharges) = (new Dictionary<int, TakenBack>(), new Dictionary<int, TakenBack>());
        if (ids.Count == 0)
            return (ofLines, ofCharges);
        var sources = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Charges)
            .Where(d => ids.Contains(d.Id))
            .ToListAsync(stop);
        var taken = await TakersAsync(sources, documentId, stop);
        foreach (var source in sources)
        {
            var (lines, charges) = (
                source.Lines.OrderBy(l => l.Position).ToList(),
                source.Charges.OrderBy(c => c.Position).ToList()
            );
            foreach (var (group, n) in source.Recompute().Groups.Select((g, n) => (g, n)))
            {
                var name = $"{source.Id}.{n}";
                var before = taken.Where(t => t.Group.TakesBack?.Group == name).ToList();
                var taxes = group.Totals.Taxes.Select(t => t.Tax).ToList();
                var back = new TakenBack(
                    name,
                    group.Base,
                    taxes,
                    before.Sum(t => t.Sign * t.Group.Base),
                    [.. taxes.Select((_, i) => before.Sum(t => t.Sign * t.Group.Totals.Taxes[i].Tax))]
                );
                foreach (var line in group.Lines)
                    ofLines[lines[line].Id] = back;
                foreach (var charge in group.Charges)
                    ofCharges[charges[charge].Id] = back;
            }
        }

        return (ofLines, ofCharges);
    }

    private async Task<List<(TaxedGroup Group, int Sign)>> TakersAsync(
        List<Document> sources,
        int? documentId,
        CancellationToken stop
    )
    {
        var lines = sources.SelectMany(s => s.Lines).Select(l => l.Id).ToList();
        var charges = sources.SelectMany(s => s.Charges).Select(c => c.Id).ToList();
        var takers = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Charges)
            .Where(d =>
                d.State != DocumentState.Cancelled
                && d.Id != (documentId ?? 0)
                && (d.Kind == DocumentKind.CreditNote || d.Kind == DocumentKind.Invoice)
                && (
                    d.Lines.Any(l => l.FromLineId != null && lines.Contains(l.FromLineId.Value))
                    || d.Charges.Any(c => c.FromChargeId != null && charges.Contains(c.FromChargeId.Value))
                )
            )
            .ToListAsync(stop);
        return
        [
            .. from taker in takers
            from taxed in taker.Recompute().Groups
            where taxed.TakesBack is not null
            select (taxed, taker.Kind == DocumentKind.Invoice ? -1 : 1),
        ];
    }

    /// <summary>
    /// What other orders and invoices billed of quotes and orders, by line and charge, with what was credited of it
    /// since.
    /// </summary>
    private async Task<List<EarlierPart>> EarlierAsync(List<int> sources, int? documentId, CancellationToken stop)
    {
        if (sources.Count == 0)
            return [];
        var parts =
            from line in db.Set<DocumentLine>()
            join document in db.Documents on line.DocumentId equals document.Id
            where
                (line.Role == LineRole.Stage || line.Role == LineRole.Item)
                && (document.Kind == DocumentKind.Invoice || document.Kind == DocumentKind.Order)
                && document.State != DocumentState.Cancelled
                && document.Id != (documentId ?? 0)
            select line;
        var direct =
            from line in parts
            join source in db.Set<DocumentLine>() on line.FromLineId equals source.Id
            where sources.Contains(source.DocumentId)
            select new
            {
                Part = line,
                SourceId = source.DocumentId,
                LineId = source.Id,
            };
        var through =
            from line in parts
            join note in db.Set<DocumentLine>() on line.FromLineId equals note.Id
            join delivery in db.Documents on note.DocumentId equals delivery.Id
            join source in db.Set<DocumentLine>() on note.FromLineId equals source.Id
            where delivery.Kind == DocumentKind.DeliveryNote && sources.Contains(source.DocumentId)
            select new
            {
                Part = line,
                SourceId = source.DocumentId,
                LineId = source.Id,
            };
        var lines = (await direct.AsNoTracking().ToListAsync(stop))
            .Concat(await through.AsNoTracking().ToListAsync(stop))
            .ToList();
        var staged = await (
            from line in parts
            join source in db.Set<DocumentCharge>() on line.FromChargeId equals source.Id
            where sources.Contains(source.DocumentId)
            select new
            {
                Part = line,
                SourceId = source.DocumentId,
                ChargeId = source.Id,
            }
        )
            .AsNoTracking()
            .ToListAsync(stop);
        var charges = await (
            from charge in db.Set<DocumentCharge>()
            join source in db.Set<DocumentCharge>() on charge.FromChargeId equals source.Id
            join document in db.Documents on charge.DocumentId equals document.Id
            where
                sources.Contains(source.DocumentId)
                && (document.Kind == DocumentKind.Invoice || document.Kind == DocumentKind.Order)
                && document.State != DocumentState.Cancelled
                && document.Id != (documentId ?? 0)
            select new
            {
                Part = charge,
                SourceId = source.DocumentId,
                ChargeId = source.Id,
            }
        )
            .AsNoTracking()
            .ToListAsync(stop);
        var credited = await CreditedAsync(
            [.. lines.Select(l => l.Part.Id), .. staged.Select(l => l.Part.Id)],
            [.. charges.Select(c => c.Part.Id)],
            stop
        );
        return
        [
            .. lines.Select(l => new EarlierPart(
                l.Part.DocumentId,
                l.SourceId,
                l.LineId,
                null,
                l.Part.Treatment,
                l.Part.Base,
                new BilledBefore(l.Part.Before, l.Part.TaxesBefore),
                credited.Lines.GetValueOrDefault(l.Part.Id)
            )),
            .. staged.Select(l => new EarlierPart(
                l.Part.DocumentId,
                l.SourceId,
                null,
                l.ChargeId,
                l.Part.Treatment,
                l.Part.Base,
                new BilledBefore(l.Part.Before, l.Part.TaxesBefore),
                credited.Lines.GetValueOrDefault(l.Part.Id)
            )),
            .. charges.Select(c => new EarlierPart(
                c.Part.DocumentId,
                c.SourceId,
                null,
                c.ChargeId,
                c.Part.Treatment,
                c.Part.Amount,
                BilledBefore.Nothing,
                credited.Charges.GetValueOrDefault(c.Part.Id)
            )),
        ];
    }

    private async Task<(Dictionary<int, long> Lines, Dictionary<int, long> Charges)> CreditedAsync(
        List<int> lines,
        List<int> charges,
        CancellationToken stop
    )
    {
        var credits = db.Documents.Where(d =>
            d.Kind == DocumentKind.CreditNote && (d.State == DocumentState.Issued || d.State == DocumentState.Settled)
        );
        var ofLines = await (
            from line in db.Set<DocumentLine>()
            join credit in credits on line.DocumentId equals credit.Id
            where line.FromLineId != null && lines.Contains(line.FromLineId.Value) && line.Shares
            group line.Base by line.FromLineId!.Value into same
            select new { same.Key, Sum = same.Sum() }
        ).ToDictionaryAsync(s => s.Key, s => s.Sum, stop);
        var ofCharges = await (
            from charge in db.Set<DocumentCharge>()
            join credit in credits on charge.DocumentId equals credit.Id
            where charge.FromChargeId != null && charges.Contains(charge.FromChargeId.Value)
            group charge.Amount by charge.FromChargeId!.Value into same
            select new { same.Key, Sum = same.Sum() }
        ).ToDictionaryAsync(s => s.Key, s => s.Sum, stop);
        return (ofLines, ofCharges);
    }
}
