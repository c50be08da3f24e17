using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Paying;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>An open item as its payer sees it. Minor units of its currency.</summary>
/// <param name="Disputed">What of it is in dispute.</param>
public sealed record PayerItem(
    int Id,
    string Number,
    AccountItemKind Kind,
    DateOnly Date,
    DateOnly Due,
    long Open,
    long Disputed,
    Currency Currency,
    int? DocumentId
);

/// <summary>Money that came from a payer.</summary>
public sealed record PayerReceipt(string Number, DateOnly Date, long Amount, Currency Currency, string Way);

/// <summary>A paper that its payer may keep.</summary>
public sealed record PayerPaper(
    int Id,
    DocumentKind Kind,
    string Number,
    DateOnly Date,
    long Payable,
    Currency Currency
);

/// <summary>What a customer sees of their account, and nothing of anybody else's.</summary>
/// <param name="Credit">What is not placed yet.</param>
/// <param name="Plans">Those that are kept.</param>
public sealed record PayerAccount(
    Customer Customer,
    IReadOnlyList<PayerItem> Open,
    Sums Credit,
    IReadOnlyList<PlanThen> Plans,
    IReadOnlyList<PayerReceipt> Paid,
    IReadOnlyList<PayerPaper> Papers,
    IReadOnlyList<(Currency Currency, string Iban)> Accounts
)
{
    /// <summary>Whether an item is paid as agreed in a plan that is kept.</summary>
    public bool IsPlanned(int itemId) => Plans.Any(p => p.Plan.Items.Any(i => i.ItemId == itemId));

    /// <summary>
    /// What the next part of a plan pays of each of its items, the earliest due first; minor units.
    /// </summary>
    public IReadOnlyDictionary<int, long> NextPart(PlanThen plan)
    {
        var left = plan.Stands.Next?.Open ?? 0;
        var parts = new Dictionary<int, long>();
        foreach (var item in Open.Where(i => plan.Plan.Items.Any(p => p.ItemId == i.Id)))
        {
            parts[item.Id] = Math.Min(left, item.Open);
            left -= parts[item.Id];
        }

        return parts;
    }

    /// <summary>What is past its due day, and not under a plan that is kept.</summary>
    public Sums LateOn(DateOnly day) =>
        Sums.Of(Open.Where(i => i.Due < day && !IsPlanned(i.Id)).Select(i => new Money(i.Open, i.Currency)));

    /// <summary>What is open, less credit.</summary>
    public Sums Balance =>
        Sums.Of(
            Open.Select(i => new Money(i.Open, i.Currency)).Concat(Credit.Select(c => new Money(-c.Minor, c.Currency)))
        );
}

/// <summary>Reads what payers see.</summary>
public sealed class PayerScreens(BooksContext db, BooksHead head, OwedBook owed)
{
    private const int MonthsOfReceipts = 12;

    private const int MostPapers = 30;

    public async Task<PayerAccount> AccountAsync(int customerId, CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var customer = await db.Customers.AsNoTracking().SingleAsync(c => c.Id == customerId, stop);
        var owes = (await owed.OnAsync(today, customerId, stop))[0];
        var disputed = owes.Disputes.ToLookup(d => d.ItemId);
        var open = owes
            .Items.Select(i => new PayerItem(
                i.ItemId,
                i.Number,
                i.Kind,
                i.Date,
                i.Due,
                i.Open,
                Math.Min(i.Open, disputed[i.ItemId].Sum(d => d.Amount)),
                i.Currency,
                i.DocumentId
            ))
            .ToList();
        var since = today.AddMonths(-MonthsOfReceipts);
        var paid = await db
            .Receipts.AsNoTracking()
            .Where(r => r.CustomerId == customerId && !r.IsUndone && r.Date >= since)
            .OrderByDescending(r => r.Date)
            .ThenByDescending(r => r.Id)
            .Take(MostPapers)
            .Select(r => new PayerReceipt(r.Number, r.CameOn ?? r.Date, r.Amount, r.Currency, r.Way))
            .ToListAsync(stop);
        var papers = await Papers(customerId)
            .OrderByDescending(d => d.Date)
            .ThenByDescending(d => d.Id)
            .Take(MostPapers)
            .ToListAsync(stop);
        var accounts = new List<(Currency, string)>();
        foreach (var currency in customer.Currencies)
            if (await db.ToPayIntoAsync(currency, stop) is [var account, ..])
                accounts.Add((currency, account.Iban));
        return new PayerAccount(
            customer,
            open,
            Sums.Of(owes.Credits.Select(c => new Money(c.Open, c.Currency))),
            [.. owes.Plans.Where(p => p.Plan.IsThereOn(today) && p.Stands.IsKept)],
            paid,
            papers.ConvertAll(d => new PayerPaper(d.Id, d.Kind, d.Number!, d.Date, d.Payable, d.Currency)),
            accounts
        );
    }

