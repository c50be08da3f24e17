using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>What the business sells, has in store, and whom it sells to.</summary>
public sealed class ListReports(BooksContext db, BooksHead head)
{
    /// <summary>Items with their price and, for each price list, the price there; in home currency.</summary>
    public async Task<Report> PricesAsync(CancellationToken stop = default)
    {
        var lists = await db.PriceLists.AsNoTracking().OrderBy(l => l.Name).ToListAsync(stop);
        var items = await db
            .Items.AsNoTracking()
            .Include(i => i.Prices)
            .Where(i => !i.Inactive)
            .OrderBy(i => i.Code)
            .ToListAsync(stop);
        return new Report(
            "price-list",
            "Prices",
            "",
            [
                new("code", "Code"),
                new("item", "Item"),
                new("unit", "Unit"),
                new("price", "Price", true),
                new("tax", "Tax"),
                .. lists.Select(l => new ReportColumn($"list{l.Id}", l.Name, true)),
            ],
            [
                .. items.Select(i => new ReportRow(
                    [
                        i.Code,
                        i.Name,
                        i.Unit,
                        i.Price,
                        i.PriceIncludesTax ? "in the price" : "on top",
                        .. lists.Select(l => (object?)i.Prices.FirstOrDefault(p => p.PriceListId == l.Id)?.Price),
                    ],
                    $"/items/{i.Id}"
                )),
            ]
        );
    }

    /// <summary>What is in store, and what it cost; below zero where more went than was there.</summary>
    public async Task<Report> StockAsync(CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var items = await db
            .Items.AsNoTracking()
            .Where(i => i.KeepsCount && (!i.Inactive || i.OnHand != 0))
            .OrderBy(i => i.Code)
            .ToListAsync(stop);
        return new Report(
            "stock",
            "What is in store",
            "",
            [
                new("code", "Code"),
                new("item", "Item"),
                new("onHand", "In store", true),
                new("unit", "Unit"),
                new("cost", "Cost of one", true),
                new("worth", "Cost of all", true, Adds: true),
            ],
            [
                .. items.Select(i => new ReportRow(
                    [
                        i.Code,
                        i.Name,
                        i.OnHand,
                        i.Unit,
                        i.Cost,
                        new Money(
                            (long)Math.Round(i.OnHand * i.Cost * home.MinorPerUnit, MidpointRounding.AwayFromZero),
                            home
                        ),
                    ],
                    $"/items/{i.Id}"
                )),
            ]
        );
    }

    /// <summary>Customers with where to reach them.</summary>
    public async Task<Report> CustomersAsync(CancellationToken stop = default)
    {
        var customers = await db
            .Customers.AsNoTracking()
            .Where(c => !c.Inactive)
            .OrderBy(c => c.Name)
            .ThenBy(c => c.Id)
            .ToListAsync(stop);
        return new Report(
            "customer-list",
            "Customers",
            "",
            [
                new("code", "Code"),
                new("customer", "Customer"),
                new("contact", "Contact"),
                new("street", "Street"),
                new("postalCode", "Postal code"),
                new("city", "City"),
                new("country", "Country"),
                new("email", "Mail"),
                new("phone", "Phone"),
                new("taxNumber", "Tax number"),
            ],
            [
                .. customers.Select(c => new ReportRow(
                    [
                        c.Code,
                        c.Name,
                        c.ContactName,
                        c.Address.Street,
                        c.Address.PostalCode,
                        c.Address.City,
                        c.Address.Country,
                        c.Email,
                        c.Phone,
                        c.TaxNumber,
                    ],
                    $"/customers/{c.Id}",
                    Key: $"{c.Id}"
                )),
            ]
        );
    }
}
