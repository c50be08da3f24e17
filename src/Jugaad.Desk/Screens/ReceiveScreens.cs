using System.Linq.Expressions;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reports;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A receipt in a list. Amounts are minor units.</summary>
/// <param name="Undone">Whether it was undone; then nothing of it stands on the account.</param>
public sealed record ReceiptRow(
    int Id,
    string Number,
    int CustomerId,
    string Customer,
    DateOnly Date,
    string Into,
    string Reference,
    Currency Currency,
    long Amount,
    long Open,
    bool Undone,
    string Way,
    DateOnly? CameOn
);

/// <summary>What narrows the list of receipts, and its order.</summary>
/// <param name="Unplaced">Only those with something that is not set against anything.</param>
public sealed record ReceiptFilter(bool Unplaced, string Search, string Sort);

/// <summary>Something that was done on accounts.</summary>
public sealed record DoneRow(int Id, BookingKind Kind, DateOnly Date, string Words, string By, bool Undone);

/// <summary>An account that money lies on.</summary>
/// <param name="Name">With its currency where that is not the home one.</param>
/// <param name="Currency">Null for the home one.</param>
public sealed record MoneyPlace(int Id, string Name, Currency? Currency);

/// <summary>Money that belongs to no customer. Minor units of the home currency.</summary>
/// <param name="Own">What moved on the account, in its own currency.</param>
public sealed record OtherRow(
    int BookingId,
    DateOnly Date,
    string Text,
    string For,
    string Into,
    long Tax,
    long Amount,
    Money Own,
    bool Undone
);

/// <summary>A receipt or credit with something left, and what can become of that.</summary>
/// <param name="Corrects">The account item of the invoice that a credit note corrects.</param>
/// <param name="LastPayee">Where money was paid back to this customer the last time.</param>
public sealed record CreditView(
    AccountItem Item,
    string Customer,
    IReadOnlyList<AccountItem> CouldPay,
    int? Corrects,
    Payee? LastPayee
);

/// <summary>What a receipt or credit was set against.</summary>
/// <param name="Until">From when it counts no more; null while it counts.</param>
public sealed record PlacedOn(
    int AllocationId,
    int? DocumentId,
    string Number,
    DateOnly Date,
    long Amount,
    AccountItemKind Kind,
    DateOnly? Until
);

/// <summary>One receipt with what it was set against and what it could be.</summary>
public sealed record ReceiptView(
    ReceiptRow Receipt,
    AccountItem? Item,
    IReadOnlyList<PlacedOn> Placed,
    IReadOnlyList<AccountItem> CouldPay,
    IReadOnlyList<ThreadEntry> Thread,
    IReadOnlyList<EntrySide> Booked,
    IReadOnlyList<DoneRow> Done
);

/// <summary>Reads receipts and what is open for them.</summary>
public sealed class ReceiveScreens(BooksContext db, BooksHead head)
{
    private static readonly ListOrders<Row> Orders = new ListOrders<Row>(r => r.Receipt.Id, "-date")
        .By("date", r => r.Receipt.Date)
        .By("number", r => r.Receipt.Number)
        .By("customer", r => r.Customer)
        .By("amount", r => r.Receipt.Amount);

    public async Task<Stretch<ReceiptRow>> ListAsync(
        ReceiptFilter filter,
        ListPlace place,
        CancellationToken stop = default
    )
    {
        var rows = Rows(Narrow(filter, null));
        return await SearchAsync(filter.Search, stop) is { } search
            ? await Orders.ReadFoundAsync(
                rows,
                near => Rows(Narrow(filter, search.Condition(near))),
                search.Words,
                filter.Sort,
                ShownRow,
                place,
                stop
            )
            : await Orders.ReadAsync(rows, filter.Sort, ShownRow, place, stop);
    }

    /// <inheritdoc cref="ListOrders{TRow}.IdsAsync"/>
    public async Task<IReadOnlyList<int>> IdsAsync(ReceiptFilter filter, int most, CancellationToken stop = default) =>
        await Orders.IdsAsync(Rows(await NarrowAsync(filter, stop)), filter.Sort, most, stop);

