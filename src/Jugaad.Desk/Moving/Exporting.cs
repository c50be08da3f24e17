using System.Globalization;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>Moves tables out, under the same heads under which they are moved in.</summary>
public sealed class Exporting(BooksContext db, BookWriter writer, BooksHead head, ITableFiles files)
{
    /// <summary>A table as a file; that it was taken out stands in the trail.</summary>
    /// <exception cref="Core.RefusalException">While the books are empty.</exception>
    public async Task<byte[]> FileAsync(MovingKind kind, TableForm form, CancellationToken stop = default)
    {
        var file = files.Write(await TableAsync(kind, stop), form);
        await writer.NoteAsync(Right.See, $"Written out as a file: {MovingFields.Words(kind)}");
        return file;
    }

    public static string NameOf(MovingKind kind, TableForm form) =>
        $"{MovingFields.Key(kind)}.{form.ToString().ToLowerInvariant()}";

    public async Task<Table> TableAsync(MovingKind kind, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var rows = kind switch
        {
            MovingKind.Customers => await CustomersAsync(stop),
            MovingKind.Items => await ItemsAsync(stop),
            MovingKind.Prices => await PricesAsync(stop),
            MovingKind.ItemNumbers => await ItemNumbersAsync(stop),
            MovingKind.OpenItems => await OpenItemsAsync(home, stop),
            _ => await BalancesAsync(home, stop),
        };
        return new Table(MovingFields.Of(kind).Select(f => f.Key).ToList(), rows);
    }

    private async Task<List<IReadOnlyList<string>>> CustomersAsync(CancellationToken stop)
    {
        var lists = await db.PriceLists.ToDictionaryAsync(l => l.Id, l => l.Name, stop);
        var people = await db.Users.ToDictionaryAsync(u => u.Id, u => u.FullName, stop);
        var customers = await db
            .Customers.AsNoTracking()
            .Include(c => c.Terms)
            .Include(c => c.Contacts)
            .Include(c => c.Places)
            .Include(c => c.Certificates)
            .Where(c => c.MergedIntoId == null)
            .OrderBy(c => c.Code)
            .AsSplitQuery()
            .ToListAsync(stop);
        return customers.ConvertAll(c =>
        {
            var d = c.Details();
            return (IReadOnlyList<string>)
                [
                    c.Code,
                    c.Name,
                    c.OtherName,
                    c.Kind == CustomerKind.PublicBody ? "public body" : c.Kind.ToString().ToLowerInvariant(),
                    c.RegistrationNumber,
                    c.TaxNumber,
                    c.ContactName,
                    c.Email,
                    c.Phone,
                    c.Mobile,
                    c.Address.Street,
                    c.Address.PostalCode,
                    c.Address.City,
                    c.Address.Region,
                    c.Address.Country,
                    c.Language,
                    c.Currency.Code,
                    c.AlsoIn,
                    c.Terms?.Name ?? "",
                    c.CreditLimit is { } limit ? new Money(limit, c.Currency).ToString() : "",
                    c.TradeDiscount == 0 ? "" : PlainDecimal.Text(c.TradeDiscount),
                    c.PriceListId is { } list ? lists.GetValueOrDefault(list, "") : "",
                    c.SellerId is { } seller ? people.GetValueOrDefault(seller, "") : "",
                    d.Tags,
                    c.PrivateNote,
                    Flag(c.Inactive),
                    c.NoMoreReason,
                    c.RiskGrade,
                    c.Electronic.Scheme,
                    c.Electronic.Value,
                    c.BuyerReference,
                    c.ContractReference,
                    CustomerCells.Write(c.Takes),
                    CustomerCells.Write(d.Contacts),
                    CustomerCells.Write(d.Places),
                    CustomerCells.Write(d.Certificates),
                ];
        });
    }

    private async Task<List<IReadOnlyList<string>>> ItemsAsync(CancellationToken stop)
    {
        var taxes = await db.TaxCodes.ToDictionaryAsync(c => c.Id, c => c.Code, stop);
        var accounts = await db.LedgerAccounts.ToDictionaryAsync(a => a.Id, a => a.Code, stop);
        return (await db.Items.AsNoTracking().OrderBy(i => i.Code).ToListAsync(stop)).ConvertAll(i =>
            (IReadOnlyList<string>)
                [
                    i.Code,
                    i.Name,
                    i.Text,
                    Flag(i.IsGoods),
                    i.Unit,
                    PlainDecimal.Text(i.Price),
                    Flag(i.PriceIncludesTax),
                    PlainDecimal.Text(i.Cost),
                    taxes[i.TaxCodeId],
                    accounts[i.LedgerAccountId],
                    string.Join(", ", Barcodes.Split(i.Barcode)),
                    i.Classification,
                    i.ClassificationList,
                    i.OriginCountry,
                    Flag(i.KeepsCount),
                    Flag(i.Inactive),
                ]
        );
    }

    private async Task<List<IReadOnlyList<string>>> PricesAsync(CancellationToken stop)
    {
        var lists = await db.PriceLists.AsNoTracking().ToDictionaryAsync(l => l.Id, stop);
        var items = await db.Items.AsNoTracking().OrderBy(i => i.Code).ToListAsync(stop);
        return items
            .SelectMany(i =>
                i.Prices.OrderBy(p => lists[p.PriceListId].Name, StringComparer.Ordinal)
                    .Select(p =>
                        (IReadOnlyList<string>)
                            [
                                i.Code,
                                lists[p.PriceListId].Name,
                                lists[p.PriceListId].Currency.Code,
                                Flag(lists[p.PriceListId].IncludesTax),
                                PlainDecimal.Text(p.Price),
                            ]
                    )
            )
            .ToList();
    }

