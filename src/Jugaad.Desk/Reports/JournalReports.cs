using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>One side of an entry.</summary>
/// <param name="Original">What it is in its own currency, at which rate; null for home.</param>
public sealed record EntrySide(string Account, long Debit, long Credit, Original? Original);

/// <summary>One entry of the journal with its lines. Minor units of the home currency.</summary>
public sealed record EntryView(
    int Id,
    DateOnly Date,
    JournalEvent Event,
    string Text,
    int CustomerId,
    int? DocumentId,
    int? ReceiptId,
    int? BookingId,
    IReadOnlyList<EntrySide> Lines
);

/// <summary>Which entries: all of them in a range, or those that one thing was booked by.</summary>
public sealed record EntryFilter(
    DateOnly From,
    DateOnly Until,
    int? DocumentId = null,
    int? ReceiptId = null,
    int? BookingId = null
)
{
    /// <summary>Whether it is about one thing rather than a range of days.</summary>
    public bool IsOfOne => DocumentId is not null || ReceiptId is not null || BookingId is not null;
}

/// <summary>The journal, the sales and the receipts of a range of days, and the book of one account.</summary>
public sealed class JournalReports(BooksContext db, BooksHead head)
{
    private static IQueryable<JournalEntry> Fitting(IQueryable<JournalEntry> entries, EntryFilter filter) =>
        filter switch
        {
            { DocumentId: { } document } => entries.Where(e => e.DocumentId == document),
            { ReceiptId: { } receipt } => entries.Where(e => e.ReceiptId == receipt),
            { BookingId: { } booking } => entries.Where(e => e.BookingId == booking),
            _ => entries.Where(e => e.Date >= filter.From && e.Date <= filter.Until),
        };

    /// <summary>A page of entries, by day and then as they were made, with all lines of each.</summary>
    public async Task<ListPage<EntryView>> EntriesAsync(EntryFilter filter, int page, CancellationToken stop = default)
    {
        var entries = await Fitting(db.Journal.AsNoTracking().Include(e => e.Lines), filter)
            .OrderBy(e => e.Date)
            .ThenBy(e => e.Id)
            .PageAsync(page, stop);
        var names = await NamesAsync(stop);
        return new ListPage<EntryView>(
            [.. entries.Rows.Select(e => View(e, names))],
            entries.Number,
            entries.Size,
            entries.Total
        );
    }

    private static EntryView View(JournalEntry e, Dictionary<int, (string Code, string Name)> names) =>
        new(
            e.Id,
            e.Date,
            e.Event,
            e.Text,
            e.CustomerId,
            e.DocumentId,
            e.ReceiptId,
            e.BookingId,
            [
                .. e
                    .Lines.OrderBy(l => l.Debit == 0)
                    .ThenBy(l => l.Id)
                    .Select(l => new EntrySide(
                        $"{names[l.AccountId].Code} {names[l.AccountId].Name}",
                        l.Debit,
                        l.Credit,
                        l.Original
                    )),
            ]
        );

    private async Task<Dictionary<int, (string Code, string Name)>> NamesAsync(CancellationToken stop) =>
        await db.LedgerAccounts.AsNoTracking().ToDictionaryAsync(a => a.Id, a => (a.Code, a.Name), stop);

