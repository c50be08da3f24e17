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
                    new SaidCell(Word(r.Key.Supply)),
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
        PaperPlace To,
        TaxCategory Category,
        string Component,
        decimal Percent,
        long Taxable,
        long Tax
    );

    /// <summary>
    /// What is told of these days, by where the goods or services went; what was taken over, or has no customer, is left
    /// out.
    /// </summary>
    private async Task<List<Gone>> GoneAsync(DateOnly first, DateOnly last, bool onlyAbroad, CancellationToken stop) =>
        (
            await (
                from figure in db.TaxFigures
                where
                    figure.Date >= first
                    && figure.Date <= last
                    && figure.ItemId != null
                    && (!onlyAbroad || figure.Place == Place.Union || figure.Place == Place.Abroad)
                join settlement in db.Settlements on figure.SettlementId equals settlement.Id into settled
                from settlement in settled.DefaultIfEmpty()
                join to in db.PaperPlaces on figure.DocumentId ?? settlement.DocumentId equals to.DocumentId
                group figure by new
                {
                    to.Country,
                    to.Region,
                    to.City,
                    to.PostalCode,
                    figure.Category,
                    figure.Component,
                    figure.Percent,
                } into one
                select new
                {
                    one.Key,
                    Taxable = one.Sum(f => f.Taxable),
                    Tax = one.Sum(f => f.Tax),
                }
            ).ToListAsync(stop)
        ).ConvertAll(g => new Gone(
            new PaperPlace(0, "", g.Key.Country, g.Key.Region, g.Key.City, g.Key.PostalCode),
            g.Key.Category,
            g.Key.Component,
            g.Key.Percent,
            g.Taxable,
            g.Tax
        ));

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
                            g.Key.Component.Length == 0 ? new SaidCell("not taxed") : g.Key.Component,
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
    public async Task<Report> ByDocumentAsync(
        DateOnly first,
        DateOnly last,
        ReportWindow? window = null,
        CancellationToken stop = default
    )
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var figures = db.TaxFigures.Where(f => f.DocumentId != null && f.Date >= first && f.Date <= last);
        // Goods and services of one tax stand in one row here.
        var (taxes, of) = await (
            from figure in figures
            group figure by new
            {
                figure.Date,
                figure.Number,
                figure.DocumentId,
                figure.Position,
                figure.Category,
                figure.Component,
                figure.Percent,
            } into one
            orderby one.Key.Date, one.Key.Number, one.Key.DocumentId, one.Key.Position
            select new
            {
                one.Key,
                Taxable = one.Sum(f => f.Taxable),
                Tax = one.Sum(f => f.Tax),
            }
        ).WindowAsync(window, stop);
        var all = figures.Select(f => f.DocumentId!.Value);
        var shown = taxes.Select(t => t.Key.DocumentId!.Value).Distinct().ToList();
        var ids = window is null ? all.Distinct() : all.Where(id => shown.Contains(id)).Distinct();
        var papers = await (
            from id in ids
            join document in db.Documents on id equals document.Id
            join customer in db.Customers on document.CustomerId equals customer.Id
            select new
            {
                document.Id,
                document.Kind,
                document.CustomerId,
                customer.Code,
                customer.Name,
            }
        ).ToDictionaryAsync(d => d.Id, stop);
        var codes = (
            await (
                from id in ids
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
        List<ReportRow> rows =
        [
            .. taxes.Select(t =>
            {
                var paper = papers[t.Key.DocumentId!.Value];
                return new ReportRow(
                    [
                        t.Key.Number,
                        KindPolicy.Of(paper.Kind).Word,
                        t.Key.Date,
                        paper.Code,
                        paper.Name,
                        string.Join(", ", codes[(paper.Id, t.Key.Position)].Order(StringComparer.Ordinal)),
                        t.Key.Category.Letters(),
                        t.Key.Component,
                        PlainDecimal.Text(t.Key.Percent),
                        new Money(t.Taxable, home),
                        new Money(t.Tax, home),
                    ],
                    Addresses.Of(paper.Id, null, paper.CustomerId)
                );
            }),
        ];
        if (window is not null && window.WantsSums(of))
        {
            object?[] none = [null, null, null, null, null, null, null, null, null];
            rows.Add(
                new ReportRow(
                    ["In all", .. none, new Money(await figures.SumAsync(f => f.Tax, stop), home)],
                    IsSum: true
                )
            );
        }

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
            rows
        )
        {
            Of = of,
        };
    }
}
