using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

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
public sealed class AgedReports(BooksContext db, BooksHead head, OpenItems openItems, IAgreements agreements)
{
    /// <summary>Aged balances by customer, with the items behind them.</summary>
    public async Task<AgedBalances> AgedAsync(DateOnly day, CancellationToken stop = default)
    {
        // What is open and what the journal says of it are held against each other.
        await using var moment = await ReadMoment.BeginAsync(db, stop);
        var business = await head.BusinessAsync(stop);
        var agreed = await agreements.OnAsync(day, null, stop);
        var open = await openItems.OnAsync(day, null, stop);
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
                Ageing.On(day, g.SelectMany(agreed.Aged), business.Edges),
                [.. g.Select(agreed.Due).OrderBy(i => business.AgesByDate ? i.Date : i.Due).ThenBy(i => i.ItemId)]
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
        // Most businesses are in dispute about nothing, and need no column for it.
        var anyDisputed = aged.Rows.Any(r => r.Aged.Disputed != 0);
        if (anyDisputed)
            columns.Add(new("inDispute", "In dispute", true));
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
                    .. anyDisputed ? new object?[] { new Money(r.Aged.Disputed, r.Currency) } : [],
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
        var agreed = await agreements.OnAsync(day, null, stop);
        var open = (await openItems.OnAsync(day, null, stop)).Select(agreed.Due);
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
        var agreed = await agreements.OnAsync(day, customer.Id, stop);
        var open = (await openItems.OnAsync(day, customer.Id, stop)).Select(agreed.Due).ToList();
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
