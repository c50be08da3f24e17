using System.Globalization;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>More that is told of tax: sales within the union, and the tax of each document.</summary>
public sealed class TaxReports(BooksContext db, BooksHead head)
{
    /// <summary>The rows of a return, for a file.</summary>
    public static Report Rows(ReturnThen then) =>
        new(
            "tax-return",
            $"Tax return to {then.Authority.Name}",
            $"{then.From:yyyy-MM-dd} to {then.To:yyyy-MM-dd}",
            [
                new("number", "Number"),
                new("date", "Date"),
                new("counted", "Counted"),
                new("category", "Category"),
                new("component", "Tax"),
                new("percent", "Percent", true),
                new("place", "Place"),
                new("supply", "Supply"),
                new("taxable", "Taxable", true),
                new("tax", "Tax amount", true),
                new("late", "Late"),
            ],
            [
                .. then.Rows.Select(r => new ReportRow([
                    r.Number,
                    r.Date,
                    r.Day,
                    r.Key.Category.Letters(),
                    r.Key.Component,
                    PlainDecimal.Text(r.Key.Percent),
                    Word(r.Key.Place),
                    Word(r.Key.Supply),
                    new Money(r.Taxable, then.Home),
                    new Money(r.Tax, then.Home),
                    r.IsLate ? "late" : "",
                ])),
            ]
        );

    /// <summary>Home, union or abroad.</summary>
    public static string Word(Place place) =>
        place switch
        {
            Place.Union => "union",
            Place.Abroad => "abroad",
            _ => "home",
        };

    public static string Word(Supply supply) => supply == Supply.Goods ? "goods" : "services";

    /// <summary>
    /// Sales to businesses elsewhere in the union on which they account for the tax, by their tax number as it stands
    /// on the papers, goods and services apart. What is taken back of a sale of an earlier period stands apart, with the
    /// month that it corrects.
    /// </summary>
    public async Task<Report> UnionSalesAsync(DateOnly first, DateOnly last, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var figures = await (
            from figure in db.TaxFigures
            join item in db.AccountItems on figure.ItemId equals item.Id
            where
                figure.Date >= first
                && figure.Date <= last
                && figure.Place == Place.Union
                && (figure.Category == TaxCategory.IntraUnion || figure.Category == TaxCategory.ReverseCharge)
            select new
            {
                figure.DocumentId,
                figure.SettlementId,
                item.CustomerId,
                figure.Supply,
                figure.Taxable,
            }
        ).ToListAsync(stop);
        var settled = figures.Select(f => f.SettlementId).OfType<int>().ToHashSet();
        var documentOf = await db
            .Settlements.Where(s => settled.Contains(s.Id) && s.DocumentId != null)
            .ToDictionaryAsync(s => s.Id, s => s.DocumentId!.Value, stop);
        var ids = figures.Select(f => f.DocumentId ?? documentOf[f.SettlementId!.Value]).ToHashSet();
        var buyers = await db
            .Documents.AsNoTracking()
            .Where(d => ids.Contains(d.Id))
            .Select(d => new
            {
                d.Id,
                d.Addressee,
                // What takes something back from an invoice corrects the month of that.
                Billed = db.Documents.Where(o => d.Kind == DocumentKind.CreditNote && o.Id == d.FromDocumentId)
                    .Select(o => o.TaxDate ?? (DateOnly?)o.Date)
                    .FirstOrDefault()
                    ?? d.TaxDate
                    ?? d.Date,
            })
            .ToDictionaryAsync(d => d.Id, stop);
        string Corrects(DateOnly billed) =>
            billed < first ? billed.ToString("yyyy-MM", CultureInfo.InvariantCulture) : "";
        var rows = figures
            .Select(f => (Of: buyers[f.DocumentId ?? documentOf[f.SettlementId!.Value]], Figure: f))
            .GroupBy(f => (Number: f.Of.Addressee?.TaxNumber ?? "", Corrects: Corrects(f.Of.Billed)))
            .OrderBy(g => g.Key.Number, StringComparer.Ordinal)
            .ThenBy(g => g.Key.Corrects, StringComparer.Ordinal)
            .Select(g =>
            {
                long Of(Supply supply) => g.Where(f => f.Figure.Supply == supply).Sum(f => f.Figure.Taxable);
                return (
                    g.Key,
                    Name: g.Last().Of.Addressee?.Name ?? "",
                    Goods: Of(Supply.Goods),
                    Services: Of(Supply.Services)
                );
            })
            .Where(r => r.Goods != 0 || r.Services != 0)
            .ToList();
        return new Report(
            "union-sales",
            "Sales within the union",
            $"{first:yyyy-MM-dd} to {last:yyyy-MM-dd}",
            [
                new("taxNumber", "Tax number"),
                new("customer", "Customer"),
                new("goods", "Goods", true, Adds: true),
                new("services", "Services", true, Adds: true),
                new("corrects", "Corrects"),
            ],
            [
                .. rows.Select(r => new ReportRow(
                    [r.Key.Number, r.Name, new Money(r.Goods, home), new Money(r.Services, home), r.Key.Corrects],
                    Key: $"{r.Key.Number} {r.Key.Corrects}"
                )),
            ]
        );
    }

