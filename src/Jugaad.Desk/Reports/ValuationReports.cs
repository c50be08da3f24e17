using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>What is open in other currencies, at the rates of a day; nothing is posted.</summary>
public sealed class ValuationReports(BooksContext db, BooksHead head, OpenItems openItems, RateBook rateBook)
{
    /// <summary>Something that is valued: an open item, or a money account.</summary>
    /// <param name="Code">The customer's; empty for a money account.</param>
    private sealed record Part(
        string Kind,
        string Number,
        string Code,
        string Name,
        DateOnly? Date,
        DateOnly? Due,
        int Order,
        Valued Valued,
        RateOnDay Rate,
        string Address
    );

    /// <summary>What a valuation on a day would post.</summary>
    /// <inheritdoc cref="ValuationAsync"/>
    public async Task<IReadOnlyList<ValuedPart>> PartsAsync(DateOnly day, CancellationToken stop = default) =>
        [
            .. (await ValuedAsync(day, stop)).Select(p => new ValuedPart(
                p.Number,
                p.Valued.Currency.Code,
                p.Valued.Amount,
                p.Valued.Rate,
                p.Valued.Home,
                p.Valued.Kept
            )),
        ];

    private async Task<IReadOnlyList<Part>> ValuedAsync(DateOnly day, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var open = (await openItems.OnAsync(day, null, stop)).Where(i => !i.Currency.Equals(home)).ToList();
        var accounts = await (
            from entry in db.Journal
            where entry.Date <= day
            from line in entry.Lines
            join account in db.LedgerAccounts on line.AccountId equals account.Id
            where account.Role == AccountRole.Money && account.Currency != null
            group line by new
            {
                account.Id,
                account.Code,
                account.Name,
                account.Currency,
            } into same
            select new
            {
                same.Key,
                Amount = same.Sum(l => l.OriginalAmount ?? 0),
                Home = same.Sum(l => l.Debit - l.Credit),
            }
        ).ToListAsync(stop);
        accounts.RemoveAll(a => a.Amount == 0);
        var rates = await RatesAsync(
            [.. open.Select(i => i.Currency).Concat(accounts.Select(a => a.Key.Currency!)).Distinct()],
            day,
            stop
        );
        var ids = open.Select(i => i.CustomerId).Distinct().ToList();
        var names = await db
            .Customers.AsNoTracking()
            .Where(c => ids.Contains(c.Id))
            .Select(c => new
            {
                c.Id,
                c.Code,
                c.Name,
            })
            .ToDictionaryAsync(c => c.Id, stop);
        var parts = open.ConvertAll(i => new Part(
            i.Kind.Word(),
            i.Number,
            names[i.CustomerId].Code,
            names[i.CustomerId].Name,
            i.Date,
            i.Due,
            i.ItemId,
            Valuation.Of(i.Currency, i.Sign * i.Open, i.Sign * i.HomeOpen, rates[i.Currency.Code].Rate, home),
            rates[i.Currency.Code],
            Addresses.Of(i.DocumentId, i.ReceiptId, i.CustomerId) ?? ""
        ));
        parts.AddRange(
            accounts.Select(a => new Part(
                "money account",
                a.Key.Code,
                "",
                a.Key.Name,
                null,
                null,
                a.Key.Id,
                Valuation.Of(a.Key.Currency!, a.Amount, a.Home, rates[a.Key.Currency!.Code].Rate, home),
                rates[a.Key.Currency!.Code],
                ""
            ))
        );
        return
        [
            .. parts
                .OrderBy(p => p.Valued.Currency.Code, StringComparer.Ordinal)
                .ThenBy(p => p.Date is null ? 0 : 1)
                .ThenBy(p => p.Name, StringComparer.OrdinalIgnoreCase)
                .ThenBy(p => p.Due)
                .ThenBy(p => p.Order),
        ];
    }

    /// <summary>Each open item and each money account in another currency, at the last rate up to the day.</summary>
    /// <exception cref="RefusalException">When there is no rate of a currency up to the day, by name.</exception>
    public async Task<Report> ValuationAsync(DateOnly day, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var parts = await ValuedAsync(day, stop);
        return new Report(
            "valuation",
            "Valuation of other currencies",
            $"at the rates of {day:yyyy-MM-dd}, in {home.Code}; what is not realised is not posted",
            [
                new("kind", "Kind"),
                new("number", "Number"),
                new("customer", "Customer", InFilesOnly: true),
                new("name", "Name"),
                new("date", "Date", InFilesOnly: true),
                new("due", "Due"),
                new("currency", "Currency"),
                new("amount", "Amount", true),
                new("rate", "Rate", true),
                new("rateOf", "Rate of", InFilesOnly: true),
                new("quoted", "As quoted", InFilesOnly: true),
                new("home", $"Worth in {home.Code}", true, Adds: true),
                new("kept", $"Kept at in {home.Code}", true, Adds: true),
                new("difference", "Gain, or loss below zero", true, Adds: true),
            ],
            [.. parts.Select(p => Row(p, home))]
        );
    }

    private static ReportRow Row(Part part, Currency home) =>
        new(
            [
                part.Kind,
                part.Number,
                part.Code,
                part.Name,
                part.Date,
                part.Due,
                part.Valued.Currency.Code,
                new Money(part.Valued.Amount, part.Valued.Currency),
                QuotedRate.Shortened(part.Rate.Rate.HomeForOne),
                part.Rate.From,
                part.Rate.Rate.Words(part.Valued.Currency, home),
                new Money(part.Valued.Home, home),
                new Money(part.Valued.Kept, home),
                new Money(part.Valued.Difference, home),
            ],
            part.Address.Length > 0 ? part.Address : null
        );

    /// <summary>The last rate of each currency up to the day.</summary>
    private async Task<IReadOnlyDictionary<string, RateOnDay>> RatesAsync(
        IReadOnlyCollection<Currency> currencies,
        DateOnly day,
        CancellationToken stop
    )
    {
        var rates = await rateBook.AllAsync(day, RateUse.Valuation, stop);
        var missing = currencies.Select(c => c.Code).Where(c => !rates.ContainsKey(c)).Order().ToList();
        return missing.Count == 0
            ? rates
            : throw new RefusalException(
                "on",
                $"There is no exchange rate of {string.Join(", ", missing)} up to {day:yyyy-MM-dd} that is not too old. Enter one under Setup, or choose a later day."
            );
    }
}
