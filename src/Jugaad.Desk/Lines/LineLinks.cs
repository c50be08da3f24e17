using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Lines;

/// <summary>Refuses a document whose lines take more of what they were made from than is left there.</summary>
public sealed class LineLinks(BooksContext db, LineUses uses, BooksHead head)
{
    internal static readonly (DocumentKind From, DocumentKind To)[] Ways =
    [
        (DocumentKind.Quote, DocumentKind.Order),
        (DocumentKind.Quote, DocumentKind.Invoice),
        (DocumentKind.Order, DocumentKind.DeliveryNote),
        (DocumentKind.Order, DocumentKind.Invoice),
        (DocumentKind.DeliveryNote, DocumentKind.Invoice),
        (DocumentKind.Invoice, DocumentKind.CreditNote),
        (DocumentKind.DebitNote, DocumentKind.CreditNote),
        (DocumentKind.Invoice, DocumentKind.Invoice),
    ];

    /// <param name="id">The document's own id, whose lines as they are kept do not count; null where it is not kept
    /// yet.</param>
    /// <exception cref="RefusalException">With each line that does not fit, and what is left.</exception>
    public async Task MustFitAsync(Document document, int? id, CancellationToken stop = default)
    {
        var lines = document
            .Lines.Where(l => l.FromLineId is not null && l.Role.HasFigures())
            .OrderBy(l => l.Position)
            .ToList();
        var refusals = new Refusals();
        if (lines.Count > 0)
        {
            var sources = await uses.OfAsync([.. lines.Select(l => l.FromLineId!.Value)], id, stop);
            var format = (await head.BusinessAsync(stop)).Format;
            foreach (var same in lines.GroupBy(l => l.FromLineId!.Value))
            {
                var last = same.Last();
                if (!sources.TryGetValue(same.Key, out var source))
                    refusals.Add(
                        $"lines[{last.Position}].text",
                        "What this line was made from is not there any more. Remove the line, or type it anew."
                    );
                else if (Wrong(document, source) is { } wrong)
                    refusals.Add($"lines[{last.Position}].text", wrong);
                else if (TooMuch(source, [.. same], document.Kind, format) is { } tooMuch)
                    refusals.Add(
                        $"lines[{last.Position}].{(last.Role.ByAmount() ? "unitPrice" : "quantity")}",
                        tooMuch
                    );
            }
        }

        if (document.Kind == DocumentKind.CreditNote)
            await CorrectionAsync(document, refusals, stop);
        await ChargesAsync(document, id, refusals, stop);
        refusals.ThrowIfAny();
    }

    /// <summary>A correction takes back only what was billed, and of no tax more than it came to.</summary>
    private async Task CorrectionAsync(Document credit, Refusals refusals, CancellationToken stop)
    {
        if (credit.FromDocumentId is not { } corrected)
            return;
        var number = await db.Documents.Where(d => d.Id == corrected).Select(d => d.Number).SingleAsync(stop);
        foreach (var line in credit.Lines.Where(l => l.Counts && l.FromLineId is null).OrderBy(l => l.Position))
            refusals.Add(
                $"lines[{line.Position}].text",
                $"This was never billed on {number}, so it is no part of its correction. Remove the line, and make a credit note of its own for it."
            );
        foreach (var charge in credit.Charges.Where(c => c.FromChargeId is null).OrderBy(c => c.Position))
            refusals.Add(
                $"charges[{charge.Position}].text",
                $"This was never billed on {number}, so it is no part of its correction. Remove it, and make a credit note of its own for it."
            );
        if (refusals.Any || credit.Lines.Count == 0)
            return;
        var format = (await head.BusinessAsync(stop)).Format;
        foreach (var group in credit.Recompute().Groups.Where(g => g.TakesBack is not null))
        {
            if (Fits(group.Base, group.TakesBack!.Left))
                continue;
            var rates = group.Totals.Treatment.Rates;
            refusals.Add(
                "lines",
                $"{format.WithCode(group.Base, credit.Currency)} taxed {rates} is more than the {format.WithCode(group.TakesBack.Left, credit.Currency)} that is left of what {number} billed with that tax. Credit at most that."
            );
        }
    }

    private static string? Wrong(Document document, SourceLine source)
    {
        var from = source.Document;
        if (!Ways.Contains((from.Kind, document.Kind)))
            return $"{document.Policy.ACapitalWord} cannot be made from the {from.Title}. Remove this line.";
        if (from.CustomerId != document.CustomerId)
            return $"This was made from the {from.Title}, which is another customer's. Choose that customer again, or remove the line.";
        if (!from.Currency.Equals(document.Currency))
            return $"This was made from the {from.Title}, which is in {from.Currency}. Keep that currency, or remove the line.";
        if (from.ClosedOn is not null)
            return $"The rest of the {from.Title} is closed. Open it again on its page first.";
        if (from.Policy.Posts ? from.State is not (DocumentState.Issued or DocumentState.Settled) : !from.CanBeMadeFrom)
            return $"The {from.Title} is {StateWord(from)}, so nothing can be made from it now.";
        if (document.PricesIncludeTax != from.PricesIncludeTax)
            return $"The prices of the {from.Title} are {(from.PricesIncludeTax ? "with" : "without")} tax. Keep them so here.";
        return null;
    }

    private static string StateWord(Document document) =>
        document.IsReplaced ? "replaced by a revision" : document.State.ToString().ToLowerInvariant();

