using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>What happened to money and to what customers owe, from the journal; home currency.</summary>
public sealed class MoneyReports(BooksContext db, BooksHead head, GapsInNumbers gaps)
{
    /// <summary>Money from customers by the way it came and the account it came into; what was undone is left out.</summary>
    public async Task<Report> ByWayAsync(ReportAsk ask, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var received = await (
            from entry in db.Journal
            where
                entry.Event == JournalEvent.Receipt
                && !entry.IsMirrored
                && entry.Date >= ask.From
                && entry.Date <= ask.Until
            join receipt in db.Receipts on entry.ReceiptId equals receipt.Id
            join account in db.LedgerAccounts on receipt.MoneyAccountId equals account.Id
            from line in entry.Lines
            where line.AccountId == account.Id
            group line by new
            {
                receipt.Way,
                account.Code,
                account.Name,
            } into one
            select new
            {
                one.Key,
                Count = one.Count(),
                Amount = one.Sum(l => l.Debit - l.Credit),
            }
        ).ToListAsync(stop);
        return new Report(
            "money-by-way",
            "Money received by way and account",
            ask.Range,
            [
                new("way", "Way"),
                new("code", "Account"),
                new("account", "Name of the account"),
                new("receipts", "Receipts", true, Adds: true),
                new("amount", "Received", true, Adds: true),
            ],
            [
                .. received
                    .OrderByDescending(r => r.Amount)
                    .ThenBy(r => r.Key.Way, StringComparer.Ordinal)
                    .Select(r => new ReportRow(
                        [
                            r.Key.Way.Length == 0 ? "not said" : r.Key.Way,
                            r.Key.Code,
                            r.Key.Name,
                            r.Count,
                            new Money(r.Amount, home),
                        ],
                        ask.Address("receipts"),
                        Key: $"{r.Key.Way}|{r.Key.Code}"
                    )),
            ]
        )
        {
            Drawn = "amount",
        };
    }

    /// <summary>What was sold at the counter day by day, and what each count of the cash box found.</summary>
    public async Task<Report> TakingsAsync(ReportAsk ask, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var sold = await (
            from document in db.Documents
            where document.PaidWords != "" && document.Date >= ask.From && document.Date <= ask.Until
            join item in db.AccountItems on document.Id equals item.DocumentId
            group item by document.Date into day
            select new
            {
                day.Key,
                Count = day.Count(),
                Amount = day.Sum(i => i.Sign * i.HomeAmount),
            }
        ).ToDictionaryAsync(d => d.Key, stop);
        var counts = (
            await db
                .TillCounts.AsNoTracking()
                .Where(t => t.Date >= ask.From && t.Date <= ask.Until)
                .OrderBy(t => t.Id)
                .ToListAsync(stop)
        ).ToLookup(t => t.Date);
        return new Report(
            "takings",
            "Takings at the counter",
            ask.Range,
            [
                new("date", "Day"),
                new("sales", "Sales", true, Adds: true),
                new("takings", "Takings", true, Adds: true),
                new("counted", "Counted", true),
                new("difference", "Difference", true, Adds: true),
                new("by", "Counted by"),
            ],
            [
                .. sold
                    .Keys.Union(counts.Select(c => c.Key))
                    .Order()
                    .Select(day => new ReportRow([
                        day,
                        sold.GetValueOrDefault(day)?.Count ?? 0,
                        new Money(sold.GetValueOrDefault(day)?.Amount ?? 0, home),
                        counts[day].LastOrDefault() is { } last ? new Money(last.Counted, home) : null,
                        new Money(counts[day].Sum(c => c.Difference), home),
                        string.Join(", ", counts[day].Select(c => c.By).Distinct()),
                    ])),
            ]
        )
        {
            Drawn = "takings",
            Over = DrawnOver.Days,
        };
    }