    /// <summary>Whether a paper is one that this customer may keep.</summary>
    public Task<bool> MayKeepAsync(int customerId, int documentId, CancellationToken stop = default) =>
        Papers(customerId).AnyAsync(d => d.Id == documentId, stop);

    private IQueryable<Document> Papers(int customerId) =>
        db
            .Documents.AsNoTracking()
            .Where(d =>
                d.CustomerId == customerId
                && (
                    d.State == DocumentState.Issued
                    || d.State == DocumentState.Settled
                    || d.State == DocumentState.Cancelled
                )
                && (
                    d.Kind == DocumentKind.Invoice
                    || d.Kind == DocumentKind.CreditNote
                    || d.Kind == DocumentKind.DebitNote
                )
            );

    /// <summary>The item on the account of a document, while something of it is open; null otherwise.</summary>
    public Task<AccountItem?> OpenOfAsync(int documentId, CancellationToken stop = default) =>
        db
            .AccountItems.AsNoTracking()
            .SingleOrDefaultAsync(i => i.DocumentId == documentId && i.Open > 0 && i.Sign > 0, stop);

    /// <summary>The address of a customer's account; null where none was made.</summary>
    public Task<AccountLink?> LinkAsync(int customerId, CancellationToken stop = default) =>
        db.AccountLinks.AsNoTracking().SingleOrDefaultAsync(l => l.CustomerId == customerId, stop);

    /// <summary>The card payment that a receipt is; null where it is none.</summary>
    public Task<PayRequest?> PaymentOfAsync(int receiptId, CancellationToken stop = default) =>
        db.PayRequests.AsNoTracking().Include(r => r.Refunds).SingleOrDefaultAsync(r => r.ReceiptId == receiptId, stop);

    /// <summary>Money accounts of the kind card clearing.</summary>
    public async Task<IReadOnlyList<LedgerAccount>> ClearingAccountsAsync(CancellationToken stop = default) =>
        await db
            .LedgerAccounts.AsNoTracking()
            .Where(a => a.Role == AccountRole.Money && a.Kind == MoneyKind.CardClearing && !a.Retired)
            .OrderBy(a => a.Code)
            .ToListAsync(stop);

    /// <summary>Sales accounts, for surcharges.</summary>
    public async Task<IReadOnlyList<LedgerAccount>> SalesAccountsAsync(CancellationToken stop = default) =>
        await db
            .LedgerAccounts.AsNoTracking()
            .Where(a => a.Role == AccountRole.Sales && !a.Retired)
            .OrderBy(a => a.Code)
            .ToListAsync(stop);

    /// <summary>The newest requests for card payments, with whose they are.</summary>
    public async Task<IReadOnlyList<(PayRequest Request, string Customer)>> RequestsAsync(
        int most,
        CancellationToken stop = default
    )
    {
        var rows = await (
            from request in db.PayRequests.AsNoTracking()
            join customer in db.Customers on request.CustomerId equals customer.Id
            orderby request.Id descending
            select new { request, customer.Name }
        )
            .Take(most)
            .ToListAsync(stop);
        return rows.ConvertAll(r => (r.request, r.Name));
    }
}