    /// <summary>Every line of every entry in a range of days.</summary>
    public async Task<Report> JournalAsync(DateOnly from, DateOnly until, CancellationToken stop = default)
    {
        Check(from, until);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var rows = await (
            from entry in db.Journal.AsNoTracking()
            where entry.Date >= @from && entry.Date <= until
            from line in entry.Lines
            join account in db.LedgerAccounts on line.AccountId equals account.Id
            join found in db.Customers on entry.CustomerId equals found.Id into there
            from customer in there.DefaultIfEmpty()
            orderby entry.Date, entry.Id, line.Id
            select new
            {
                entry.Id,
                entry.Date,
                entry.Text,
                Customer = customer == null ? "" : customer.Code,
                account.Code,
                account.Name,
                line.Debit,
                line.Credit,
                line.Currency,
                line.OriginalAmount,
                line.Rate,
            }
        ).ToListAsync(stop);
        return new Report(
            "journal",
            "Journal",
            Range(from, until),
            [
                new("entry", "Entry", true),
                new("date", "Date"),
                new("text", "What"),
                new("customer", "Customer"),
                new("account", "Account"),
                new("accountName", "Name of the account"),
                new("debit", "Debit", true),
                new("credit", "Credit", true),
                new("currency", "Currency"),
                new("original", "In that currency", true),
                new("rate", "Rate"),
            ],
            [
                .. rows.Select(r => new ReportRow([
                    r.Id,
                    r.Date,
                    r.Text,
                    r.Customer,
                    r.Code,
                    r.Name,
                    Side(r.Debit, home),
                    Side(r.Credit, home),
                    r.Currency?.Code,
                    r.Currency is { } currency && r.OriginalAmount is { } original
                        ? new Money(original, currency)
                        : null,
                    r.Currency is { } of && r.Rate is { } rate ? rate.Words(of, home) : null,
                ])),
            ]
        );
    }

    /// <summary>Every account that has something: what it had, what moved, and what it has; above zero for a debit.</summary>
    public async Task<Report> TrialBalanceAsync(ReportAsk ask, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        // What there was before is all there is, which the index of accounts tells at once, less what came since.
        var all = await ByAccountAsync(db.Set<JournalLine>(), stop);
        var moved = await ByAccountAsync(
            db.Journal.Where(e => e.Date >= ask.From && e.Date <= ask.Until).SelectMany(e => e.Lines),
            stop
        );
        var later = await ByAccountAsync(db.Journal.Where(e => e.Date > ask.Until).SelectMany(e => e.Lines), stop);
        static AccountSums Of(Dictionary<int, AccountSums> sums, LedgerAccount account) =>
            sums.GetValueOrDefault(account.Id, new AccountSums(0, 0, 0));
        var accounts = await db.LedgerAccounts.AsNoTracking().OrderBy(a => a.Code).ToListAsync(stop);
        return new Report(
            "trial-balance",
            "Trial balance",
            ask.Range,
            [
                new("code", "Account"),
                new("account", "Name of the account"),
                new("before", "Before", true, Adds: true),
                new("debit", "Debit", true, Adds: true),
                new("credit", "Credit", true, Adds: true),
                new("after", "After", true, Adds: true),
            ],
            [
                .. accounts
                    // One onto which something came only later is not told of.
                    .Where(a => Of(all, a).Lines > Of(later, a).Lines)
                    .Select(a =>
                    {
                        var now = Of(moved, a);
                        var before = Of(all, a).Home - now.Home - Of(later, a).Home;
                        return new ReportRow(
                            [
                                a.Code,
                                a.Name,
                                new Money(before, home),
                                new Money(now.Debit, home),
                                new Money(now.Credit, home),
                                new Money(before + now.Home, home),
                            ],
                            ask.Address("account", ("account", $"{a.Id}")),
                            Key: $"{a.Id}"
                        );
                    }),
            ]
        );
    }

