using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>Something that was open at the end of a day. Amounts are minor units.</summary>
/// <param name="AgedBy">The day that it is aged by: its due day, or its date.</param>
/// <param name="HomeOpen">What of it was open in home currency.</param>
public sealed record OpenOnDay(
    int ItemId,
    int CustomerId,
    AccountItemKind Kind,
    string Number,
    DateOnly Date,
    DateOnly Due,
    DateOnly AgedBy,
    Currency Currency,
    long Amount,
    long Open,
    long HomeOpen,
    int Sign,
    int? DocumentId,
    int? ReceiptId
);

/// <summary>One customer's aged balance in one currency.</summary>
public sealed record AgedRow(
    int CustomerId,
    string Code,
    string Name,
    Currency Currency,
    AgedBalance Aged,
    IReadOnlyList<OpenOnDay> Items
);

/// <summary>Aged balances at the end of a day.</summary>
/// <param name="HomeBalance">All of it in home currency, by what each item's own rate makes it.</param>
/// <param name="Receivables">What the journal says for receivables at the end of the day; the two are the same
/// figure.</param>
public sealed record AgedBalances(
    DateOnly Day,
    IReadOnlyList<int> Edges,
    bool ByDate,
    IReadOnlyList<AgedRow> Rows,
    long HomeBalance,
    long Receivables
);

/// <summary>What was open on any day: what was open then, not what is open now.</summary>
public sealed class AgedReports(BooksContext db, BooksHead head)
{
    /// <param name="Freed">Whether the item had this open on the day and not now; else the other way round.</param>
    private sealed record Change(int ItemId, bool Freed, long Amount, long Home);

    /// <summary>All that was open at the end of a day.</summary>
    /// <param name="customerId">Of one customer only.</param>
    public async Task<IReadOnlyList<OpenOnDay>> OpenAsync(
        DateOnly day,
        int? customerId = null,
        CancellationToken stop = default
    )
    {
        var byDate = (await head.BusinessAsync(stop)).AgesByDate;
        // What is open now is kept; only what was set against each other, or taken apart, after the day changes it.
        var later = db
            .Allocations.IgnoreQueryFilters()
            .AsNoTracking()
            .Where(a => (a.Date > day && a.Until == null) || (a.Date <= day && a.Until > day));
        if (customerId is { } one)
            later = later.Where(a => a.Raising.CustomerId == one);
        var raised = await later
            .Where(a => a.Raising.Date <= day)
            .Select(a => new Change(a.RaisingId, a.Date > day, a.Amount, a.HomeRaising))
            .ToListAsync(stop);
        var lowered = await later
            .Where(a => a.Lowering.Date <= day)
            .Select(a => new Change(a.LoweringId, a.Date > day, a.Amount, a.HomeLowering))
            .ToListAsync(stop);
        var back = raised
            .Concat(lowered)
            .GroupBy(c => c.ItemId)
            .ToDictionary(
                g => g.Key,
                g => (Amount: g.Sum(c => c.Freed ? c.Amount : -c.Amount), Home: g.Sum(c => c.Freed ? c.Home : -c.Home))
            );

        var items = db
            .AccountItems.AsNoTracking()
            .Where(i => i.Date <= day && (customerId == null || i.CustomerId == customerId));
        var rows = await Shown(items.Where(i => i.Open > 0)).ToListAsync(stop);
        var there = rows.Select(r => r.ItemId).ToHashSet();
        foreach (var some in back.Keys.Where(id => !there.Contains(id)).Chunk(5_000))
            rows.AddRange(await Shown(items.Where(i => some.Contains(i.Id))).ToListAsync(stop));
        return
        [
            .. rows.Select(r =>
                    back.TryGetValue(r.ItemId, out var so)
                        ? r with
                        {
                            Open = r.Open + so.Amount,
                            HomeOpen = r.HomeOpen + so.Home,
                        }
                        : r
                )
                .Where(r => r.Open != 0)
                .Select(r => byDate ? r with { AgedBy = r.Date } : r),
        ];
    }

