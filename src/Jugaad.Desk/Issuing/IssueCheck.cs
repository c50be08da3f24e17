using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>Something to look at before a document is issued.</summary>
/// <param name="Stops">Whether it cannot be issued as it is; otherwise it is worth a second look.</param>
/// <param name="Address">Where it is mended.</param>
public sealed record IssueFinding(bool Stops, string Words, string Address, string Mend);

/// <summary>Looks a draft over before it is issued: what is missing, and where that is mended.</summary>
public sealed class IssueCheck(
    BooksContext db,
    BooksHead head,
    DraftWarnings warnings,
    LineLinks links,
    IssuingDesk issuing,
    PaperRoom papers,
    CreditStanding credit
)
{
    /// <param name="forMail">Whether it is to be mailed, and so needs an address for that.</param>
    public async Task<IReadOnlyList<IssueFinding>> OfAsync(int id, bool forMail, CancellationToken stop = default)
    {
        var document =
            await db
                .Documents.AsNoTracking()
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .Include(d => d.Taxes)
                .Include(d => d.Customer!)
                    .ThenInclude(c => c.Contacts)
                .SingleOrDefaultAsync(d => d.Id == id, stop)
            ?? throw new RefusalException("", $"There is no document {id}.");
        var found = new List<IssueFinding>();
        void Add(bool stops, string words, string address, string mend) =>
            found.Add(new IssueFinding(stops, words, address, mend));
        var customer = document.Customer!;
        var format = (await head.BusinessAsync(stop)).Format;
        var (editor, page) = ($"/sell/edit/{id}", $"/customers/{customer.Id}/edit");
        if (!document.Lines.Any(l => l.Role.HasFigures()))
            Add(true, "It has no line.", editor, "add a line");
        if (document.Policy.NeedsReason && document.Particulars.Reason.Length == 0)
            Add(true, $"It does not say why the {document.Policy.Word} is given.", editor, "give the reason");
        if (customer.Inactive)
            Add(true, $"{customer.Name} is inactive.", page, "make the customer active");
        if (customer.Address.City.Length == 0 && customer.Address.Street.Length == 0)
            Add(false, $"{customer.Name} has no address.", page, "add the address");
        if (NeedsTaxNumber(document) && customer.TaxNumber.Length == 0)
            Add(
                true,
                $"{customer.Name} has no tax number, and without one the tax cannot be left to them.",
                page,
                "add the tax number"
            );
        if (NeedsTaxNumber(document) && await OwnNumberAsync(db, stop) is null)
            Add(
                true,
                "We have no tax number of our own, and without one the tax cannot be left to the customer.",
                "/setup",
                "add our tax number"
            );
        if (forMail && customer.InvoiceEmail.Length == 0)
            Add(false, $"{customer.Name} has no mail address, so it goes into the pile to print.", page, "add one");
        if (
            document is { Kind: DocumentKind.Invoice or DocumentKind.DebitNote, Payable: > 0, PaidWords.Length: 0 }
            && (await papers.SenderAsync(document, customer, stop)).Iban.Length == 0
        )
            Add(
                false,
                "The paper asks to be paid and names no bank account.",
                "/setup/accounts",
                "add the account's number"
            );
        var retired = await db.LedgerAccounts.Where(a => a.Retired).Select(a => a.Id).ToListAsync(stop);
        if (
            document.Policy.Posts
            && document.Lines.Any(l => l.Counts && (l.LedgerAccountId == 0 || retired.Contains(l.LedgerAccountId)))
        )
            Add(true, "A line has no account to be booked to, or one that is retired.", editor, "choose the item anew");
        try
        {
            await issuing.MustBeUpToDateAsync(document, stop);
            await links.MustFitAsync(document, id, stop);
        }
        catch (RefusalException refused)
        {
            foreach (var refusal in refused.Refusals)
                Add(true, refusal.Phrase.In(format), editor, "open it");
        }

        foreach (var need in EInvoiceNeeds.Of(document, customer, await head.BusinessAsync(stop)))
            Add(false, need.Words.In(format), need.Address, need.Mend);
        if (await credit.PassedByAsync(document, id, stop) is { Stops: true })
            Add(
                true,
                $"It would pass the credit limit of {customer.Name}.",
                $"/customers/{customer.Id}/credit?pass={id}",
                "look at their credit"
            );
        foreach (var warning in await warnings.OfAsync(document, id, stop))
            Add(false, warning.Phrase.In(format), editor, "look at it");
        return found;
    }

    /// <summary>The number under which we are registered; null where there is none.</summary>
    internal static async Task<string?> OwnNumberAsync(BooksContext db, CancellationToken stop) =>
        await db.Businesses.Select(b => b.TaxNumber).FirstOrDefaultAsync(stop) is { Length: > 0 } own ? own : null;

    /// <summary>
    /// Only a customer with a tax number accounts for the tax, or receives goods within the union without it.
    /// </summary>
    internal static bool NeedsTaxNumber(Document document) =>
        document.Policy.Raises > 0
        && document.Taxes.Any(t => t.Category is TaxCategory.ReverseCharge or TaxCategory.IntraUnion);
}
