using System.Linq.Expressions;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A customer in the list, with what they owe in their currency.</summary>
public sealed record CustomerRow(
    int Id,
    string Code,
    string Name,
    string City,
    string Country,
    Currency Currency,
    long Balance,
    long Late,
    bool Inactive
);

/// <summary>An item on an account, with the balance after it. Amounts are minor units.</summary>
public sealed record MovementRow(
    int Id,
    AccountItemKind Kind,
    string Number,
    DateOnly Date,
    DateOnly Due,
    long Amount,
    long Open,
    bool Raises,
    int? DocumentId,
    int? ReceiptId,
    long Running,
    int? BookingId
);

/// <summary>One customer's account.</summary>
/// <param name="Open">What raises the balance and is open, oldest first.</param>
/// <param name="Credits">Receipts and credits that are not set against anything in full.</param>
/// <param name="Drafts">Not on the account yet.</param>
public sealed record AccountView(
    Customer Customer,
    DateOnly Today,
    long Balance,
    AgedBalance Aged,
    Agreed Agreed,
    IReadOnlyList<AccountItem> Open,
    IReadOnlyList<AccountItem> Credits,
    ListPage<MovementRow> Movement,
    IReadOnlyList<(int Id, string Title, DocumentState State, long Payable)> Drafts,
    IReadOnlyList<ThreadEntry> Thread,
    string PriceList,
    string Seller
);

/// <summary>A customer that could be merged with another.</summary>
/// <param name="Why">Why they look alike; empty where they were searched for.</param>
public sealed record MergeCandidate(Customer Customer, string Why, int Documents, int Receipts, long Balance);

/// <summary>Reads customers' accounts and what is late.</summary>
public sealed class AccountScreens(BooksContext db, BooksHead head, OpenItems openItems, IAgreements agreements)
{
    /// <returns>Null where there is no such customer.</returns>
    public Task<Customer?> FindAsync(int id, CancellationToken stop = default) =>
        db
            .Customers.AsNoTracking()
            .Include(c => c.Contacts)
            .Include(c => c.Places)
            .Include(c => c.Certificates)
            .SingleOrDefaultAsync(c => c.Id == id, stop);

    /// <summary>Customers that could be merged into one: by a search, or those that look alike.</summary>
    public async Task<IReadOnlyList<MergeCandidate>> MergeCandidatesAsync(
        int keep,
        string search,
        IReadOnlyDictionary<int, string> alike,
        CancellationToken stop = default
    )
    {
        var others = db.Customers.AsNoTracking().Where(c => c.Id != keep && c.MergedIntoId == null);
        others =
            search.Length > 0
                ? await CustomerFinder.FittingAsync(db, others, search, stop)
                : others.Where(c => alike.Keys.Contains(c.Id));
        var rows = await others
            .OrderBy(c => c.Name)
            .Take(20)
            .Select(c => new
            {
                Customer = c,
                Documents = db.Documents.Count(d => d.CustomerId == c.Id),
                Receipts = db.Receipts.Count(r => r.CustomerId == c.Id),
                Balance = db.AccountItems.Where(i => i.CustomerId == c.Id && i.Open > 0).Sum(i => i.Sign * i.Open),
            })
            .ToListAsync(stop);
        return rows.ConvertAll(r => new MergeCandidate(
            r.Customer,
            alike.GetValueOrDefault(r.Customer.Id, ""),
            r.Documents,
            r.Receipts,
            r.Balance
        ));
    }

    /// <summary>
    /// The two sides of a merge as they are now, the one that stays first; null where one is not there.
    /// </summary>
    public async Task<(MergeCandidate Keep, MergeCandidate Away)?> MergeSidesAsync(
        int keep,
        int away,
        CancellationToken stop = default
    )
    {
        var rows = await db
            .Customers.AsNoTracking()
            .Include(c => c.Contacts)
            .Include(c => c.Places)
            .Where(c => (c.Id == keep || c.Id == away) && c.MergedIntoId == null)
            .Select(c => new
            {
                Customer = c,
                Documents = db.Documents.Count(d => d.CustomerId == c.Id),
                Receipts = db.Receipts.Count(r => r.CustomerId == c.Id),
                Balance = db.AccountItems.Where(i => i.CustomerId == c.Id && i.Open > 0).Sum(i => i.Sign * i.Open),
            })
            .ToListAsync(stop);
        MergeCandidate? Of(int id) =>
            rows.Find(r => r.Customer.Id == id) is { } r
                ? new MergeCandidate(r.Customer, "", r.Documents, r.Receipts, r.Balance)
                : null;
        return keep != away && Of(keep) is { } stays && Of(away) is { } goes ? (stays, goes) : null;
    }