    /// <summary>What was billed and credited, a document a row, in home currency, with its tax.</summary>
    public async Task<Report> SalesAsync(ReportAsk ask, CancellationToken stop = default)
    {
        Check(ask.From, ask.Until);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var entries = db.Journal.Where(e =>
            e.Event == JournalEvent.Document && e.Date >= ask.From && e.Date <= ask.Until
        );
        var accounts = await db
            .LedgerAccounts.Where(a =>
                a.Role == AccountRole.TaxOwed || a.Role == AccountRole.TaxNotDue || a.Role == AccountRole.Receivables
            )
            .Select(a => new { a.Id, IsTax = a.Role != AccountRole.Receivables })
            .ToListAsync(stop);
        var (taxes, owed) = (
            accounts.Where(a => a.IsTax).Select(a => a.Id).ToList(),
            accounts.Where(a => !a.IsTax).Select(a => a.Id).ToList()
        );
        var (posted, of) = await (
            from entry in entries.AsNoTracking()
            join document in db.Documents on entry.DocumentId equals document.Id
            join customer in db.Customers on entry.CustomerId equals customer.Id
            orderby entry.Date, entry.Id
            select new
            {
                entry.Date,
                document.Id,
                document.Kind,
                document.Number,
                customer.Code,
                customer.Name,
                document.Currency,
                document.Payable,
                Tax = entry.Lines.Where(l => taxes.Contains(l.AccountId)).Sum(l => l.Credit - l.Debit),
                Total = entry.Lines.Where(l => owed.Contains(l.AccountId)).Sum(l => l.Debit - l.Credit),
            }
        ).WindowAsync(ask.Window, stop);
        var rows = posted.ConvertAll(p => new ReportRow(
            [
                p.Date,
                p.Number,
                KindPolicy.Of(p.Kind).Word,
                p.Code,
                p.Name,
                p.Currency.Code,
                new Money(KindPolicy.Of(p.Kind).Raises * p.Payable, p.Currency),
                new Money(p.Total - p.Tax, home),
                new Money(p.Tax, home),
                new Money(p.Total, home),
            ],
            $"/papers/{p.Id}"
        ));
        if (ask.Window.WantsSums(of))
        {
            var sums = (
                await (
                    from entry in entries
                    from line in entry.Lines
                    where taxes.Contains(line.AccountId) || owed.Contains(line.AccountId)
                    group line by line.AccountId into one
                    select new { one.Key, Amount = one.Sum(l => l.Debit - l.Credit) }
                ).ToListAsync(stop)
            ).ToLookup(s => taxes.Contains(s.Key), s => s.Amount);
            var (tax, total) = (-sums[true].Sum(), sums[false].Sum());
            object?[] none = [null, null, null, null, null, null];
            rows.Add(
                new ReportRow(
                    ["In all", .. none, new Money(total - tax, home), new Money(tax, home), new Money(total, home)],
                    IsSum: true
                )
            );
        }

        return new Report(
            "sales-journal",
            "Sales journal",
            ask.Range,
            [
                new("date", "Date"),
                new("number", "Number"),
                new("kind", "Kind"),
                new("customer", "Customer", InFilesOnly: true),
                new("name", "Name"),
                new("currency", "Currency"),
                new("amount", "Amount", true),
                new("net", $"Without tax, {home.Code}", true),
                new("tax", $"Tax, {home.Code}", true),
                new("total", $"In all, {home.Code}", true),
            ],
            rows
        )
        {
            Of = of,
        };
    }