    private sealed record Gone(
        TaxCategory Category,
        string Component,
        decimal Percent,
        long Taxable,
        long Tax,
        Address To
    );

    /// <summary>Figures of these days with where the goods or services went; what has no customer is left out.</summary>
    private async Task<List<Gone>> GoneAsync(DateOnly first, DateOnly last, bool onlyAbroad, CancellationToken stop)
    {
        var figures = await (
            from figure in db.TaxFigures.AsNoTracking()
            where
                figure.Date >= first
                && figure.Date <= last
                && figure.ItemId != null
                && (!onlyAbroad || figure.Place == Place.Union || figure.Place == Place.Abroad)
            select new
            {
                figure.Category,
                figure.Component,
                figure.Percent,
                figure.Taxable,
                figure.Tax,
                Paper = figure.DocumentId
                    ?? db.Settlements.Where(s => s.Id == figure.SettlementId)
                        .Select(s => s.DocumentId)
                        .FirstOrDefault(),
            }
        ).ToListAsync(stop);
        var to = new Dictionary<int, Address>();
        foreach (var some in figures.Select(f => f.Paper).OfType<int>().Distinct().Chunk(2_000))
        {
            foreach (
                var paper in await db
                    .Documents.AsNoTracking()
                    .Where(d => some.Contains(d.Id))
                    .Select(d => new
                    {
                        d.Id,
                        d.Place,
                        d.Customer!.Address,
                    })
                    .ToListAsync(stop)
            )
                to[paper.Id] = paper.Place ?? paper.Address;
        }
        return
        [
            .. figures
                .Where(f => f.Paper is not null)
                .Select(f => new Gone(f.Category, f.Component, f.Percent, f.Taxable, f.Tax, to[f.Paper!.Value])),
        ];
    }

    /// <summary>
    /// What was sold with tax to other countries, by country and rate: to consumers, as businesses there account for the
    /// tax themselves. By tax date, in home currency.
    /// </summary>
    public async Task<Report> ConsumersAbroadAsync(DateOnly first, DateOnly last, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        return new Report(
            "consumers-abroad",
            "Sales to consumers abroad",
            $"{first:yyyy-MM-dd} to {last:yyyy-MM-dd}",
            [
                new("country", "Country"),
                new("component", "Tax"),
                new("percent", "Percent", true),
                new("taxable", "Taxable", true, Adds: true),
                new("tax", "Tax amount", true, Adds: true),
            ],
            [
                .. (await GoneAsync(first, last, true, stop))
                    .Where(f =>
                        f.Category
                            is not (
                                TaxCategory.IntraUnion
                                or TaxCategory.ReverseCharge
                                or TaxCategory.Export
                                or TaxCategory.OutOfScope
                            )
                    )
                    .GroupBy(f => (f.To.Country, f.Component, f.Percent))
                    .OrderBy(g => g.Key)
                    .Select(g => new ReportRow(
                        [
                            g.Key.Country,
                            g.Key.Component,
                            PlainDecimal.Text(g.Key.Percent),
                            new Money(g.Sum(f => f.Taxable), home),
                            new Money(g.Sum(f => f.Tax), home),
                        ],
                        Key: $"{g.Key}"
                    )),
            ]
        );
    }