    /// <summary>The names of some customers, by id.</summary>
    public async Task<IReadOnlyDictionary<int, string>> NamesAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop = default
    ) => await db.Customers.Where(c => ids.Contains(c.Id)).ToDictionaryAsync(c => c.Id, c => c.Name, stop);

    private static readonly ListOrders<Owing> Orders = new ListOrders<Owing>(r => r.Customer.Id, "name")
        .By("name", r => r.Customer.Name)
        .By("code", r => r.Customer.Code)
        .By("balance", r => r.Balance)
        .By("late", r => r.Late);

    private static readonly Expression<Func<Owing, CustomerRow>> ShownRow = r => new CustomerRow(
        r.Customer.Id,
        r.Customer.Code,
        r.Customer.Name,
        r.Customer.Address.City,
        r.Customer.Address.Country,
        r.Customer.Currency,
        r.Balance,
        r.Late,
        r.Customer.Inactive
    );

    public async Task<Stretch<CustomerRow>> CustomersAsync(
        string search,
        string sort,
        ListPlace place,
        CancellationToken stop = default
    ) => await Orders.ReadAsync(await NarrowAsync(search, stop), sort, ShownRow, place, stop);

    /// <inheritdoc cref="ListOrders{TRow}.IdsAsync"/>
    public async Task<IReadOnlyList<int>> CustomerIdsAsync(
        string search,
        string sort,
        int most,
        CancellationToken stop = default
    ) => await Orders.IdsAsync(await NarrowAsync(search, stop), sort, most, stop);

    public async Task<ListTotals> CustomerTotalsAsync(string search, CancellationToken stop = default)
    {
        var narrowed = await NarrowAsync(search, stop);
        var sums = await narrowed
            .GroupBy(r => r.Customer.Currency)
            .Select(g => new
            {
                g.Key,
                Count = g.Count(),
                Balance = g.Sum(r => r.Balance),
                Late = g.Sum(r => r.Late),
            })
            .ToListAsync(stop);
        return new ListTotals(
            sums.Sum(s => s.Count),
            [
                .. sums.OrderBy(s => s.Key.Code)
                    .Select(s => new ListSum(
                        s.Key,
                        new Dictionary<string, long> { ["late"] = s.Late, ["balance"] = s.Balance }
                    )),
            ]
        );
    }

    /// <summary>All customers that a search finds, for a file.</summary>
    /// <param name="only">The rows that were picked; null for all.</param>
    public async Task<Report> CustomersReportAsync(
        string search,
        string sort,
        IReadOnlyCollection<int>? only = null,
        CancellationToken stop = default
    )
    {
        var rows = await Orders.Sorted(await NarrowAsync(search, stop), sort, only).Select(ShownRow).ToListAsync(stop);
        return new Report(
            "customers",
            "Customers",
            "",
            [
                new("code", "Code"),
                new("name", "Name"),
                new("town", "Town"),
                new("country", "Country"),
                new("currency", "Currency"),
                new("late", "Late", true),
                new("owes", "Owes", true),
                new("inactive", "Inactive"),
            ],
            rows.ConvertAll(r => new ReportRow([
                r.Code,
                r.Name,
                r.City,
                r.Country,
                r.Currency.Code,
                new Money(r.Late, r.Currency),
                new Money(r.Balance, r.Currency),
                r.Inactive ? "inactive" : "",
            ]))
        );
    }

    private async Task<IQueryable<Owing>> NarrowAsync(string search, CancellationToken stop)
    {
        var today = await head.TodayAsync(stop);
        var notLate = (await agreements.OnAsync(today, null, stop)).NotLate;
        var customers = db.Customers.AsNoTracking().Where(c => c.MergedIntoId == null);
        if (search.Trim().Length > 0)
            customers = await CustomerFinder.FittingAsync(db, customers, search, stop);
        return customers.Select(c => new Owing
        {
            Customer = c,
            Balance = db.AccountItems.Where(i => i.CustomerId == c.Id && i.Open > 0).Sum(i => i.Sign * i.Open),
            Late = db
                .AccountItems.Where(i =>
                    i.CustomerId == c.Id && i.Open > 0 && i.Due < today && i.Sign > 0 && !notLate.Contains(i.Id)
                )
                .Sum(i => i.Open),
        });
    }

    /// <summary>A customer with what is owed; minor units of the customer's currency.</summary>
    private sealed class Owing
    {
        public required Customer Customer { get; init; }

        public long Balance { get; init; }

        public long Late { get; init; }
    }

    /// <returns>Null where there is no such customer.</returns>
    /// <param name="openOnly">Whether the movement shows only what has something open.</param>
    public async Task<AccountView?> AccountAsync(
        int id,
        int page,
        bool openOnly = false,
        CancellationToken stop = default
    )
    {
        var customer = await db
            .Customers.AsNoTracking()
            .Include(c => c.Terms)
            .Include(c => c.Contacts)
            .Include(c => c.Places)
            .Include(c => c.Certificates)
            .SingleOrDefaultAsync(c => c.Id == id, stop);
        if (customer is null)
            return null;
        var today = await head.TodayAsync(stop);
        var open = await db.AccountItems.AsNoTracking().Where(i => i.CustomerId == id && i.Open > 0).ToListAsync(stop);
        var business = await head.BusinessAsync(stop);
        var agreed = await agreements.OnAsync(today, id, stop);
        var aged = Ageing.On(today, (await openItems.OnAsync(today, id, stop)).SelectMany(agreed.Aged), business.Edges);
        var drafts = await db
            .Documents.AsNoTracking()
            .Where(d =>
                d.CustomerId == id
                && (
                    d.State == DocumentState.Draft || d.State == DocumentState.Sent || d.State == DocumentState.Accepted
                )
            )
            .OrderByDescending(d => d.Id)
            .Take(20)
            .ToListAsync(stop);
        var thread = await db
            .Trail.Where(t => t.CustomerId == id)
            .OrderByDescending(t => t.Id)
            .Take(25)
            .Select(t => new ThreadEntry(t.Day, t.Who, t.Text))
            .ToListAsync(stop);
        return new AccountView(
            customer,
            today,
            aged.Balance,
            aged,
            agreed,
            OldestFirst.Order(open.Where(i => i.Raises)).ToList(),
            OldestFirst.Order(open.Where(i => !i.Raises)).ToList(),
            await MovementAsync(id, page, openOnly, stop),
            drafts.ConvertAll(d => (d.Id, d.Title, d.State, d.Payable)),
            thread,
            await db.PriceLists.Where(l => l.Id == customer.PriceListId).Select(l => l.Name).SingleOrDefaultAsync(stop)
                ?? "",
            await db.Users.Where(u => u.Id == customer.SellerId).Select(u => u.FullName).SingleOrDefaultAsync(stop)
                ?? ""
        );
    }

    private async Task<ListPage<MovementRow>> MovementAsync(int id, int number, bool openOnly, CancellationToken stop)
    {
        var page = await db
            .AccountItems.Where(i => i.CustomerId == id && (!openOnly || i.Open > 0))
            .OrderByDescending(i => i.Date)
            .ThenByDescending(i => i.Id)
            .Select(i => new MovementRow(
                i.Id,
                i.Kind,
                i.Number,
                i.Date,
                i.Due,
                i.Amount,
                i.Open,
                i.Sign > 0,
                i.DocumentId,
                i.ReceiptId,
                0,
                i.BookingId
            ))
            .PageAsync(number, stop);
        // What has been left out in between does not fit a running balance.
        if (page.Rows.Count == 0 || openOnly)
            return page;
        var newest = page.Rows[0];
        var running = await db
            .AccountItems.Where(i =>
                i.CustomerId == id && (i.Date < newest.Date || (i.Date == newest.Date && i.Id <= newest.Id))
            )
            .SumAsync(i => i.Sign * i.Amount, stop);
        var rows = new List<MovementRow>();
        foreach (var row in page.Rows)
        {
            rows.Add(row with { Running = running });
            running -= row.Raises ? row.Amount : -row.Amount;
        }

        return page with
        {
            Rows = rows,
        };
    }
}
