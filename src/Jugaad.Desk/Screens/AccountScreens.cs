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

/// <summary>A customer in the list, with what they owe in their usual currency.</summary>
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
)
{
    /// <summary>What they owe in other currencies.</summary>
    public Sums Besides { get; init; } = Sums.None;

    /// <summary>What of that is late.</summary>
    public Sums LateBesides { get; init; } = Sums.None;
}

/// <summary>
/// An item on an account, with the balance after it. Amounts are minor units of the side that is shown.
/// </summary>
/// <param name="Original">What it is in its own currency, where the side is another.</param>
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
    int? BookingId,
    Money Original
);

/// <summary>One customer's account, or a side of it. Amounts are minor units of the side.</summary>
/// <param name="Sides">Where there are several: the balance of each, the usual currency first, and of the whole at home.
/// </param>
/// <param name="Open">What raises the balance and is open, oldest first.</param>
/// <param name="Credits">Receipts and credits that are not set against anything in full.</param>
/// <param name="Drafts">Not on the account yet.</param>
public sealed record AccountView(
    Customer Customer,
    DateOnly Today,
    AccountSide Side,
    IReadOnlyList<(AccountSide Side, long Balance)> Sides,
    long Balance,
    AgedBalance Aged,
    Agreed Agreed,
    IReadOnlyList<AccountItem> Open,
    IReadOnlyList<AccountItem> Credits,
    ListPage<MovementRow> Movement,
    IReadOnlyList<(int Id, string Title, DocumentState State, Money Payable)> Drafts,
    IReadOnlyList<ThreadEntry> Thread,
    string PriceList,
    string Seller
)
{
    public long OpenOf(AccountItem item) => Side.Of(item.Open, item.HomeOpen);

    public long AmountOf(AccountItem item) => Side.Of(item.Amount, item.HomeAmount);
}