    private static string? TooMuch(
        SourceLine source,
        IReadOnlyList<DocumentLine> lines,
        DocumentKind kind,
        DisplayFormat format
    )
    {
        var (use, currency) = (source.Left, source.Document.Currency);
        string Text() => source.Line.Text.Split('\n')[0];
        if (lines[^1].Role == LineRole.Deduction && kind == DocumentKind.Invoice)
        {
            var (off, there) = (-lines.Sum(l => l.Amount), use.LeftToDeduct);
            return off <= there
                ? null
                : $"{format.WithCode(off, currency)} would be taken off, and {format.WithCode(there, currency)} of the deposit on {source.Document.Number} is left. Take off at most that.";
        }

        if (lines[^1].Role == LineRole.Stage && kind == DocumentKind.Invoice)
        {
            var (now, left) = (lines.Sum(l => l.Amount), use.LeftToStage);
            return Fits(now, left)
                ? null
                : $"{format.WithCode(now, currency)} is more than the {format.WithCode(left, currency)} that is left to bill of “{Text()}” on {source.Document.Number}. Bill at most that.";
        }

        if (kind == DocumentKind.CreditNote)
        {
            var (back, rest) = (lines.Sum(l => l.Base), use.LeftToCreditAmount);
            if (!Fits(back, rest))
                return $"{format.WithCode(back, currency)} is more than the {format.WithCode(rest, currency)} that is left to credit of “{Text()}” on {source.Document.Number}. Credit at most that.";
        }

        // What is only made cheaper gives no quantity back.
        var quantity =
            kind == DocumentKind.CreditNote
                ? lines.Where(l => l.Shares).Sum(l => l.Quantity)
                : lines.Sum(l => l.Quantity);
        if (
            kind == DocumentKind.CreditNote
            && lines.FirstOrDefault(l => !l.Shares && Math.Abs(l.Quantity) > Math.Abs(source.Line.Quantity)) is { } more
        )
            return $"{format.Figure(more.Quantity)} is more than the {format.Figure(source.Line.Quantity)} that was billed of “{Text()}” on {source.Document.Number}. Give at most that.";
        var (room, what) = kind switch
        {
            DocumentKind.Order => (use.LeftToOrder, "order"),
            DocumentKind.DeliveryNote => (use.LeftToDeliver, "deliver"),
            DocumentKind.CreditNote => (use.LeftToCredit, "credit"),
            _ => (use.LeftToBill, "bill"),
        };
        if (Fits(quantity, room))
            return null;
        return use.InStages && kind == DocumentKind.Invoice
            ? $"“{Text()}” on {source.Document.Number} is billed in stages. Go on with a stage."
            : $"{format.Figure(quantity)} is more than the {format.Figure(room)} that is left to {what} of “{Text()}” on {source.Document.Number}. Give at most {format.Figure(room)}.";
    }

    private static bool Fits(decimal now, decimal left) => left < 0 ? now <= 0 && now >= left : now >= 0 && now <= left;

    /// <summary>A charge goes over once; in stages, no more than it is.</summary>
    private async Task ChargesAsync(Document document, int? id, Refusals refusals, CancellationToken stop)
    {
        var left = await ChargesLeftAsync(
            [
                .. document
                    .Charges.Select(c => c.FromChargeId)
                    .Concat(document.Lines.Select(l => l.FromChargeId))
                    .OfType<int>(),
            ],
            document.Kind,
            id,
            stop
        );
        foreach (var charge in document.Charges.Where(c => c.FromChargeId is not null))
            if (!left.TryGetValue(charge.FromChargeId!.Value, out var room) || !Fits(charge.Amount, room))
                refusals.Add(
                    $"charges[{charge.Position}].amount",
                    $"{new Money(charge.Amount, document.Currency)} is more than the {new Money(room, document.Currency)} that is left of this charge. Give at most that."
                );
        foreach (var line in document.Lines.Where(l => l.FromChargeId is not null))
            if (!left.TryGetValue(line.FromChargeId!.Value, out var room) || !Fits(line.Amount, room))
                refusals.Add(
                    $"lines[{line.Position}].unitPrice",
                    $"{new Money(line.Amount, document.Currency)} is more than the {new Money(room, document.Currency)} that is left of this charge. Give at most that."
                );
    }

    /// <summary>What of each charge has not gone onto a document of that kind yet, in minor units.</summary>
    internal async Task<Dictionary<int, long>> ChargesLeftAsync(
        IReadOnlyCollection<int> ids,
        DocumentKind kind,
        int? except,
        CancellationToken stop
    )
    {
        if (ids.Count == 0)
            return [];
        var charges = await db.Set<DocumentCharge>()
            .Where(c => ids.Contains(c.Id))
            .ToDictionaryAsync(c => c.Id, c => c.Amount, stop);
        var made = await (
            from charge in db.Set<DocumentCharge>()
            join other in db.Documents on charge.DocumentId equals other.Id
            where
                charge.FromChargeId != null
                && ids.Contains(charge.FromChargeId.Value)
                && other.State != DocumentState.Cancelled
                && other.Id != (except ?? 0)
                && other.Kind == kind
            select new { From = charge.FromChargeId!.Value, charge.Amount }
        ).ToListAsync(stop);
        var staged = await (
            from line in db.Set<DocumentLine>()
            join other in db.Documents on line.DocumentId equals other.Id
            where
                line.FromChargeId != null
                && ids.Contains(line.FromChargeId.Value)
                && other.State != DocumentState.Cancelled
                && other.Id != (except ?? 0)
                && other.Kind == kind
            select new { From = line.FromChargeId!.Value, line.Amount }
        ).ToListAsync(stop);
        foreach (var use in made.Concat(staged))
            charges[use.From] -= use.Amount;
        return charges;
    }
}
