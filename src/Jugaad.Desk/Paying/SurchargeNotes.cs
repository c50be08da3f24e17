using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Paying;

/// <summary>
/// Charges surcharges: a debit note on the invoice that was paid, taxed as the invoice is, in proportion over its
/// treatments, with the tax inside.
/// </summary>
public sealed class SurchargeNotes(BooksContext db, Credits credits, Drafts drafts, IssuingDesk issuing)
{
    /// <summary>Issues the debit note of a surcharge.</summary>
    /// <param name="surcharge">What is charged, tax included, in minor units of the invoice's currency.</param>
    /// <param name="accountId">The ledger account that it goes to; null for that of the invoice's lines.</param>
    /// <returns>The item on the account.</returns>
    internal async Task<AccountItem> ChargeAsync(int invoiceId, long surcharge, int? accountId, CancellationToken stop)
    {
        var invoice = await drafts.LoadAsync(invoiceId, stop);
        var noteId = await credits.DebitAsync(invoiceId, "Surcharge for paying by card", stop);
        var note = await drafts.LoadAsync(noteId, stop);
        // As the invoice is taxed, also where a rate changed since.
        var content = note.Content() with
        {
            PricesIncludeTax = true,
            TaxDate = invoice.TaxDate ?? invoice.Date,
            DueDate = note.Date,
            Lines = Lines(invoice, surcharge, accountId),
        };
        await drafts.SaveAsync(new DraftToSave(noteId, DocumentKind.DebitNote, note.Version, content, invoiceId), stop);
        note = await drafts.LoadAsync(noteId, stop);
        await issuing.IssueOurOwnAsync(note, stop);
        return await db.AccountItems.SingleAsync(i => i.DocumentId == noteId, stop);
    }

    /// <summary>One line for each treatment of the invoice; they come to the surcharge.</summary>
    internal static List<DraftLine> Lines(Document invoice, long surcharge, int? accountId)
    {
        var sold = invoice
            .Lines.Where(l => l.Counts && l.Role != LineRole.Deduction)
            .Select(l => (l.Treatment, l.TaxCodeId, l.LedgerAccountId))
            .Concat(invoice.Charges.Select(c => (c.Treatment, c.TaxCodeId, c.LedgerAccountId)))
            .GroupBy(l => l.Treatment)
            .Select(g => g.First())
            .ToList();
        var gross = sold.ConvertAll(s =>
        {
            var taxes = invoice.Taxes.Where(t => t.Treatment == s.Treatment).ToList();
            return taxes.Count == 0 ? 0 : Math.Max(0, taxes[0].Taxable + taxes.Sum(t => t.Tax));
        });
        // What nets to nothing is charged on its first line.
        if (gross.TrueForAll(g => g == 0))
            gross[0] = 1;
        var shares = Apportion.ByWeight(surcharge, gross);
        return
        [
            .. sold.Zip(shares)
                .Where(s => s.Second > 0)
                .Select(s => new DraftLine(
                    null,
                    $"Surcharge for paying {invoice.Number} by card",
                    1,
                    "C62",
                    new Money(s.Second, invoice.Currency).Units,
                    null,
                    null,
                    s.First.TaxCodeId,
                    accountId ?? s.First.LedgerAccountId
                )),
        ];
    }
}