    private async Task<List<IReadOnlyList<string>>> ItemNumbersAsync(CancellationToken stop) =>
        (
            await db
                .ItemNumbers.AsNoTracking()
                .Join(
                    db.Items,
                    n => n.ItemId,
                    i => i.Id,
                    (n, i) =>
                        new
                        {
                            n.CustomerId,
                            Item = i.Code,
                            n.Number,
                        }
                )
                .Join(
                    db.Customers,
                    n => n.CustomerId,
                    c => c.Id,
                    (n, c) =>
                        new
                        {
                            Customer = c.Code,
                            n.Item,
                            n.Number,
                        }
                )
                .OrderBy(n => n.Customer)
                .ThenBy(n => n.Item)
                .ToListAsync(stop)
        ).ConvertAll(n => (IReadOnlyList<string>)[n.Customer, n.Item, n.Number]);

    /// <summary>What is open now, credits below zero.</summary>
    private async Task<List<IReadOnlyList<string>>> OpenItemsAsync(Currency home, CancellationToken stop)
    {
        var customers = await db.Customers.ToDictionaryAsync(c => c.Id, c => c.Code, stop);
        var items = await db
            .AccountItems.AsNoTracking()
            .Where(i => i.Open > 0)
            .OrderBy(i => i.CustomerId)
            .ThenBy(i => i.Date)
            .ThenBy(i => i.Number)
            .ToListAsync(stop);
        var codes = await TaxCodesAsync(stop);
        return items
            .OrderBy(i => customers[i.CustomerId], StringComparer.Ordinal)
            .Select(i =>
                (IReadOnlyList<string>)
                    [
                        customers[i.CustomerId],
                        i.Raises ? "invoice" : "credit",
                        i.Number,
                        Day(i.Date),
                        i.Raises ? Day(i.Due) : "",
                        new Money(i.Sign * i.Open, i.Currency).ToString(),
                        i.Currency.Code,
                        i.Currency.Equals(home) ? "" : PlainDecimal.Text(Rate(i, home)),
                        codes.GetValueOrDefault(i.Id, ""),
                    ]
            )
            .ToList();
    }

    /// <summary>
    /// By item that is open and whose tax is told as it is paid, the one code by which it is taxed; none where it has
    /// taxes of several.
    /// </summary>
    private async Task<Dictionary<int, string>> TaxCodesAsync(CancellationToken stop)
    {
        var codes = (await db.TaxCodes.AsNoTracking().OrderBy(c => c.Id).ToListAsync(stop)).ConvertAll(c =>
            (c.Code, c.Category, Parts: c.Parts.Select(p => (int?)p.Component.Id).Order().ToList())
        );
        var rules = (await db.TaxAuthorities.AsNoTracking().ToListAsync(stop)).ToDictionary(a => a.Id, CountingRule.Of);
        if (!rules.Values.Any(r => r.HasPayment))
            return [];
        var figures = (
            await db.TaxFigures.AsNoTracking().Where(f => f.Item != null && f.Item.Open > 0).ToListAsync(stop)
        ).Where(f => rules[f.AuthorityId].IsByPayment(f.Date, f.Category, f.Place));
        var found = new Dictionary<int, string>();
        foreach (var one in figures.GroupBy(f => f.ItemId!.Value))
        {
            var parts = one.Select(f => f.ComponentId).Where(c => c is not null).Distinct().Order().ToList();
            var code = codes.Find(c => one.All(f => f.Category == c.Category) && c.Parts.SequenceEqual(parts));
            if (code.Code is not null)
                found[one.Key] = code.Code;
        }

        return found;
    }

    /// <summary>Balances of today of all accounts but what customers owe and opening balances.</summary>
    private async Task<List<IReadOnlyList<string>>> BalancesAsync(Currency home, CancellationToken stop)
    {
        var today = Day(await head.TodayAsync(stop));
        var sums = await (
            from line in db.Set<JournalLine>()
            join account in db.LedgerAccounts on line.AccountId equals account.Id
            where account.Role != AccountRole.Receivables && account.Role != AccountRole.OpeningBalances
            group line by account.Code into g
            orderby g.Key
            select new { g.Key, Amount = g.Sum(l => l.Debit - l.Credit) }
        ).ToListAsync(stop);
        return sums.Where(s => s.Amount != 0)
            .Select(s =>
                (IReadOnlyList<string>)
                    [
                        s.Key,
                        today,
                        s.Amount > 0 ? new Money(s.Amount, home).ToString() : "",
                        s.Amount < 0 ? new Money(-s.Amount, home).ToString() : "",
                    ]
            )
            .ToList();
    }

    /// <summary>The rate that gives the item its home amount again.</summary>
    private static decimal Rate(AccountItem item, Currency home) =>
        Math.Round(
            new Money(item.HomeOpen, home).Units / new Money(item.Open, item.Currency).Units,
            10,
            MidpointRounding.AwayFromZero
        );

    private static string Flag(bool flag) => flag ? "yes" : "no";

    private static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