/// <summary>A customer that could be merged with another.</summary>
/// <param name="Why">Why they look alike; empty where they were searched for.</param>
public sealed record MergeCandidate(Customer Customer, string Why, int Documents, int Receipts, Sums Balance);

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
            })
            .ToListAsync(stop);
        var owed = await OwedAsync([.. rows.Select(r => r.Customer.Id)], stop);
        return rows.ConvertAll(r => new MergeCandidate(
            r.Customer,
            alike.GetValueOrDefault(r.Customer.Id, ""),
            r.Documents,
            r.Receipts,
            Sums.Of(owed[r.Customer.Id].Select(o => o.Balance))
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
            })
            .ToListAsync(stop);
        var owed = await OwedAsync([keep, away], stop);
        MergeCandidate? Of(int id) =>
            rows.Find(r => r.Customer.Id == id) is { } r
                ? new MergeCandidate(r.Customer, "", r.Documents, r.Receipts, Sums.Of(owed[id].Select(o => o.Balance)))
                : null;
        return keep != away && Of(keep) is { } stays && Of(away) is { } goes ? (stays, goes) : null;
    }

    /// <summary>What some customers owe, and what of it is late, of each currency; by the customers' ids.</summary>
    private async Task<ILookup<int, (Money Balance, Money Late)>> OwedAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop
    )
    {
        var today = await head.TodayAsync(stop);
        var notLate = (await agreements.OnAsync(today, null, stop)).NotLate;
        var rows = await db
            .AccountItems.Where(i => ids.Contains(i.CustomerId) && i.Open > 0)
            .GroupBy(i => new { i.CustomerId, i.Currency })
            .Select(g => new
            {
                g.Key.CustomerId,
                g.Key.Currency,
                Balance = g.Sum(i => i.Sign * i.Open),
                Late = g.Sum(i => i.Sign > 0 && i.Due < today && !notLate.Contains(i.Id) ? i.Open : 0),
            })
            .ToListAsync(stop);
        return rows.ToLookup(r => r.CustomerId, r => (new Money(r.Balance, r.Currency), new Money(r.Late, r.Currency)));
    }

    /// <summary>The rows with what their customers owe besides the usual currency.</summary>
    private async Task<IReadOnlyList<CustomerRow>> WithBesidesAsync(
        IReadOnlyList<CustomerRow> rows,
        CancellationToken stop
    )
    {
        // Few customers are billed in another currency: only theirs is asked for again.
        var shown = rows.Select(r => r.Id).ToList();
        var several = (
            await db
                .Customers.Where(c => c.AlsoIn != "" && (shown.Count > 1_000 || shown.Contains(c.Id)))
                .Select(c => c.Id)
                .ToListAsync(stop)
        ).ToHashSet();
        if (several.Count == 0)
            return rows;
        var owed = await OwedAsync(several, stop);
        return
        [
            .. rows.Select(r =>
                r with
                {
                    Besides = Sums.Of(owed[r.Id].Select(o => o.Balance).Where(m => !m.Currency.Equals(r.Currency))),
                    LateBesides = Sums.Of(owed[r.Id].Select(o => o.Late).Where(m => !m.Currency.Equals(r.Currency))),
                }
            ),
        ];
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
    )
    {
        var found = await Orders.ReadAsync(await NarrowAsync(search, stop), sort, ShownRow, place, stop);
        return found with { Rows = await WithBesidesAsync(found.Rows, stop) };
    }

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
        var usual = await narrowed
            .GroupBy(r => r.Customer.Currency)
            .Select(g => new
            {
                g.Key,
                Count = g.Count(),
                Balance = g.Sum(r => r.Balance),
                Late = g.Sum(r => r.Late),
            })
            .ToListAsync(stop);
        var besides = (
            await OwedAsync(
                await narrowed.Where(r => r.Customer.AlsoIn != "").Select(r => r.Customer.Id).ToListAsync(stop),
                stop
            )
        )
            .SelectMany(g => g)
            .ToList();
        var own = await narrowed
            .Where(r => r.Customer.AlsoIn != "")
            .Select(r => new
            {
                r.Customer.Currency,
                r.Balance,
                r.Late,
            })
            .ToListAsync(stop);
        // Of those with several currencies all is counted by its currency, and not a second time as their usual one.
        var balance = Sums.Of(
            usual
                .Select(s => new Money(s.Balance, s.Key))
                .Concat(besides.Select(b => b.Balance))
                .Concat(own.Select(o => new Money(-o.Balance, o.Currency)))
        );
        var late = Sums.Of(
            usual
                .Select(s => new Money(s.Late, s.Key))
                .Concat(besides.Select(b => b.Late))
                .Concat(own.Select(o => new Money(-o.Late, o.Currency)))
        );
        return new ListTotals(
            usual.Sum(s => s.Count),
            [
                .. usual
                    .Select(s => s.Key)
                    .Union(balance.Select(b => b.Currency))
                    .Union(late.Select(l => l.Currency))
                    .OrderBy(c => c.Code, StringComparer.Ordinal)
                    .Select(c => new ListSum(
                        c,
                        new Dictionary<string, long> { ["late"] = late.In(c), ["balance"] = balance.In(c) }
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
        var found = await Orders.Sorted(await NarrowAsync(search, stop), sort, only).Select(ShownRow).ToListAsync(stop);
        var rows = (await WithBesidesAsync(found, stop))
            .SelectMany(r =>
                r.Besides.Concat(r.LateBesides)
                    .Select(m => m.Currency)
                    .Distinct()
                    .Select(c => r with { Currency = c, Balance = r.Besides.In(c), Late = r.LateBesides.In(c) })
                    .Prepend(r)
            )
            .ToList();
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
            Balance = db
                .AccountItems.Where(i => i.CustomerId == c.Id && i.Open > 0 && i.Currency == c.Currency)
                .Sum(i => i.Sign * i.Open),
            Late = db
                .AccountItems.Where(i =>
                    i.CustomerId == c.Id
                    && i.Currency == c.Currency
                    && i.Open > 0
                    && i.Due < today
                    && i.Sign > 0
                    && !notLate.Contains(i.Id)
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
    /// <param name="sideKey">As in <see cref="AccountSide.Key"/>; that of the usual currency where it is empty.</param>
    /// <param name="openOnly">Whether the movement shows only what has something open.</param>
    public async Task<AccountView?> AccountAsync(
        int id,
        int page,
        bool openOnly = false,
        string? sideKey = null,
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
        var all = await db.AccountItems.AsNoTracking().Where(i => i.CustomerId == id && i.Open > 0).ToListAsync(stop);
        var business = await head.BusinessAsync(stop);
        var side = AccountSide.Named(sideKey, customer.Currencies, business.HomeCurrency);
        var open = all.FindAll(i => side.Has(i.Currency));
        var agreed = await agreements.OnAsync(today, id, stop);
        var aged = Ageing.On(
            today,
            (await openItems.OnAsync(today, id, stop))
                .Where(i => side.Has(i.Currency))
                .SelectMany(i => agreed.Aged(i, side)),
            business.Edges
        );
        IEnumerable<AccountSide> sides =
            customer.Currencies.Count == 1
                ? []
                : [.. customer.Currencies.Select(c => new AccountSide(c)), new(business.HomeCurrency, true)];
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
            side,
            [.. sides.Select(s => (s, all.Where(i => s.Has(i.Currency)).Sum(i => i.Sign * s.Of(i.Open, i.HomeOpen))))],
            aged.Balance,
            aged,
            agreed,
            OldestFirst.Order(open.Where(i => i.Raises)).ToList(),
            OldestFirst.Order(open.Where(i => !i.Raises)).ToList(),
            await MovementAsync(id, side, page, openOnly, stop),
            drafts.ConvertAll(d => (d.Id, d.Title, d.State, new Money(d.Payable, d.Currency))),
            thread,
            await db.PriceLists.Where(l => l.Id == customer.PriceListId).Select(l => l.Name).SingleOrDefaultAsync(stop)
                ?? "",
            await db.Users.Where(u => u.Id == customer.SellerId).Select(u => u.FullName).SingleOrDefaultAsync(stop)
                ?? ""
        );
    }

    /// <summary>The account as a whole: at home where it has several currencies.</summary>
    /// <returns>Null where there is no such customer.</returns>
    public async Task<AccountView?> WholeAsync(int id, CancellationToken stop = default) =>
        await AccountAsync(id, 1, stop: stop) is { Sides.Count: > 0 } several
            ? await AccountAsync(id, 1, sideKey: several.Sides[^1].Side.Key, stop: stop)
            : await AccountAsync(id, 1, stop: stop);

    private async Task<ListPage<MovementRow>> MovementAsync(
        int id,
        AccountSide side,
        int number,
        bool openOnly,
        CancellationToken stop
    )
    {
        var (whole, currency) = (side.IsWhole, side.Currency);
        var items = db.AccountItems.Where(i => i.CustomerId == id && (whole || i.Currency == currency));
        var page = await items
            .Where(i => !openOnly || i.Open > 0)
            .OrderByDescending(i => i.Date)
            .ThenByDescending(i => i.Id)
            .Select(i => new MovementRow(
                i.Id,
                i.Kind,
                i.Number,
                i.Date,
                i.Due,
                whole ? i.HomeAmount : i.Amount,
                whole ? i.HomeOpen : i.Open,
                i.Sign > 0,
                i.DocumentId,
                i.ReceiptId,
                0,
                i.BookingId,
                new Money(i.Amount, i.Currency)
            ))
            .PageAsync(number, stop);
        // What has been left out in between does not fit a running balance.
        if (page.Rows.Count == 0 || openOnly)
            return page;
        var newest = page.Rows[0];
        var running = await items
            .Where(i => i.Date < newest.Date || (i.Date == newest.Date && i.Id <= newest.Id))
            .SumAsync(i => i.Sign * (whole ? i.HomeAmount : i.Amount), stop);
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