    /// <summary>The numbers of receipts.</summary>
    public async Task<IReadOnlyDictionary<int, string>> NumbersAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop = default
    ) => await db.Receipts.Where(r => ids.Contains(r.Id)).ToDictionaryAsync(r => r.Id, r => r.Number, stop);

    public async Task<ListTotals> TotalsAsync(ReceiptFilter filter, CancellationToken stop = default)
    {
        var narrowed = await NarrowAsync(filter, stop);
        var sums = await narrowed
            .GroupBy(r => r.Currency)
            .Select(g => new
            {
                g.Key,
                Count = g.Count(),
                Amount = g.Sum(r => r.IsUndone ? 0 : r.Amount),
            })
            .ToListAsync(stop);
        // What is open is a small part, and has an index of its own.
        var open = await db
            .AccountItems.Where(i => i.Open > 0 && i.Kind == AccountItemKind.Receipt)
            .Join(narrowed, i => i.ReceiptId, r => r.Id, (i, r) => new { r.Currency, i.Open })
            .GroupBy(r => r.Currency)
            .Select(g => new { g.Key, Open = g.Sum(r => r.Open) })
            .ToDictionaryAsync(g => g.Key, g => g.Open, stop);
        return new ListTotals(
            sums.Sum(s => s.Count),
            [
                .. sums.OrderBy(s => s.Key.Code)
                    .Select(s => new ListSum(
                        s.Key,
                        new Dictionary<string, long> { ["amount"] = s.Amount, ["open"] = open.GetValueOrDefault(s.Key) }
                    )),
            ]
        );
    }

    /// <summary>All that the filter lets through, for a file.</summary>
    /// <param name="only">The rows that were picked; null for all.</param>
    public async Task<Report> ReportAsync(
        ReceiptFilter filter,
        IReadOnlyCollection<int>? only = null,
        CancellationToken stop = default
    )
    {
        var rows = await Orders
            .Sorted(Rows(await NarrowAsync(filter, stop)), filter.Sort, only)
            .Select(ShownRow)
            .ToListAsync(stop);
        return new Report(
            "receipts",
            "Receipts",
            "",
            [
                new("number", "Number"),
                new("date", "Date"),
                new("customer", "Customer"),
                new("way", "How"),
                new("into", "Into"),
                new("reference", "What the payer wrote"),
                new("currency", "Currency"),
                new("amount", "Amount", true),
                new("open", "Not placed", true),
                new("undone", "Undone"),
            ],
            rows.ConvertAll(r => new ReportRow([
                r.Number,
                r.Date,
                r.Customer,
                r.Way,
                r.Into,
                r.Reference,
                r.Currency.Code,
                new Money(r.Amount, r.Currency),
                new Money(r.Open, r.Currency),
                r.Undone ? "undone" : "",
            ]))
        );
    }

    private async Task<IQueryable<Receipt>> NarrowAsync(ReceiptFilter filter, CancellationToken stop) =>
        Narrow(filter, (await SearchAsync(filter.Search, stop))?.Condition(null));

    /// <summary>What a search means: words of the receipt, words of its customer, or its amount.</summary>
    private sealed record Search(Found Words, Found Customers, IReadOnlyList<long> Amounts)
    {
        internal Expression<Func<Receipt, bool>> Condition(IReadOnlyCollection<int>? near) =>
            Found.Either(
                Words.Among<Receipt>(r => r.Id, near),
                Customers.Among<Receipt>(r => r.CustomerId),
                r => Amounts.Contains(r.Amount)
            );
    }

    /// <returns>Null where nothing is searched.</returns>
    private async Task<Search?> SearchAsync(string typed, CancellationToken stop) =>
        typed.Trim().Length == 0
            ? null
            : new Search(
                await WordSearch.ReceiptsAsync(db, typed, stop),
                await WordSearch.CustomersAsync(db, typed, stop),
                WordSearch.AmountsOf(typed, (await head.BusinessAsync(stop)).Format)
            );

    private IQueryable<Receipt> Narrow(ReceiptFilter filter, Expression<Func<Receipt, bool>>? search)
    {
        var receipts = db.Receipts.AsNoTracking();
        if (filter.Unplaced)
        {
            var open = db
                .AccountItems.Where(i => i.Open > 0 && i.Kind == AccountItemKind.Receipt)
                .Select(i => i.ReceiptId);
            receipts = receipts.Where(r => open.Contains(r.Id));
        }

        return search is null ? receipts : receipts.Where(search);
    }

    /// <returns>Null where there is no such receipt.</returns>
    public async Task<ReceiptView?> ReceiptAsync(int id, CancellationToken stop = default)
    {
        var row = await Rows(db.Receipts.AsNoTracking().Where(r => r.Id == id))
            .Select(ShownRow)
            .SingleOrDefaultAsync(stop);
        if (row is null)
            return null;
        var item = await db.AccountItems.AsNoTracking().SingleOrDefaultAsync(i => i.ReceiptId == id, stop);
        var itemId = item?.Id ?? 0;
        var placed = await db
            .Allocations.IgnoreQueryFilters()
            .Where(a => a.LoweringId == itemId && (a.Until == null || a.Until > a.Date))
            .OrderBy(a => a.Date)
            .ThenBy(a => a.Id)
            .Select(a => new PlacedOn(
                a.Id,
                a.Raising.DocumentId,
                a.Raising.Number,
                a.Date,
                a.Amount,
                a.Raising.Kind,
                a.Until
            ))
            .ToListAsync(stop);
        var bookings = await db
            .Allocations.IgnoreQueryFilters()
            .Where(a => a.LoweringId == itemId)
            .Select(a => new { a.BookingId, a.EndedById })
            .ToListAsync(stop);
        var ofReceipt = bookings
            .SelectMany(b => new[] { b.BookingId, b.EndedById })
            .Append(item?.BookingId)
            .OfType<int>()
            .ToHashSet();
        if (await db.Receipts.Where(r => r.Id == id).Select(r => r.BookingId).SingleAsync(stop) is { } posted)
            ofReceipt.Add(posted);
        var done = await DoneAsync(db.Bookings.Where(b => ofReceipt.Contains(b.Id)), 20, stop);
        var thread = await db
            .Trail.Where(t => t.ReceiptId == id)
            .OrderByDescending(t => t.Id)
            .Take(40)
            .Select(t => new ThreadEntry(t.Day, t.Who, t.Text))
            .ToListAsync(stop);
        var booked = await (
            from entry in db.Journal
            where entry.ReceiptId == id
            from line in entry.Lines
            join account in db.LedgerAccounts on line.AccountId equals account.Id
            select new { Account = account.Code + " " + account.Name, Line = line }
        )
            .AsNoTracking()
            .ToListAsync(stop);
        return new ReceiptView(
            row,
            item,
            placed,
            item?.Open > 0 ? await OpenAsync(row.CustomerId, stop) : [],
            thread,
            booked.ConvertAll(b => new EntrySide(b.Account, b.Line.Debit, b.Line.Credit, b.Line.Original)),
            done
        );
    }

    /// <summary>What a customer owes, oldest first.</summary>
    public async Task<IReadOnlyList<AccountItem>> OpenAsync(int customerId, CancellationToken stop = default) =>
        OldestFirst
            .Order(
                await db
                    .AccountItems.AsNoTracking()
                    .Where(i => i.CustomerId == customerId && i.Open > 0 && i.Sign > 0)
                    .ToListAsync(stop)
            )
            .ToList();

    /// <returns>Null where there is no such receipt or credit.</returns>
    public async Task<CreditView?> CreditAsync(int itemId, CancellationToken stop = default)
    {
        var item = await db.AccountItems.AsNoTracking().SingleOrDefaultAsync(i => i.Id == itemId && i.Sign < 0, stop);
        if (item is null)
            return null;
        var corrects = await (
            from credit in db.Documents
            where credit.Id == item.DocumentId
            join raising in db.AccountItems on credit.FromDocumentId equals raising.DocumentId
            select (int?)raising.Id
        ).FirstOrDefaultAsync(stop);
        var last = await db
            .Refunds.Where(r => r.CustomerId == item.CustomerId && r.Iban != "")
            .OrderByDescending(r => r.Id)
            .Select(r => new Payee(r.PayeeName, r.Iban, r.Bic))
            .FirstOrDefaultAsync(stop);
        var open = await OpenAsync(item.CustomerId, stop);
        return new CreditView(
            item,
            await db.Customers.Where(c => c.Id == item.CustomerId).Select(c => c.Name).SingleAsync(stop),
            [.. open.OrderBy(i => i.Id == corrects ? 0 : 1)],
            corrects,
            last
        );
    }

    /// <summary>What was done on a customer's account, newest first.</summary>
    public Task<IReadOnlyList<DoneRow>> DoneAsync(int customerId, CancellationToken stop = default) =>
        DoneAsync(db.Bookings.Where(b => b.CustomerId == customerId), 12, stop);

    private static async Task<IReadOnlyList<DoneRow>> DoneAsync(
        IQueryable<Booking> bookings,
        int most,
        CancellationToken stop
    ) =>
        await bookings
            .OrderByDescending(b => b.Id)
            .Take(most)
            .Select(b => new DoneRow(b.Id, b.Kind, b.Date, b.Words, b.By, b.UndoneOn != null))
            .ToListAsync(stop);

    /// <summary>The ways of payment that are offered, with where the money comes in.</summary>
    public async Task<IReadOnlyList<(int Id, string Name, int MoneyAccountId)>> WaysAsync(
        CancellationToken stop = default
    ) =>
        (await db.PayWays.Where(w => !w.Retired).OrderBy(w => w.Id).ToListAsync(stop)).ConvertAll(w =>
            (w.Id, w.Name, w.MoneyAccountId)
        );

    /// <summary>What a customer has as credit, oldest first.</summary>
    public async Task<IReadOnlyList<AccountItem>> CreditsAsync(int customerId, CancellationToken stop = default) =>
        [
            .. OldestFirst
                .Order(
                    await db
                        .AccountItems.AsNoTracking()
                        .Where(i => i.CustomerId == customerId && i.Open > 0 && i.Sign < 0)
                        .ToListAsync(stop)
                )
                .Where(i => i.Kind.CanBePlaced()),
        ];

    /// <summary>What money that belongs to no customer can be for.</summary>
    public async Task<IReadOnlyList<(int Id, string Name)>> OtherAccountsAsync(CancellationToken stop = default) =>
        (
            await db
                .LedgerAccounts.Where(a =>
                    (
                        a.Role == AccountRole.Sales
                        || a.Role == AccountRole.Other
                        || a.Role == AccountRole.RoundingDifferences
                    ) && !a.Retired
                )
                .OrderByDescending(a => a.Role == AccountRole.Other)
                .ThenBy(a => a.Code)
                .Select(a => new { a.Id, Name = a.Code + " " + a.Name })
                .ToListAsync(stop)
        ).ConvertAll(a => (a.Id, a.Name));

    public async Task<IReadOnlyList<(int Id, string Name)>> TaxCodesAsync(CancellationToken stop = default) =>
        (
            await db
                .TaxCodes.Where(c => !c.Retired)
                .OrderBy(c => c.Code)
                .Select(c => new { c.Id, Name = c.Code + " " + c.Name })
                .ToListAsync(stop)
        ).ConvertAll(c => (c.Id, c.Name));

    /// <summary>The latest money that belongs to no customer.</summary>
    public async Task<IReadOnlyList<OtherRow>> OtherAsync(CancellationToken stop = default) =>
        await (
            from money in db.OtherMoney
            join target in db.LedgerAccounts on money.LedgerAccountId equals target.Id
            join place in db.LedgerAccounts on money.MoneyAccountId equals place.Id
            orderby money.Id descending
            select new OtherRow(
                money.BookingId,
                money.Date,
                money.Text,
                target.Name,
                place.Name,
                money.Amount - money.Net,
                money.Amount,
                new Money(money.Money.Amount, money.Money.Currency),
                money.Booking!.UndoneOn != null
            )
        )
            .Take(20)
            .ToListAsync(stop);

    /// <summary>Where money can come in.</summary>
    public async Task<IReadOnlyList<MoneyPlace>> MoneyAccountsAsync(CancellationToken stop = default) =>
        (
            await db
                .LedgerAccounts.Where(a => a.Role == AccountRole.Money && !a.Retired)
                .OrderBy(a => a.Code)
                .Select(a => new
                {
                    a.Id,
                    a.Name,
                    a.Currency,
                })
                .ToListAsync(stop)
        ).ConvertAll(a => new MoneyPlace(a.Id, a.Currency is null ? a.Name : $"{a.Name}, {a.Currency}", a.Currency));

    /// <summary>Whether any account that money comes into is in another currency.</summary>
    public Task<bool> HasForeignAccountsAsync(CancellationToken stop = default) =>
        db.LedgerAccounts.AnyAsync(a => a.Role == AccountRole.Money && a.Currency != null && !a.Retired, stop);

    private sealed class Row
    {
        public required Receipt Receipt { get; init; }

        /// <summary>Null where the receipt was undone.</summary>
        public required AccountItem? Item { get; init; }

        public required string Customer { get; init; }

        public required string Account { get; init; }
    }

    private IQueryable<Row> Rows(IQueryable<Receipt> receipts) =>
        from receipt in receipts
        join found in db.AccountItems on receipt.Id equals found.ReceiptId into there
        from item in there.DefaultIfEmpty()
        join customer in db.Customers on receipt.CustomerId equals customer.Id
        join account in db.LedgerAccounts on receipt.MoneyAccountId equals account.Id
        select new Row
        {
            Receipt = receipt,
            Item = item,
            Customer = customer.Name,
            Account = account.Name,
        };

    private static readonly Expression<Func<Row, ReceiptRow>> ShownRow = r => new ReceiptRow(
        r.Receipt.Id,
        r.Receipt.Number,
        r.Receipt.CustomerId,
        r.Customer,
        r.Receipt.Date,
        r.Account,
        r.Receipt.Reference,
        r.Receipt.Currency,
        r.Receipt.Amount,
        r.Item == null ? 0 : r.Item.Open,
        r.Receipt.IsUndone,
        r.Receipt.Way,
        r.Receipt.CameOn
    );
}
