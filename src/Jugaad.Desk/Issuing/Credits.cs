using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Stock;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>
/// Puts an issued invoice right: a credit note over some or all of it, or cancelling it with one over all of it.
/// </summary>
public sealed class Credits(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Drafts drafts,
    LineUses uses,
    LineLinks links,
    IssuingDesk issuing,
    Receipts receipts,
    Completion completion,
    StockKeeping stock,
    Wordings wordings
)
{
    /// <summary>
    /// Makes a draft credit note of all that is not credited yet; it is cut down in the editor where only a part is
    /// meant.
    /// </summary>
    /// <returns>The draft's id; that of a draft already begun, where there is one.</returns>
    public Task<int> DraftAsync(int id, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                if (
                    await db
                        .Documents.Where(d =>
                            d.FromDocumentId == id
                            && d.Kind == DocumentKind.CreditNote
                            && d.State == DocumentState.Draft
                        )
                        .Select(d => (int?)d.Id)
                        .FirstOrDefaultAsync(stop) is
                    { } begun
                )
                    return begun;
                return (await MakeAsync(await InvoiceAsync(id, stop), reason, stop)).Id;
            }
        );

    /// <summary>Makes an empty draft debit note on an invoice: what more is asked for is typed in the editor.</summary>
    /// <returns>The draft's id.</returns>
    public Task<int> DebitAsync(int id, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var invoice = await InvoiceAsync(id, stop);
                var content = invoice.Content().On(await head.TodayAsync(stop)) with
                {
                    DiscountPercent = null,
                    DiscountAmount = null,
                    CashStep = null,
                    PaidExactly = 0,
                    Note = await wordings.NoteAsync(
                        DocumentKind.DebitNote,
                        invoice.CustomerId,
                        invoice.Particulars.Language,
                        stop
                    ),
                    PrivateNote = "",
                    Particulars = invoice.Particulars with
                    {
                        Opening = "",
                        Reason = reason,
                        Corrects = invoice.Number!,
                    },
                    Lines = [],
                    Charges = [],
                };
                var made = await drafts.MakeAsync(
                    DocumentKind.DebitNote,
                    content,
                    invoice.Id,
                    $"Draft debit note made on {invoice.Title}",
                    stop
                );
                await writer.TrailAsync("Draft debit note made", null, invoice.Id);
                return made.Id;
            }
        );

    /// <summary>
    /// Cancels an invoice: a credit note over all of it is issued and set against it. What was paid on it becomes the
    /// customer's credit again.
    /// </summary>
    /// <returns>The credit note's id.</returns>
    /// <exception cref="RefusalException">When some of it is credited already, or no reason is given.</exception>
    public Task<int> CancelAsync(int id, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Issue,
            once,
            async stop =>
            {
                var invoice = await InvoiceAsync(id, stop);
                if (
                    await db.Documents.AnyAsync(
                        d =>
                            d.FromDocumentId == id
                            && d.Kind == DocumentKind.CreditNote
                            && d.State != DocumentState.Cancelled,
                        stop
                    )
                )
                    throw new RefusalException(
                        "",
                        $"There is a credit note on {invoice.Number} already, so it cannot be cancelled as a whole. Credit the rest instead."
                    );
                var lineIds = invoice.Lines.Select(l => l.Id).ToList();
                var deductions = await (
                    from line in db.Set<DocumentLine>()
                    join other in db.Documents on line.DocumentId equals other.Id
                    where
                        line.Role == LineRole.Deduction
                        && other.State != DocumentState.Cancelled
                        && lineIds.Contains(line.FromLineId ?? 0)
                        && other.Kind == DocumentKind.Invoice
                    select other.Number ?? "a draft"
                ).FirstOrDefaultAsync(stop);
                if (deductions is not null)
                    throw new RefusalException(
                        "",
                        $"This deposit is taken off on {deductions} already. Cancel that one first."
                    );
                // What the invoice itself moved comes back; what was delivered apart from it stays delivered.
                var note = await MakeAsync(invoice, reason, stop, goodsStay: true);
                if (note.Payable != invoice.Payable)
                    throw new RefusalException(
                        "",
                        $"The credit note would come to {new Core.Amounts.Money(note.Payable, note.Currency)} and {invoice.Number} to {new Core.Amounts.Money(invoice.Payable, note.Currency)}. Make a credit note of the lines instead."
                    );
                foreach (
                    var paid in await db
                        .Allocations.Where(a => a.Raising.DocumentId == id)
                        .Select(a => a.Id)
                        .ToListAsync(stop)
                )
                    await receipts.TakeAwayAsync(paid, stop);
                await issuing.IssueAsync(note.Id, note.Version, null, stop);
                await SetAgainstAsync(note, stop);
                await stock.TakeBackAsync(invoice, stop);
                invoice.Cancel();
                await completion.FollowAsync(invoice, stop);
                await writer.TrailAsync(
                    $"Invoice {invoice.Number} cancelled by {note.Number}: {reason.Trim()}",
                    null,
                    id
                );
                return note.Id;
            }
        );

    /// <summary>Makes a draft credit note of some quantities, within a use case of its own.</summary>
    /// <param name="quantities">What comes back, by the id of the invoice's line.</param>
    /// <param name="cashStep">The step to which what is paid back in cash is rounded; null where it is paid back
    /// exactly.</param>
    /// <exception cref="RefusalException">When more comes back than was sold and not credited yet, by
    /// <c>back[lineId]</c>.</exception>
    internal async Task<Document> PartAsync(
        int id,
        IReadOnlyDictionary<int, decimal> quantities,
        string reason,
        bool goodsStay,
        long? cashStep,
        CancellationToken stop
    )
    {
        var invoice = await InvoiceAsync(id, stop);
        var ordered = invoice.Lines.Where(l => quantities.ContainsKey(l.Id)).OrderBy(l => l.Position).ToList();
        var found = await uses.OfAsync(ordered.ConvertAll(l => l.Id), null, stop);
        var refusals = new Refusals();
        var format = (await head.BusinessAsync(stop)).Format;
        foreach (var line in ordered)
        {
            var (back, left) = (quantities[line.Id], found[line.Id].Left.LeftToCredit);
            if (
                !line.Counts
                || back == 0
                || Math.Sign(back) != Math.Sign(line.Quantity)
                || Math.Abs(back) > Math.Abs(left)
            )
                refusals.Add(
                    $"back[{line.Id}]",
                    $"{format.Figure(left)} of “{line.Text.Split('\n')[0]}” can come back. Give at most that."
                );
        }

        if (ordered.Count != quantities.Count || ordered.Count == 0)
            refusals.Add("", $"Say how many of what comes back from {invoice.Number}.");
        refusals.ThrowIfAny();
        return await KeepAsync(
            invoice,
            ordered.ConvertAll(l => MakingDesk.PartOf(l, quantities[l.Id])),
            [],
            reason,
            goodsStay,
            cashStep,
            0,
            stop
        );
    }

    private async Task<Document> InvoiceAsync(int id, CancellationToken stop)
    {
        var invoice = await drafts.LoadAsync(id, stop);
        if (invoice.Kind is not (DocumentKind.Invoice or DocumentKind.DebitNote))
            throw new RefusalException(
                "",
                $"{invoice.Policy.ACapitalWord} is not credited. Only an invoice or a debit note is."
            );
        if (invoice.State is not (DocumentState.Issued or DocumentState.Settled))
            throw new RefusalException(
                "",
                $"The {invoice.Title} is {(invoice.IsDraft ? "still a draft: change it, or put it away" : "cancelled already")}."
            );
        return invoice;
    }

    /// <summary>
    /// Each line as it was, taxed as it was; the discount of the document with it where all of it is credited.
    /// </summary>
    private async Task<Document> MakeAsync(
        Document invoice,
        string reason,
        CancellationToken stop,
        bool goodsStay = false
    )
    {
        var ordered = invoice.Lines.OrderBy(l => l.Position).ToList();
        var found = await uses.OfAsync(ordered.ConvertAll(l => l.Id), null, stop);
        var charges = await links.ChargesLeftAsync(
            [.. invoice.Charges.Select(c => c.Id)],
            DocumentKind.CreditNote,
            null,
            stop
        );
        var lines = ordered
            .Where(l => !l.Role.HasFigures() || (l.Counts && found[l.Id].Left.LeftToCredit != 0))
            .Select(l => !l.Role.HasFigures() ? l.Typed() : MakingDesk.PartOf(l, found[l.Id].Left.LeftToCredit))
            .ToList();
        if (!lines.Exists(l => l.Role.HasFigures()))
            throw new RefusalException("", $"All of {invoice.Number} is credited already.");
        return await KeepAsync(
            invoice,
            lines,
            [
                .. invoice
                    .Charges.OrderBy(c => c.Position)
                    .Where(c => charges[c.Id] != 0)
                    .Select(c => c.Typed() with { FromChargeId = c.Id, Amount = charges[c.Id] }),
            ],
            reason,
            goodsStay,
            invoice.CashStep,
            invoice.PaidExactly,
            stop
        );
    }

    private async Task<Document> KeepAsync(
        Document invoice,
        List<DraftLine> lines,
        List<DraftCharge> charges,
        string reason,
        bool goodsStay,
        long? cashStep,
        long paidExactly,
        CancellationToken stop
    )
    {
        var today = await head.TodayAsync(stop);
        var content = invoice.Content().On(today < invoice.Date ? invoice.Date : today) with
        {
            TaxDate = invoice.TaxDate,
            CashStep = cashStep,
            PaidExactly = paidExactly,
            Note = await wordings.NoteAsync(
                DocumentKind.CreditNote,
                invoice.CustomerId,
                invoice.Particulars.Language,
                stop
            ),
            PrivateNote = "",
            Particulars = invoice.Particulars with
            {
                Opening = "",
                Reason = reason,
                Corrects = invoice.Number!,
                GoodsStay = goodsStay,
            },
            Lines = lines,
            Charges = charges,
        };
        var made = await drafts.MakeAsync(
            DocumentKind.CreditNote,
            content,
            invoice.Id,
            $"Draft credit note made from {invoice.Title}",
            stop
        );
        await writer.TrailAsync("Draft credit note made", null, invoice.Id);
        return made;
    }

    /// <summary>
    /// Sets an issued credit note against the invoice that it corrects, as far as that is open; the rest is the
    /// customer's credit.
    /// </summary>
    public async Task SetAgainstAsync(Document credit, CancellationToken stop = default)
    {
        var corrected = credit.FromDocumentId ?? 0;
        await writer.WriteAsync(
            Right.Money,
            stop,
            async () =>
            {
                await writer.SaveAsync(stop);
                var lowering = await db.AccountItems.SingleAsync(i => i.DocumentId == credit.Id, stop);
                var raising = await db.AccountItems.SingleOrDefaultAsync(
                    i => i.DocumentId == corrected && i.Sign > 0,
                    stop
                );
                var amount = Math.Min(lowering.Open, raising?.Open ?? 0);
                if (amount > 0)
                    await receipts.SetAgainstAsync(lowering.Id, raising!.Id, amount, stop);
                return credit.Id;
            }
        );
    }
}