    /// <summary>
    /// Each tax by where it went: country, region, city and postal code, as states, counties and cities ask for it. By
    /// tax date, in home currency; what is not taxed has a row too.
    /// </summary>
    public async Task<Report> ByPlaceAsync(DateOnly first, DateOnly last, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        return new Report(
            "sales-by-place",
            "Sales by place",
            $"{first:yyyy-MM-dd} to {last:yyyy-MM-dd}",
            [
                new("country", "Country"),
                new("region", "Region"),
                new("city", "City"),
                new("postalCode", "Postal code"),
                new("component", "Tax"),
                new("percent", "Percent", true),
                new("taxable", "Taxable", true),
                new("tax", "Tax amount", true, Adds: true),
            ],
            [
                .. (await GoneAsync(first, last, false, stop))
                    .GroupBy(f => (f.To.Country, f.To.Region, f.To.City, f.To.PostalCode, f.Component, f.Percent))
                    .OrderBy(g => g.Key)
                    .Select(g => new ReportRow(
                        [
                            g.Key.Country,
                            g.Key.Region,
                            g.Key.City,
                            g.Key.PostalCode,
                            g.Key.Component.Length == 0 ? "not taxed" : g.Key.Component,
                            PlainDecimal.Text(g.Key.Percent),
                            new Money(g.Sum(f => f.Taxable), home),
                            new Money(g.Sum(f => f.Tax), home),
                        ],
                        Key: $"{g.Key}"
                    )),
            ]
        );
    }

    /// <summary>Each document by tax code with what the tax is on and the tax, by its tax date, in home currency.</summary>
    public async Task<Report> ByDocumentAsync(DateOnly first, DateOnly last, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        // One pass from the figures' index; whole years of large books are asked for.
        var figures = await (
            from figure in db.TaxFigures
            where figure.DocumentId != null && figure.Date >= first && figure.Date <= last
            join document in db.Documents on figure.DocumentId equals document.Id
            join customer in db.Customers on document.CustomerId equals customer.Id
            orderby figure.Date, figure.Number, document.Id, figure.Position
            select new
            {
                document.Id,
                document.Kind,
                document.CustomerId,
                customer.Code,
                customer.Name,
                figure.Number,
                figure.Date,
                figure.Position,
                figure.Category,
                figure.Component,
                figure.Percent,
                figure.Taxable,
                figure.Tax,
            }
        ).ToListAsync(stop);
        var papers = db
            .TaxFigures.Where(f => f.DocumentId != null && f.Date >= first && f.Date <= last)
            .Select(f => f.DocumentId!.Value)
            .Distinct();
        var codes = (
            await (
                from id in papers
                join line in db.Set<DocumentLine>() on id equals line.DocumentId
                join tax in db.Set<DocumentTax>()
                    on new { line.DocumentId, line.Treatment } equals new { tax.DocumentId, tax.Treatment }
                where line.TaxCode != ""
                select new
                {
                    line.DocumentId,
                    tax.Position,
                    line.TaxCode,
                }
            )
                .Distinct()
                .ToListAsync(stop)
        ).ToLookup(c => (c.DocumentId, c.Position), c => c.TaxCode);
        return new Report(
            "tax-by-document",
            "Tax by document",
            $"{first:yyyy-MM-dd} to {last:yyyy-MM-dd}",
            [
                new("number", "Number"),
                new("kind", "Kind"),
                new("date", "Tax date"),
                new("customer", "Customer"),
                new("name", "Name"),
                new("code", "Tax code"),
                new("category", "Category"),
                new("component", "Tax"),
                new("percent", "Percent", true),
                new("taxable", "Taxable", true),
                new("tax", "Tax amount", true, Adds: true),
            ],
            [
                .. figures
                    .GroupBy(f => (f.Id, f.Position))
                    .Select(g =>
                        (
                            g.Key,
                            Of: g.First(),
                            Taxable: new Money(g.Sum(f => f.Taxable), home),
                            Tax: new Money(g.Sum(f => f.Tax), home)
                        )
                    )
                    .Select(r => new ReportRow(
                        [
                            r.Of.Number,
                            KindPolicy.Of(r.Of.Kind).Word,
                            r.Of.Date,
                            r.Of.Code,
                            r.Of.Name,
                            string.Join(", ", codes[r.Key].Order(StringComparer.Ordinal)),
                            r.Of.Category.Letters(),
                            r.Of.Component,
                            PlainDecimal.Text(r.Of.Percent),
                            r.Taxable,
                            r.Tax,
                        ],
                        Addresses.Of(r.Of.Id, null, r.Of.CustomerId)
                    )),
            ]
        );
    }
}
