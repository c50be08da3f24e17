using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Selling;

/// <summary>What becomes of a quote after it was sent.</summary>
public sealed class Quotes(BooksContext db, BookWriter writer, BooksHead head, Drafts drafts, MastersLoader masters)
{
    public Task<int> AnswerAsync(int id, bool accepted, string note = "", string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Draft, formKey, async () =>
    {
        var quote = await drafts.LoadAsync(id, stop);
        quote.Answer(accepted, await head.TodayAsync(stop), note);
        await writer.TrailAsync($"Quote {quote.Number} {(accepted ? "accepted" : "declined")}{(note.Trim().Length > 0 ? $": {note.Trim()}" : "")}", quote.CustomerId, id);
        return id;
    }, stop);

    /// <summary>Takes the answer back.</summary>
    public Task<int> ReopenAsync(int id, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Draft, formKey, async () =>
    {
        var quote = await drafts.LoadAsync(id, stop);
        if (await MadeFrom(id).AnyAsync(stop)) throw new RefusalException("", "Something was made from this quote already. Put that draft away first.");
        quote.Reopen();
        await writer.TrailAsync($"Answer to quote {quote.Number} taken back", quote.CustomerId, id);
        return id;
    }, stop);

    /// <summary>
    /// Makes a draft invoice of a quote with its lines, computed afresh on today's date. A quote that waits counts as accepted.
    /// </summary>
    /// <returns>The draft's id; that of the one already made, where there is one.</returns>
    public Task<int> MakeInvoiceAsync(int id, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Draft, formKey, async () =>
    {
        var quote = await drafts.LoadAsync(id, stop);
        if (quote.Kind != DocumentKind.Quote) throw new RefusalException("", $"The {quote.Title} is not a quote, so no invoice can be made from it here.");
        if (quote.IsDraft) throw new RefusalException("", "This quote is still a draft. Send it, or issue it, first.");
        if (await MadeFrom(id).Select(d => (int?)d.Id).FirstOrDefaultAsync(stop) is { } already) return already;
        var today = await head.TodayAsync(stop);
        if (quote.State is DocumentState.Sent or DocumentState.Lapsed)
        {
            quote.Answer(true, today, "");
            await writer.TrailAsync($"Quote {quote.Number} accepted", quote.CustomerId, id);
        }

        if (quote.State != DocumentState.Accepted) throw new RefusalException("", "This quote was declined. Take the answer back first.");
        var business = await head.BusinessAsync(stop);
        var lineIds = quote.Lines.OrderBy(l => l.Position).Select(l => l.Id).ToList();
        var content = quote.Content();
        content = content with
        {
            Date = today,
            TaxDate = null,
            DueDate = null,
            ValidUntil = null,
            NumberByHand = "",
            Lines = content.Lines.Select((l, i) => l with { FromLineId = lineIds[i], LedgerAccountId = l.LedgerAccountId == 0 ? business.DefaultLedgerAccountId ?? 0 : l.LedgerAccountId }).ToList(),
        };
        var invoice = new Document(DocumentKind.Invoice, writer.Who, id);
        var found = await masters.ForAsync(content, stop);
        invoice.Rewrite(content with { ExchangeRate = await masters.RateAsync(found.Customer.Currency, today, stop) }, found);
        db.Documents.Add(invoice);
        await writer.SaveAsync(stop);
        await writer.TrailAsync($"Draft invoice made from quote {quote.Number}{RateChanges(quote, invoice)}", quote.CustomerId, invoice.Id, draftVersion: invoice.Version);
        await writer.TrailAsync("Draft invoice made", quote.CustomerId, id);
        return invoice.Id;
    }, stop);

    private IQueryable<Document> MadeFrom(int id) => db.Documents.Where(d => d.FromDocumentId == id && d.State != DocumentState.Cancelled);

    /// <summary>Where a rate is another on the new date, from what to what.</summary>
    private static string RateChanges(Document before, Document after)
    {
        var changes = before.Lines.OrderBy(l => l.Position).Zip(after.Lines.OrderBy(l => l.Position))
            .Where(p => p.First.Treatment != p.Second.Treatment)
            .Select(p => $"{p.First.TaxCode} from {Percents(p.First.Treatment)} to {Percents(p.Second.Treatment)}").Distinct().ToList();
        return changes.Count == 0 ? "" : $". The tax rate is another on {after.Date:yyyy-MM-dd}: {string.Join(", ", changes)}";
    }

    private static string Percents(string treatment) =>
        string.Join(" + ", Core.Taxes.Treatment.Parse(treatment).Parts.Select(p => Core.Amounts.PlainDecimal.Text(p.Percent) + " %"));
}