    private static IQueryable<OpenOnDay> Shown(IQueryable<AccountItem> items) =>
        items.Select(i => new OpenOnDay(
            i.Id,
            i.CustomerId,
            i.Kind,
            i.Number,
            i.Date,
            i.Due,
            i.Due,
            i.Currency,
            i.Amount,
            i.Open,
            i.HomeOpen,
            i.Sign,
            i.DocumentId,
            i.ReceiptId
        ));

    /// <summary>Aged balances by customer, with the items behind them.</summary>
    public async Task<AgedBalances> AgedAsync(DateOnly day, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var open = await OpenAsync(day, null, stop);
        var customers = await db
            .Customers.AsNoTracking()
            .Select(c => new
            {
                c.Id,
                c.Code,
                c.Name,
            })
            .ToDictionaryAsync(c => c.Id, stop);
        var rows = open.GroupBy(i => (i.CustomerId, i.Currency))
            .Select(g => new AgedRow(
                g.Key.CustomerId,
                customers[g.Key.CustomerId].Code,
                customers[g.Key.CustomerId].Name,
                g.Key.Currency,
                Ageing.On(day, g.Select(i => (i.Sign > 0, i.AgedBy, i.Open)), business.Edges),
                [.. g.OrderBy(i => i.AgedBy).ThenBy(i => i.ItemId)]
            ))
            .OrderBy(r => r.Name, StringComparer.OrdinalIgnoreCase)
            .ThenBy(r => r.CustomerId)
            .ToList();
        return new AgedBalances(
            day,
            business.Edges,
            business.AgesByDate,
            rows,
            open.Sum(i => i.Sign * i.HomeOpen),
            await ReceivablesAsync(day, stop)
        );
    }

    /// <summary>
    /// What the books say is owed at the end of a day: all that was ever posted, less what came after, which is seldom
    /// much.
    /// </summary>
    private async Task<long> ReceivablesAsync(DateOnly day, CancellationToken stop)
    {
        var accounts = db.LedgerAccounts.Where(a => a.Role == AccountRole.Receivables).Select(a => a.Id);
        var posted = await db.Set<JournalLine>()
            .Where(l => accounts.Contains(l.AccountId))
            .SumAsync(l => l.Debit - l.Credit, stop);
        var after = await (
            from entry in db.Journal
            where entry.Date > day
            join line in db.Set<JournalLine>() on entry.Id equals line.EntryId
            where accounts.Contains(line.AccountId)
            select line.Debit - line.Credit
        ).SumAsync(stop);
        return posted - after;
    }

    /// <summary>The same as a report for files.</summary>
    public async Task<Report> AgedReportAsync(DateOnly day, CancellationToken stop = default)
    {
        var aged = await AgedAsync(day, stop);
        List<ReportColumn> columns =
        [
            new("customer", "Customer"),
            new("name", "Name"),
            new("currency", "Currency"),
            new("notYetDue", aged.ByDate ? "Of that day" : "Not yet due", true),
        ];
        columns.AddRange(
            Ageing
                .Heads(aged.Edges)
                .Select(h => new ReportColumn(
                    "late" + h.Replace("over ", "Over", StringComparison.Ordinal).Replace('–', '-'),
                    h,
                    true
                ))
        );
        columns.AddRange([new("credit", "Credit", true), new("balance", "Balance", true)]);
        return new Report(
            "aged-balances",
            "Aged balances",
            $"at the end of {day:yyyy-MM-dd}",
            columns,
            [
                .. aged.Rows.Select(r => new ReportRow([
                    r.Code,
                    r.Name,
                    r.Currency.Code,
                    new Money(r.Aged.NotYetDue, r.Currency),
                    .. r.Aged.Late.Select(l => new Money(l, r.Currency)),
                    new Money(r.Aged.Credit, r.Currency),
                    new Money(r.Aged.Balance, r.Currency),
                ])),
            ]
        );
    }

