using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>What is open in other currencies, at the rates of a day; nothing is posted.</summary>
public sealed class ValuationReports(BooksContext db, BooksHead head, OpenItems openItems, RateBook rateBook)
{
    /// <summary>Each open item in another currency, at the last rate up to the day.</summary>
    /// <exception cref="RefusalException">When there is no rate of a currency up to the day, by name.</exception>
    public async Task<Report> ValuationAsync(DateOnly day, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var open = (await openItems.OnAsync(day, null, stop)).Where(i => !i.Currency.Equals(home)).ToList();
        var rates = await RatesAsync([.. open.Select(i => i.Currency).Distinct()], day, stop);
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
        return new Report(
            "valuation",
            "Valuation of other currencies",
            $"at the rates of {day:yyyy-MM-dd}, in {home.Code}; what is not realised is not posted",
            [
                new("kind", "Kind"),
                new("number", "Number"),
                new("customer", "Customer", InFilesOnly: true),
                new("name", "Name"),
                new("date", "Date"),
                new("due", "Due"),
                new("currency", "Currency"),
                new("amount", "Amount", true),
                new("rate", "Rate", true),
                new("rateOf", "Rate of"),
                new("home", $"Worth in {home.Code}", true, Adds: true),
                new("kept", $"Kept at in {home.Code}", true, Adds: true),
                new("difference", "Gain, or loss below zero", true, Adds: true),
            ],
            [
                .. open.OrderBy(i => i.Currency.Code, StringComparer.Ordinal)
                    .ThenBy(i => names[i.CustomerId].Name, StringComparer.OrdinalIgnoreCase)
                    .ThenBy(i => i.Due)
                    .ThenBy(i => i.ItemId)
                    .Select(i =>
                        Row(i, names[i.CustomerId].Code, names[i.CustomerId].Name, rates[i.Currency.Code], home)
                    ),
            ]
        );
    }

    private static ReportRow Row(OpenOnDay item, string code, string name, RateOnDay rate, Currency home)
    {
        var valued = Valuation.Of(item.Currency, item.Sign * item.Open, item.Sign * item.HomeOpen, rate.Rate, home);
        return new ReportRow(
            [
                item.Kind.Word(),
                item.Number,
                code,
                name,
                item.Date,
                item.Due,
                item.Currency.Code,
                new Money(valued.Amount, item.Currency),
                QuotedRate.Shortened(rate.Rate.HomeForOne),
                rate.From,
                new Money(valued.Home, home),
                new Money(valued.Kept, home),
                new Money(valued.Difference, home),
            ],
            Addresses.Of(item.DocumentId, item.ReceiptId, item.CustomerId)
        );
    }

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
