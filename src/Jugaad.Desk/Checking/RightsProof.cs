using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lines;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Nothing was ordered, delivered, billed, taken off or credited beyond what there was; and what is settled has nothing
/// left.
/// </summary>
internal sealed class RightsProof(BooksContext db, LineUses uses) : IProof
{
    private const int Batch = 200;

    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var last = 0;
        long lines = 0;
        while (true)
        {
            var batch = await db
                .Documents.Where(d =>
                    d.Id > last
                    && d.Number != null
                    && d.State != DocumentState.Draft
                    && (
                        db.Documents.Any(m => m.FromDocumentId == d.Id)
                        || d.Lines.Any(l => db.Set<DocumentLine>().Any(m => m.FromLineId == l.Id))
                        || d.Kind == DocumentKind.Order
                        || d.Kind == DocumentKind.DeliveryNote
                    )
                )
                .OrderBy(d => d.Id)
                .Take(Batch)
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .ToListAsync(stop);
            if (batch.Count == 0)
                break;
            var found = await uses.OfAsync(
                [.. batch.SelectMany(d => d.Lines).Where(l => l.Counts).Select(l => l.Id)],
                null,
                stop
            );
            foreach (var document in batch)
            {
                foreach (var line in document.Lines.Where(l => l.Counts))
                    Line(findings, document, line, found[line.Id].Left);
                lines += document.Lines.Count;
                State(findings, document, found);
            }

            await ChargesAsync(findings, batch, stop);
            last = batch[^1].Id;
        }

        findings.Count("lines that others were made from", lines);
        await WaysAsync(findings, stop);
    }

    private static void Line(Findings findings, Document document, DocumentLine line, LineUse use)
    {
        var what = $"{document.Number}, “{line.Text.Split('\n')[0]}”";
        bool Within(decimal part, decimal whole) => whole < 0 ? part <= 0 && part >= whole : part >= 0 && part <= whole;
        findings.Unless(
            Within(use.Ordered + use.Billed, line.Quantity),
            $"{what}: more of it was billed or ordered than there is"
        );
        findings.Unless(
            document.Kind == DocumentKind.Quote || Within(use.Delivered, line.Quantity),
            $"{what}: more of it was delivered than ordered"
        );
        findings.Unless(Within(use.Staged, line.Base), $"{what}: stages bill more than it comes to");
        findings.Unless(
            use.Staged == 0 || use.Billed + use.Ordered == 0,
            $"{what}: is billed in stages and by quantity"
        );
        if (!document.Policy.Posts)
            return;
        findings.Unless(Within(use.Credited, line.Quantity), $"{what}: more of it was credited than billed");
        findings.Unless(
            Within(use.CreditedByQuantity + use.Cheaper, line.Base),
            $"{what}: more was credited of it than it came to"
        );
        findings.Unless(
            Within(use.Deducted + use.CreditedByQuantity + use.Cheaper, line.Base),
            $"{what}: more was taken off of it than it came to"
        );
    }

    private static void State(Findings findings, Document document, IReadOnlyDictionary<int, SourceLine> found)
    {
        if (
            document.Kind is not (DocumentKind.Order or DocumentKind.DeliveryNote)
            || document.State is not (DocumentState.Issued or DocumentState.Settled)
        )
            return;
        var left = document
            .Lines.Where(l => l.Counts)
            .Any(l =>
                found[l.Id].Left is var use
                && (
                    (document.Kind == DocumentKind.Order && use.LeftToDeliver != 0)
                    || (use.InStages ? use.LeftToStage != 0 : use.LeftToBill != 0)
                )
            );
        // A note whose order was billed before it has nothing left from its first day; only what is billed of it
        // settles it.
        var right = left
            ? document.State == DocumentState.Issued
            : document.State == DocumentState.Settled || document.Kind == DocumentKind.DeliveryNote;
        findings.Unless(
            right,
            $"{document.Number}: its state is {document.State}, and something of it is {(left ? "still left" : "not left any more")}"
        );
    }

    private async Task ChargesAsync(Findings findings, List<Document> batch, CancellationToken stop)
    {
        var charges = batch
            .SelectMany(d => d.Charges.Select(c => (d.Number, Charge: c)))
            .ToDictionary(c => c.Charge.Id);
        var ids = charges.Keys.ToList();
        if (ids.Count == 0)
            return;
        var made = (
            await (
                from charge in db.Set<DocumentCharge>()
                join other in db.Documents on charge.DocumentId equals other.Id
                where
                    charge.FromChargeId != null
                    && ids.Contains(charge.FromChargeId.Value)
                    && other.State != DocumentState.Cancelled
                select new
                {
                    From = charge.FromChargeId!.Value,
                    other.Kind,
                    charge.Amount,
                }
            ).ToListAsync(stop)
        ).Concat(
            await (
                from line in db.Set<DocumentLine>()
                join other in db.Documents on line.DocumentId equals other.Id
                where
                    line.FromChargeId != null
                    && ids.Contains(line.FromChargeId.Value)
                    && other.State != DocumentState.Cancelled
                select new
                {
                    From = line.FromChargeId!.Value,
                    other.Kind,
                    line.Amount,
                }
            ).ToListAsync(stop)
        );
        foreach (var group in made.GroupBy(m => (m.From, m.Kind)))
        {
            var (number, charge) = charges[group.Key.From];
            var sum = group.Sum(m => m.Amount);
            findings.Unless(
                charge.Amount < 0 ? sum <= 0 && sum >= charge.Amount : sum >= 0 && sum <= charge.Amount,
                $"{number}, “{charge.Text}”: more of it went onto other documents than it is"
            );
        }
    }

    /// <summary>
    /// What was made from a line is of the same customer and currency, and of a kind that is made from such a one.
    /// </summary>
    private async Task WaysAsync(Findings findings, CancellationToken stop)
    {
        var wrong = await (
            from line in db.Set<DocumentLine>()
            join document in db.Documents on line.DocumentId equals document.Id
            where line.FromLineId != null && document.State != DocumentState.Cancelled
            join source in db.Set<DocumentLine>() on line.FromLineId equals source.Id into there
            from source in there.DefaultIfEmpty()
            join of in db.Documents on source.DocumentId equals of.Id into whole
            from of in whole.DefaultIfEmpty()
            where
                source == null
                || of.CustomerId != document.CustomerId
                || of.Currency != document.Currency
                || of.PricesIncludeTax != document.PricesIncludeTax
            select document.Number ?? "A draft"
        )
            .Distinct()
            .ToListAsync(stop);
        findings.AddRange(wrong.Select(n => $"{n}: a line was made from what is not there, or another customer's"));
        var kinds = await (
            from line in db.Set<DocumentLine>()
            join document in db.Documents on line.DocumentId equals document.Id
            join source in db.Set<DocumentLine>() on line.FromLineId equals source.Id
            join of in db.Documents on source.DocumentId equals of.Id
            where document.State != DocumentState.Cancelled
            select new
            {
                document.Number,
                From = of.Kind,
                To = document.Kind,
                line.Role,
                Source = source.Role,
            }
        )
            .Distinct()
            .ToListAsync(stop);
        findings.AddRange(
            kinds
                .Where(k =>
                    !LineLinks.Ways.Contains((k.From, k.To))
                    || (k.Role == LineRole.Deduction && k.To == DocumentKind.Invoice && k.Source != LineRole.Deposit)
                )
                .Select(k =>
                    $"{k.Number ?? "A draft"}: {KindPolicy.Of(k.To).AWord} is not made from {KindPolicy.Of(k.From).AWord} in this way"
                )
        );
    }
}
