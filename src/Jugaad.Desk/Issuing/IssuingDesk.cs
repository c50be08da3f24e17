using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Stock;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>
/// Issues documents: the number, the frozen copy, the account item, the journal entry and the trail are one
/// transaction, so that no number is given twice and none is skipped, whenever the program stops.
/// </summary>
public sealed class IssuingDesk(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Drafts drafts,
    MastersLoader masters,
    PaperRoom papers,
    StockKeeping stock,
    LineLinks links,
    Completion completion,
    Numbers numbers,
    Deposits deposits,
    PostTray tray,
    StageWords stageWords,
    CreditStanding credit,
    TaxTelling telling,
    TaxPlaces places,
    IssuedLooks looks,
    AuthorityRates rates
)
{
    /// <param name="version">The version that the person saw, so that nothing is issued unseen.</param>
    /// <param name="sendTo">Where to mail it in the same go; null to issue it only.</param>
    /// <exception cref="RefusalException">With what is missing.</exception>
    public Task<int> IssueAsync(int id, int version, MailToSend? sendTo = null, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var document = await drafts.LoadAsync(id, stop);
                if (document.Kind != DocumentKind.Quote)
                    writer.Must(Right.Issue);
                if (document.IsDraft && document.Version != version)
                    throw new RefusalException(
                        "",
                        "This draft was changed while you had it open. Load it again and look it over before you issue it."
                    );
                if (document.IsDraft)
                    await credit.MustFitAsync(document, stop);
                await IssueOurOwnAsync(document, stop);
                if (sendTo is not null)
                    await tray.AddAsync(
                        sendTo.Naming(document.Number!) with
                        {
                            Kind = PostKind.Document,
                            CustomerId = document.CustomerId,
                            DocumentIds = [id],
                        },
                        stop
                    );
                return id;
            }
        );

    /// <summary>Issues what the program itself made in the same go, for whoever may do that.</summary>
    /// <exception cref="RefusalException">With what is missing.</exception>
    internal async Task IssueOurOwnAsync(Document document, CancellationToken stop)
    {
        var id = document.Id;
        var business = await head.BusinessAsync(stop);
        var customer = await db.Customers.SingleAsync(c => c.Id == document.CustomerId, stop);
        if (customer.Inactive)
            throw new RefusalException(
                "customer",
                $"{customer.Name} is inactive. Make the customer active again first."
            );

        if (IssueCheck.NeedsTaxNumber(document) && customer.TaxNumber.Length == 0)
            throw new RefusalException(
                "customer",
                $"{customer.Name} has no tax number, and without one the tax cannot be left to them. Add it on the customer's page, or choose another tax code."
            );
        if (IssueCheck.NeedsTaxNumber(document) && await IssueCheck.OwnNumberAsync(db, stop) is null)
            throw new RefusalException(
                "",
                "We have no tax number of our own, and without one the tax cannot be left to the customer. Add it under Setup, or choose another tax code."
            );
        await MustBeUpToDateAsync(document, stop);
        await links.MustFitAsync(document, id, stop);
        await deposits.MustBeOfUseAsync(document, stop);
        var (seriesId, number) = await numbers.GiveAsync(document, stop);
        document.Issue(
            seriesId,
            number,
            await papers.SenderAsync(document, customer, stop),
            Parties.AddresseeOf(customer, business),
            customer.Language,
            await db.FactsAsync(document, stop)
        );
        await looks.KeepAsync(document, customer, stop);
        if (document.RevisesId is { } earlier)
            await ReplaceAsync(earlier, number, stop);
        if (document.Policy.Posts)
            await PostAsync(document, stop);
        await stock.MoveAsync(document, stop);
        await completion.FollowAsync(document, stop);
        await writer.TrailAsync(
            document.Kind == DocumentKind.Quote
                ? $"Quote {number} made ready to send"
                : $"{document.Policy.Title} {number} issued",
            document.CustomerId,
            id
        );
    }

    /// <summary>
    /// A rate, terms or an exchange rate may have been entered since the draft was saved; nothing is issued unseen.
    /// </summary>
    internal async Task MustBeUpToDateAsync(Document document, CancellationToken stop)
    {
        if (!document.IsDraft || document.Lines.Count == 0)
            return;
        var content = document.Content();
        var found = await masters.ForAsync(content, document.Id, stop);
        var fresh = new Document(document.Kind, writer.Who);
        await MustBeTellableAsync(document, stop);
        fresh.Rewrite(
            content with
            {
                ExchangeRate = await masters.RateForAsync(
                    document.Kind,
                    document.FromDocumentId,
                    found.Customer.BilledIn(content.Currency),
                    content,
                    stop
                ),
            },
            found
        );
        if (
            fresh.Payable != document.Payable
            || fresh.Tax != document.Tax
            || fresh.DueDate != document.DueDate
            || fresh.EarlyPercent != document.EarlyPercent
            || fresh.EarlyUntil != document.EarlyUntil
            || fresh.ExchangeRate != document.ExchangeRate
            || !fresh.Currency.Equals(document.Currency)
        )
            throw new RefusalException(
                "",
                "A tax rate, an exchange rate, the customer's terms or currency changed since this draft was saved, and it now comes out differently. Open it, look it over and save it, then issue it."
            );
        // What tax codes say makes no figure: the paper says it as it is said now.
        document.FollowTaxWords(fresh);
        await stageWords.PutRightAsync(fresh, document.Id, stop);
        if (
            !fresh
                .Lines.OrderBy(l => l.Position)
                .Select(l => l.Text)
                .SequenceEqual(document.Lines.OrderBy(l => l.Position).Select(l => l.Text))
        )
            throw new RefusalException(
                "",
                "What was billed before this stage changed since the draft was saved, and its words tell of it. Open it, look it over and save it, then issue it."
            );
    }

    /// <summary>What is on the paper of a tax is what its authority is told.</summary>
    private async Task MustBeTellableAsync(Document document, CancellationToken stop)
    {
        var before = document.Taxes.Select(t => t.ToldRate).ToList();
        if (await rates.PutAsync(document, document.FromDocumentId, stop) is [{ } missing, ..])
            throw new RefusalException("", missing);
        if (!document.Taxes.Select(t => t.ToldRate).SequenceEqual(before))
            throw new RefusalException(
                "",
                "The rate of an authority for tax changed since this draft was saved, and it now tells another tax. Open it, look it over and save it, then issue it."
            );
    }

    private async Task PostAsync(Document document, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var kind = document.Kind switch
        {
            DocumentKind.CreditNote => AccountItemKind.CreditNote,
            DocumentKind.DebitNote => AccountItemKind.DebitNote,
            _ => AccountItemKind.Invoice,
        };
        var item = new AccountItem(
            kind,
            document.CustomerId,
            document.Number!,
            document.Date,
            document.DueDate ?? document.Date,
            document.Currency,
            document.Payable,
            document.ExchangeRate,
            home
        )
        {
            DocumentId = document.Id,
        };
        db.AccountItems.Add(item);
        await db.KeepPlaceAsync(document, stop);
        var told = await telling.AddAsync(document, item, stop);
        document.FollowOpenAmount(document.Payable);
        var accounts = await db.PostingAccountsAsync(stop);
        var entry = PostingRules.ForDocument(document, accounts, home);
        await places.PutAsync(entry, accounts.TaxOwed, told, item.Amount, stop);
        entry.DocumentId = document.Id;
        if (entry.Lines.Count > 0)
            db.Journal.Add(entry);
    }

    private async Task ReplaceAsync(int earlierId, string number, CancellationToken stop)
    {
        var earlier = await db.Documents.SingleAsync(d => d.Id == earlierId, stop);
        if (earlier.IsReplaced || earlier.State == DocumentState.Accepted)
            throw new RefusalException(
                "",
                $"The {earlier.Title} was {(earlier.IsReplaced ? "revised" : "accepted")} in the meantime. Look at it first."
            );
        earlier.BeReplaced();
        await writer.TrailAsync($"Replaced by {number}", earlier.CustomerId, earlierId);
    }
}