    /// <summary>
    /// What came in from customers, a receipt a row, with where it came into. What was undone is left out.
    /// </summary>
    public async Task<Report> ReceiptsAsync(ReportAsk ask, CancellationToken stop = default)
    {
        Check(ask.From, ask.Until);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var receipts = db.Receipts.AsNoTracking().Where(r => !r.IsUndone && r.Date >= ask.From && r.Date <= ask.Until);
        var (came, of) = await (
            from receipt in receipts
            join item in db.AccountItems on receipt.Id equals item.ReceiptId
            join customer in db.Customers on receipt.CustomerId equals customer.Id
            join account in db.LedgerAccounts on receipt.MoneyAccountId equals account.Id
            orderby receipt.Date, receipt.Id
            select new
            {
                receipt.Date,
                receipt.Id,
                receipt.Number,
                customer.Code,
                customer.Name,
                receipt.Way,
                Into = account.Name,
                receipt.Reference,
                receipt.Currency,
                receipt.Amount,
                item.HomeAmount,
                item.Open,
            }
        ).WindowAsync(ask.Window, stop);
        var rows = came.ConvertAll(r => new ReportRow(
            [
                r.Date,
                r.Number,
                r.Code,
                r.Name,
                r.Into,
                r.Way,
                r.Reference,
                r.Currency.Code,
                new Money(r.Amount, r.Currency),
                new Money(r.Open, r.Currency),
                new Money(r.HomeAmount, home),
            ],
            $"/receive/{r.Id}"
        ));
        if (ask.Window.WantsSums(of))
        {
            var sum = await receipts
                .Join(db.AccountItems, r => r.Id, i => i.ReceiptId, (_, i) => i.HomeAmount)
                .SumAsync(stop);
            object?[] none = [null, null, null, null, null, null, null, null, null];
            rows.Add(new ReportRow(["In all", .. none, new Money(sum, home)], IsSum: true));
        }

        return new Report(
            "receipts-journal",
            "Receipts journal",
            ask.Range,
            [
                new("date", "Date"),
                new("number", "Number"),
                new("customer", "Customer", InFilesOnly: true),
                new("name", "Name"),
                new("into", "Into"),
                new("way", "Way", InFilesOnly: true),
                new("reference", "Reference"),
                new("currency", "Currency"),
                new("amount", "Amount", true),
                new("left", "Not placed now", true),
                new("homeAmount", $"In {home.Code}", true),
            ],
            rows
        )
        {
            Of = of,
        };
    }

    /// <summary>All that moved on one ledger account, with what was on it before and after each.</summary>
    /// <exception cref="RefusalException">When there is no such account.</exception>
    public async Task<Report> AccountBookAsync(int accountId, ReportAsk ask, CancellationToken stop = default)
    {
        Check(ask.From, ask.Until);
        var account =
            await db.LedgerAccounts.AsNoTracking().SingleOrDefaultAsync(a => a.Id == accountId, stop)
            ?? throw new RefusalException("account", "Choose an account.");
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var entries = db.Journal.Where(e => e.Date >= ask.From && e.Date <= ask.Until);
        var lines =
            from entry in entries
            from line in entry.Lines
            where line.AccountId == accountId
            orderby entry.Date, entry.Id, line.Id
            select line;
        var opening = await MovedAsync(
            from entry in db.Journal
            where entry.Date < ask.From
            from line in entry.Lines
            where line.AccountId == accountId
            select line,
            stop
        );
        // The book of an account in another currency has both.
        var currency = account.Currency;
        object?[] InIts(long? moved, long? balance, string? rate = null) =>
            currency is null
                ? []
                :
                [
                    moved is { } m ? new Money(m, currency) : null,
                    rate,
                    balance is { } b ? new Money(b, currency) : null,
                ];
        var (moved, of) = await (
            from entry in entries.AsNoTracking()
            from line in entry.Lines
            where line.AccountId == accountId
            join found in db.Customers on entry.CustomerId equals found.Id into there
            from customer in there.DefaultIfEmpty()
            orderby entry.Date, entry.Id, line.Id
            select new
            {
                entry.Date,
                entry.Text,
                Customer = customer == null ? "" : customer.Name,
                entry.CustomerId,
                entry.DocumentId,
                entry.ReceiptId,
                entry.BookingId,
                line.Debit,
                line.Credit,
                line.OriginalAmount,
                line.Rate,
            }
        ).WindowAsync(ask.Window, stop);
        var skipped = ask.Window is { Skip: > 0 and var skip }
            ? await MovedAsync(lines.Take(skip), stop)
            : new(0, 0, 0);
        var (balance, own) = (opening.Home + skipped.Home, opening.Own + skipped.Own);
        var rows = new List<ReportRow>();
        if (ask.Window is not { Skip: > 0 } and not { Take: 0 })
            rows.Add(
                new(
                    [ask.From, "Balance before", null, null, null, new Money(balance, home), .. InIts(null, own)],
                    IsSum: true
                )
            );
        foreach (var line in moved)
        {
            balance += line.Debit - line.Credit;
            own += line.OriginalAmount ?? 0;
            var address =
                line.ReceiptId is not null || line.DocumentId is not null
                    ? Addresses.Of(line.DocumentId, line.ReceiptId, line.CustomerId)
                : line.BookingId is { } booking ? $"/reports/entries?booking={booking}"
                : null;
            rows.Add(
                new ReportRow(
                    [
                        line.Date,
                        line.Text,
                        line.Customer,
                        Side(line.Debit, home),
                        Side(line.Credit, home),
                        new Money(balance, home),
                        .. InIts(
                            line.OriginalAmount,
                            own,
                            currency is not null && line.Rate is { } rate ? rate.Words(currency, home) : null
                        ),
                    ],
                    address
                )
            );
        }

        if (ask.Window.WantsSums(of))
        {
            var all = ask.Window is null
                ? new Moved(moved.Sum(l => l.Debit), moved.Sum(l => l.Credit), moved.Sum(l => l.OriginalAmount ?? 0))
                : await MovedAsync(lines, stop);
            rows.Add(
                new ReportRow(
                    [
                        ask.Until,
                        "Balance after",
                        null,
                        new Money(all.Debit, home),
                        new Money(all.Credit, home),
                        new Money(opening.Home + all.Home, home),
                        .. InIts(null, opening.Own + all.Own),
                    ],
                    IsSum: true
                )
            );
        }

        return new Report(
            $"account-{account.Code}",
            $"Book of {account.Code} {account.Name}",
            ask.Range,
            [
                new("date", "Date"),
                new("text", "What"),
                new("customer", "Customer"),
                new("in", "In", true),
                new("out", "Out", true),
                new("balance", $"Balance {home.Code}", true),
                .. currency is null
                    ? (ReportColumn[])[]
                    :
                    [
                        new("original", $"Moved in {currency}", true),
                        new("rate", "Rate"),
                        new("ownBalance", $"Balance {currency}", true),
                    ],
            ],
            rows
        )
        {
            Of = of,
        };
    }

