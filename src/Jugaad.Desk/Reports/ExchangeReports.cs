using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>What exchange rates gained and lost, and what there is in each currency.</summary>
public sealed class ExchangeReports(BooksContext db, BooksHead head, ValuationReports valuations)
{
    /// <summary>
    /// Every entry on exchange differences in a range of days, which together are what the account moved: realised with
    /// what was set against each other or when an account came to nothing, and not realised with a valuation.
    /// </summary>
    public async Task<Report> DifferencesAsync(DateOnly from, DateOnly until, CancellationToken stop = default)
    {
        JournalReports.Check(from, until);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var rows = await (
            from entry in db.Journal.AsNoTracking()
            where entry.Date >= @from && entry.Date <= until
            from line in entry.Lines
            join account in db.LedgerAccounts on line.AccountId equals account.Id
            where account.Role == AccountRole.ExchangeDifferences
            join found in db.Customers on entry.CustomerId equals found.Id into there
            from customer in there.DefaultIfEmpty()
            orderby entry.Date, entry.Id, line.Id
            select new
            {
                entry.Id,
                entry.Date,
                entry.Event,
                entry.Text,
                entry.BookingId,
                entry.DocumentId,
                entry.CustomerId,
                Code = customer == null ? "" : customer.Code,
                Name = customer == null ? "" : customer.Name,
                Gain = line.Credit - line.Debit,
            }
        ).ToListAsync(stop);
        var bookings = rows.Select(r => r.BookingId).OfType<int>().Distinct().ToList();
        var ties = await db
            .Allocations.IgnoreQueryFilters()
            .Where(a =>
                (a.BookingId != null && bookings.Contains(a.BookingId.Value))
                || (a.EndedById != null && bookings.Contains(a.EndedById.Value))
            )
            .Select(a => new
            {
                a.BookingId,
                a.EndedById,
                a.Raising.Currency,
            })
            .ToListAsync(stop);
        var ofBooking = ties.SelectMany(t =>
                new[] { t.BookingId, t.EndedById }.OfType<int>().Select(b => (Booking: b, t.Currency.Code))
            )
            .Distinct()
            .ToLookup(t => t.Booking, t => t.Code);
        var emptied = rows.Where(r => r.Event == JournalEvent.AccountEmptied).Select(r => r.Id).ToList();
        var ofAccount = (
            await (
                from entry in db.Journal
                where emptied.Contains(entry.Id)
                from line in entry.Lines
                join account in db.LedgerAccounts on line.AccountId equals account.Id
                where account.Currency != null
                select new { entry.Id, account.Currency }
            ).ToListAsync(stop)
        ).ToDictionary(a => a.Id, a => a.Currency!.Code);
        // A document or a settlement has one where its tax is told at an authority's own rate.
        var taxed = rows.Where(r => r.Event is JournalEvent.Document or JournalEvent.Settlement)
            .Select(r => r.Id)
            .ToList();
        var ofTax = (
            await db
                .Journal.Where(e => taxed.Contains(e.Id))
                .SelectMany(e => e.Lines)
                .Where(l => l.Currency != null)
                .Select(l => new { l.EntryId, l.Currency })
                .Distinct()
                .ToListAsync(stop)
        ).ToDictionary(l => l.EntryId, l => l.Currency!.Code);
        return new Report(
            "exchange-differences",
            "Exchange gains and losses",
            $"{JournalReports.Range(from, until)}, in {home.Code}",
            [
                new("month", "Month"),
                new("date", "Date"),
                new("customer", "Customer", InFilesOnly: true),
                new("name", "Name"),
                new("currency", "Currency"),
                new("kind", "Kind"),
                new("what", "What"),
                new("gain", "Gain, or loss below zero", true, Adds: true),
            ],
            [
                .. rows.Select(r => new ReportRow(
                    [
                        $"{r.Date:yyyy-MM}",
                        r.Date,
                        r.Code,
                        r.Name,
                        ofAccount.GetValueOrDefault(
                            r.Id,
                            ofTax.TryGetValue(r.Id, out var billed) ? billed
                                : r.BookingId is { } b ? string.Join(" ", ofBooking[b].Order(StringComparer.Ordinal))
                                : ""
                        ),
                        r.Event is JournalEvent.Valuation or JournalEvent.ValuationReversed ? "not realised"
                        : ofTax.ContainsKey(r.Id) ? "tax at the authority's rate"
                        : "realised",
                        r.Text,
                        new Money(r.Gain, home),
                    ],
                    r.BookingId is { } booking ? $"/reports/entries?booking={booking}"
                        : r.DocumentId is { } document ? Addresses.Of(document, null, 0)
                        : null
                )),
            ]
        );
    }

    /// <summary>What is owed, owing and on accounts in each other currency on a day, at its rate and as it is kept.</summary>
    /// <inheritdoc cref="ValuationReports.ValuationAsync"/>
    public async Task<Report> BalancesAsync(DateOnly day, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var parts = await valuations.PartsAsync(day, stop);
        var accounts = (
            await db
                .LedgerAccounts.Where(a => a.Role == AccountRole.Money && a.Currency != null)
                .Select(a => a.Code)
                .ToListAsync(stop)
        ).ToHashSet();
        string KindOf(ValuedPart part) =>
            accounts.Contains(part.What) ? "on money accounts"
            : part.Amount > 0 ? "owed to us"
            : "owed by us";
        return new Report(
            "currency-balances",
            "Balances by currency",
            $"on {day:yyyy-MM-dd}, at the rates of that day, in {home.Code}",
            [
                new("currency", "Currency"),
                new("kind", "Kind"),
                new("amount", "Amount", true),
                new("quoted", "Rate used"),
                new("home", $"Worth in {home.Code}", true, Adds: true),
                new("kept", $"Kept at in {home.Code}", true, Adds: true),
                new("difference", "Gain, or loss below zero", true, Adds: true),
            ],
            [
                .. parts
                    .GroupBy(p => (p.Currency, Kind: KindOf(p), p.Rate))
                    .OrderBy(g => g.Key.Currency, StringComparer.Ordinal)
                    .ThenBy(g => g.Key.Kind, StringComparer.Ordinal)
                    .Select(g =>
                    {
                        var currency = Currency.Of(g.Key.Currency);
                        return new ReportRow([
                            currency.Code,
                            g.Key.Kind,
                            new Money(g.Sum(p => p.Amount), currency),
                            g.Key.Rate.Words(currency, home),
                            new Money(g.Sum(p => p.Home), home),
                            new Money(g.Sum(p => p.Kept), home),
                            new Money(g.Sum(p => p.Home - p.Kept), home),
                        ]);
                    }),
            ]
        );
    }
}
