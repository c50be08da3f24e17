using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Lines;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Making;

/// <summary>
/// Makes orders, delivery notes and invoices from quotes and orders: whatever is left, as a draft on today's date, each
/// line tied to the one that it was made from.
/// </summary>
public sealed class MakingDesk(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Drafts drafts,
    LineUses uses,
    LineLinks links,
    Deposits deposits
)
{
    /// <summary>An order of what is left of a quote. A quote that waits counts as accepted.</summary>
    /// <returns>The draft's id; that of a draft already begun, where there is one.</returns>
    public Task<int> OrderAsync(int id, Once once = default) =>
        MakeAsync(id, DocumentKind.Order, u => u.LeftToOrder, once);

    /// <summary>A delivery note of what is still owed to the customer.</summary>
    /// <inheritdoc cref="OrderAsync"/>
    public Task<int> DeliveryAsync(int id, Once once = default) =>
        MakeAsync(id, DocumentKind.DeliveryNote, u => u.LeftToDeliver, once);

    /// <summary>An invoice of what is left to bill of a quote or an order; deposits are taken off.</summary>
    /// <inheritdoc cref="OrderAsync"/>
    public Task<int> InvoiceAsync(int id, Once once = default) =>
        MakeAsync(id, DocumentKind.Invoice, u => u.LeftToBill, once);

    private Task<int> MakeAsync(int id, DocumentKind kind, Func<LineUse, decimal> left, Once once) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var source = await drafts.LoadAsync(id, stop);
                if (source.IsDraft)
                    throw new RefusalException(
                        "",
                        $"This {source.Policy.Word} is still a draft. {(source.Kind == DocumentKind.Quote ? "Send it, or issue it," : "Issue it")} first."
                    );
                if (source.Kind == DocumentKind.DeliveryNote)
                    throw new RefusalException("", "A delivery note is billed from the list of deliveries to bill.");
                // A deposit is a draft of its own and does not stand in the way.
                if (
                    await db
                        .Documents.Where(d =>
                            d.FromDocumentId == id
                            && d.Kind == kind
                            && d.State == DocumentState.Draft
                            && !d.Lines.Any(l => l.Role == LineRole.Deposit)
                        )
                        .Select(d => (int?)d.Id)
                        .FirstOrDefaultAsync(stop) is
                    { } begun
                )
                    return begun;
                await AcceptedAsync(source, stop);
                if (!source.CanBeMadeFrom)
                    throw new RefusalException("", NotFrom(source));
                if (source.ClosedOn is not null)
                    throw new RefusalException("", $"The rest of the {source.Title} is closed. Open it again first.");
                var lines = await LinesAsync(source, left, stop);
                if (!lines.Exists(l => l.Role.HasFigures()))
                    throw new RefusalException("", NothingLeft(source, kind));
                // A note that goes with goods has no money on it; what the order gives off comes back when it is
                // billed.
                var note = kind == DocumentKind.DeliveryNote;
                if (note)
                    lines = lines.ConvertAll(l => l with { DiscountAmount = null });
                var content = source.Content().On(await head.TodayAsync(stop)) with
                {
                    DiscountPercent = note ? null : source.DiscountPercent,
                    DiscountAmount = note ? null : source.DiscountAmount,
                    Lines = lines,
                    Charges = note ? [] : await ChargesAsync(source, kind, stop),
                };
                if (kind == DocumentKind.Invoice)
                    content = content with
                    {
                        Lines = [.. lines, .. await deposits.TakeOffAsync([source.Id], content, stop)],
                    };
                var word = KindPolicy.Of(kind).Word;
                var made = await drafts.MakeAsync(
                    kind,
                    content,
                    id,
                    $"Draft {word} made from {source.Title}",
                    stop,
                    source.Lines
                );
                await writer.TrailAsync($"Draft {word} made", null, id);
                return made.Id;
            }
        );

    /// <summary>A quote that waits counts as accepted once something is made from it.</summary>
    internal async Task AcceptedAsync(Document source, CancellationToken stop)
    {
        if (
            source.Kind != DocumentKind.Quote
            || source.State is not (DocumentState.Sent or DocumentState.Lapsed)
            || source.IsReplaced
        )
            return;
        source.Answer(true, await head.TodayAsync(stop), "");
        await writer.SaveAsync(stop);
        await writer.TrailAsync($"Quote {source.Number} accepted", source.CustomerId, source.Id);
    }

    internal static string NotFrom(Document source) =>
        source.Kind == DocumentKind.Quote
            ? source.IsReplaced
                ? "This quote was replaced by a revision. Go on from that one."
                : "This quote was declined. Take the answer back first."
            : $"Nothing can be made from the {source.Title}: it is {source.State.ToString().ToLowerInvariant()}.";

    private static string NothingLeft(Document source, DocumentKind kind) =>
        kind switch
        {
            DocumentKind.DeliveryNote => $"All of the {source.Title} is delivered.",
            DocumentKind.Order => $"All of the {source.Title} is ordered or billed already.",
            _ =>
                $"Nothing of the {source.Title} is left to bill by quantity. If it is billed in stages, go on with a stage.",
        };

    /// <summary>The lines with what is left of each; words go along with the first that has something left.</summary>
    private async Task<List<DraftLine>> LinesAsync(Document source, Func<LineUse, decimal> left, CancellationToken stop)
    {
        var all = source.Lines.OrderBy(l => l.Position).ToList();
        var found = await uses.OfAsync(all.ConvertAll(l => l.Id), null, stop);
        var account = (await head.BusinessAsync(stop)).DefaultLedgerAccountId ?? 0;
        var made = new List<DraftLine>();
        foreach (var line in all)
        {
            if (!line.Role.HasFigures())
            {
                made.Add(line.Typed());
                continue;
            }

            if (!line.Counts)
                continue;
            var quantity = left(found[line.Id].Left);
            if (quantity != 0)
                made.Add(
                    PartOf(line, quantity) with
                    {
                        LedgerAccountId = line.LedgerAccountId == 0 ? account : line.LedgerAccountId,
                    }
                );
        }

        return made;
    }

    /// <summary>A part of a line by quantity, which comes to its share of it.</summary>
    internal static DraftLine PartOf(DocumentLine line, decimal quantity) =>
        line.Typed() with
        {
            Quantity = quantity,
            FromLineId = line.Id,
            FromChargeId = null,
            Choice = LineChoice.Firm,
            Chosen = false,
            Shares = true,
        };

    internal async Task<List<DraftCharge>> ChargesAsync(Document source, DocumentKind kind, CancellationToken stop)
    {
        var left = await links.ChargesLeftAsync([.. source.Charges.Select(c => c.Id)], kind, null, stop);
        return source
            .Charges.OrderBy(c => c.Position)
            .Where(c => left[c.Id] != 0)
            .Select(c => c.Typed() with { FromChargeId = c.Id, Amount = left[c.Id] })
            .ToList();
    }
}