    /// <summary>Every item that was open at the end of a day.</summary>
    public async Task<Report> OpenItemsAsync(DateOnly day, CancellationToken stop = default)
    {
        var names = await db
            .Customers.AsNoTracking()
            .Select(c => new
            {
                c.Id,
                c.Code,
                c.Name,
            })
            .ToDictionaryAsync(c => c.Id, stop);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var open = await OpenAsync(day, null, stop);
        return new Report(
            "open-items",
            "Open items",
            $"at the end of {day:yyyy-MM-dd}",
            [
                new("customer", "Customer", InFilesOnly: true),
                new("name", "Name"),
                new("number", "Number"),
                new("kind", "Kind"),
                new("date", "Date"),
                new("due", "Due"),
                new("daysLate", "Days late", true),
                new("currency", "Currency"),
                new("amount", "Amount", true),
                new("open", "Open", true),
                new("homeOpen", $"Open in {home.Code}", true),
            ],
            [
                .. open.OrderBy(i => names[i.CustomerId].Name, StringComparer.OrdinalIgnoreCase)
                    .ThenBy(i => i.Due)
                    .ThenBy(i => i.ItemId)
                    .Select(i => new ReportRow(
                        [
                            names[i.CustomerId].Code,
                            names[i.CustomerId].Name,
                            i.Number,
                            i.Kind.Word(),
                            i.Date,
                            i.Due,
                            i.Sign > 0 ? Math.Max(0, day.DayNumber - i.Due.DayNumber) : null,
                            i.Currency.Code,
                            new Money(i.Sign * i.Amount, i.Currency),
                            new Money(i.Sign * i.Open, i.Currency),
                            new Money(i.Sign * i.HomeOpen, home),
                        ],
                        Addresses.Of(i.DocumentId, i.ReceiptId, i.CustomerId)
                    )),
            ]
        );
    }

    /// <summary>What one customer owed at the end of a day: each open item, and what they come to.</summary>
    /// <exception cref="Core.RefusalException">When there is no such customer.</exception>
    public async Task<Report> StatementAsync(string code, DateOnly day, CancellationToken stop = default)
    {
        var customer =
            await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Code == code, stop)
            ?? throw new Core.RefusalException("customer", $"There is no customer with the code {code}.");
        var open = await OpenAsync(day, customer.Id, stop);
        var rows = open.OrderBy(i => i.Due)
            .ThenBy(i => i.Date)
            .ThenBy(i => i.Number, StringComparer.Ordinal)
            .Select(i => new ReportRow(
                [
                    i.Number,
                    i.Kind.Word(),
                    i.Date,
                    i.Due,
                    i.Sign > 0 ? Math.Max(0, day.DayNumber - i.Due.DayNumber) : null,
                    i.Currency.Code,
                    new Money(i.Sign * i.Amount, i.Currency),
                    new Money(i.Sign * i.Open, i.Currency),
                ],
                Addresses.Of(i.DocumentId, i.ReceiptId, i.CustomerId)
            ))
            .ToList();
        rows.AddRange(
            open.GroupBy(i => i.Currency)
                .Select(g => new ReportRow(
                    [
                        "Owed in all",
                        null,
                        null,
                        null,
                        null,
                        g.Key.Code,
                        null,
                        new Money(g.Sum(i => i.Sign * i.Open), g.Key),
                    ],
                    IsSum: true
                ))
        );
        return new Report(
            $"statement-{code.ToLowerInvariant()}",
            $"Statement of {customer.Name}",
            $"what was open at the end of {day:yyyy-MM-dd}",
            [
                new("number", "Number"),
                new("kind", "Kind"),
                new("date", "Date"),
                new("due", "Due"),
                new("daysLate", "Days late", true),
                new("currency", "Currency"),
                new("amount", "Amount", true),
                new("open", "Open", true),
            ],
            rows
        );
    }
}