    /// <summary>Every number of an invoice, a credit note and a debit note, with gaps and why they are there.</summary>
    public async Task<Report> RegisterAsync(ReportAsk ask, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var posted =
            from document in db.Documents.AsNoTracking()
            join item in db.AccountItems on document.Id equals item.DocumentId
            where document.Date >= ask.From && document.Date <= ask.Until
            select new { Document = document, Amount = item.Sign * item.HomeAmount };
        var series = await db.Series.AsNoTracking().ToDictionaryAsync(s => s.Id, s => s.Name, stop);
        // In the order of their numbers, among which those that were left out stand; then only what is shown is read.
        List<NumberPlace> places = ask.Window is { Take: 0 } ? [] : await PlacesAsync();
        var shown = ask.Window is { } window ? places.Skip(window.Skip).Take(window.Take).ToList() : places;
        var ids = shown.Select(p => p.Id).OfType<int>().ToList();
        var papers = await (ask.Window is null ? posted : posted.Where(p => ids.Contains(p.Document.Id)))
            .Select(p => new
            {
                p.Document.Id,
                p.Document.Date,
                p.Document.Kind,
                p.Document.Customer!.Name,
                p.Document.State,
                p.Amount,
            })
            .ToDictionaryAsync(p => p.Id, stop);
        var rows = shown.ConvertAll(place =>
            place.Id is { } id && papers[id] is var p
                ? new ReportRow(
                    [
                        place.Number,
                        p.Date,
                        KindPolicy.Of(p.Kind).Word,
                        p.Name,
                        new Money(p.Amount, business.HomeCurrency),
                        p.State.ToString().ToLowerInvariant(),
                    ],
                    $"/papers/{id}"
                )
                : new ReportRow(
                    [place.Number, null, "no paper", "", null, $"left out: {place.Gap!.Because}"],
                    Key: $"gap {place.Gap.Id}"
                )
        );
        if (ask.Window is not null && ask.Window.WantsSums(places.Count))
            rows.Add(
                new ReportRow(
                    [
                        "In all",
                        null,
                        null,
                        null,
                        new Money(await posted.SumAsync(p => p.Amount, stop), business.HomeCurrency),
                        null,
                    ],
                    IsSum: true
                )
            );
        return new Report(
            "register",
            "Register of invoices",
            ask.Range,
            [
                new("number", "Number"),
                new("date", "Date"),
                new("kind", "Kind"),
                new("customer", "Customer"),
                new("amount", "Amount", true, Adds: true),
                new("state", "State"),
            ],
            rows
        )
        {
            Of = ask.Window is null ? null : places.Count,
        };

        async Task<List<NumberPlace>> PlacesAsync()
        {
            var given = await posted
                .Select(p => new
                {
                    p.Document.Id,
                    p.Document.SeriesId,
                    p.Document.Number,
                })
                .ToListAsync(stop);
            var left = await gaps.OfAsync(ask.From, ask.Until, stop);
            return
            [
                .. given
                    .Select(p => new NumberPlace(series.GetValueOrDefault(p.SeriesId ?? 0, ""), p.Number!, p.Id, null))
                    .Concat(left.Select(g => new NumberPlace(g.Series, g.Numbers, null, g)))
                    .OrderBy(p => p.Series, StringComparer.Ordinal)
                    .ThenBy(p => p.Number, StringComparer.Ordinal),
            ];
        }
    }

    /// <summary>A number in its series: a paper's, or some that were left out.</summary>
    private sealed record NumberPlace(string Series, string Number, int? Id, LeftOutNumbers? Gap);

    /// <summary>
    /// From what each customer owed before a range of days to what they owed after it; credit is below zero. What was
    /// undone stands on its day with what undid it, so that the two are left out.
    /// </summary>
    public async Task<Report> ChangesAsync(ReportAsk ask, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var before = ask.From.AddDays(-1);
        var receivables = await db
            .LedgerAccounts.Where(a => a.Role == AccountRole.Receivables)
            .Select(a => a.Id)
            .ToListAsync(stop);
        // Each customer's entries lie together, so that nothing has to be sorted.
        var sums = await (
            from entry in db.Journal
            where entry.Date <= ask.Until && !entry.IsMirrored
            from line in entry.Lines
            where receivables.Contains(line.AccountId)
            group new
            {
                Amount = line.Debit - line.Credit,
                line.Debit,
                Early = entry.Date <= before,
                entry.Event,
            } by entry.CustomerId into one
            select new
            {
                Id = one.Key,
                Before = one.Sum(l => l.Early ? l.Amount : 0),
                Billed = one.Sum(l => !l.Early && l.Event == JournalEvent.Document && l.Debit > 0 ? l.Amount : 0),
                Credited = one.Sum(l => !l.Early && l.Event == JournalEvent.Document && l.Debit <= 0 ? l.Amount : 0),
                Received = one.Sum(l =>
                    !l.Early && (l.Event == JournalEvent.Receipt || l.Event == JournalEvent.Returned) ? l.Amount : 0
                ),
                PaidBack = one.Sum(l => !l.Early && l.Event == JournalEvent.Refund ? l.Amount : 0),
                TakenOff = one.Sum(l => !l.Early && l.Event == JournalEvent.Settlement ? l.Amount : 0),
                After = one.Sum(l => l.Amount),
            }
        ).ToListAsync(stop);
        var names = await db
            .Customers.Select(c => new
            {
                c.Id,
                c.Code,
                c.Name,
            })
            .ToDictionaryAsync(c => c.Id, stop);
        var rows = sums.Select(s =>
                (
                    s.Id,
                    Amounts: new[]
                    {
                        s.Before,
                        s.Billed,
                        s.Credited,
                        s.Received,
                        s.PaidBack,
                        s.TakenOff,
                        s.After - s.Before - s.Billed - s.Credited - s.Received - s.PaidBack - s.TakenOff,
                        s.After,
                    }
                )
            )
            .Where(c => c.Amounts.Any(a => a != 0))
            .OrderBy(c => names.GetValueOrDefault(c.Id)?.Name ?? "", StringComparer.OrdinalIgnoreCase)
            .ThenBy(c => c.Id);
        return new Report(
            "changes",
            "Changes in what customers owe",
            ask.Range,
            [
                new("code", "Code"),
                new("customer", "Customer"),
                new("opening", "Before", true, Adds: true),
                new("billed", "Billed", true, Adds: true),
                new("credited", "Credited", true, Adds: true),
                new("received", "Received", true, Adds: true),
                new("refunded", "Paid back", true, Adds: true),
                new("writtenOff", "Taken off", true, Adds: true),
                new("other", "Other", true, Adds: true),
                new("closing", "After", true, Adds: true),
            ],
            [
                .. rows.Select(c => new ReportRow(
                    [
                        names.GetValueOrDefault(c.Id)?.Code,
                        names.GetValueOrDefault(c.Id)?.Name,
                        .. c.Amounts.Select(a => (object?)new Money(a, home)),
                    ],
                    $"/customers/{c.Id}",
                    Key: $"{c.Id}"
                )),
            ]
        );
    }
}