    /// <param name="Lines">How many.</param>
    private sealed record AccountSums(long Debit, long Credit, int Lines)
    {
        internal long Home => Debit - Credit;
    }

    /// <summary>What lines come to, account by account.</summary>
    private static async Task<Dictionary<int, AccountSums>> ByAccountAsync(
        IQueryable<JournalLine> lines,
        CancellationToken stop
    ) =>
        await lines
            .GroupBy(l => l.AccountId)
            .Select(g => new { g.Key, Sums = new AccountSums(g.Sum(l => l.Debit), g.Sum(l => l.Credit), g.Count()) })
            .ToDictionaryAsync(g => g.Key, g => g.Sums, stop);

    /// <summary>What lines of one account come to.</summary>
    private sealed record Moved(long Debit, long Credit, long Own)
    {
        internal long Home => Debit - Credit;
    }

    private static async Task<Moved> MovedAsync(IQueryable<JournalLine> lines, CancellationToken stop) =>
        await lines
            .GroupBy(_ => 1)
            .Select(g => new Moved(g.Sum(l => l.Debit), g.Sum(l => l.Credit), g.Sum(l => l.OriginalAmount ?? 0)))
            .FirstOrDefaultAsync(stop)
        ?? new Moved(0, 0, 0);

    private static Money? Side(long minor, Currency home) => minor == 0 ? null : new Money(minor, home);

    internal static string Range(DateOnly from, DateOnly until) => $"{from:yyyy-MM-dd} to {until:yyyy-MM-dd}";

    internal static void Check(DateOnly from, DateOnly until)
    {
        if (until < from)
            throw new RefusalException("until", "The last day is before the first. Choose a later one.");
    }
}
