using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Making;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>
/// Quotes and what became of them, what is still owed to customers, what was given away, and what was earned.
/// </summary>
public sealed class SellingReports(BooksContext db, BooksHead head, LineUses uses, Deliveries deliveries)
{
    /// <summary>Each quote that was sent, with its answer and how long that took.</summary>
    public async Task<Report> QuotesAsync(ReportAsk ask, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var quotes = await QuotesOf(ask)
            .OrderBy(d => d.Date)
            .ThenBy(d => d.Id)
            .Select(d => new
            {
                d.Id,
                d.Number,
                d.Date,
                d.Customer!.Name,
                d.Net,
                d.Currency,
                d.ExchangeRate,
                d.State,
                d.AnsweredOn,
                d.LostBy,
            })
            .ToListAsync(stop);
        return new Report(
            "quotes",
            "Quotes",
            ask.Range,
            [
                new("number", "Number"),
                new("date", "Date"),
                new("customer", "Customer"),
                new("net", "Net", true, Adds: true),
                new("state", "State"),
                new("answered", "Answered"),
                new("days", "Days", true),
                new("lost", "Lost because"),
            ],
            [
                .. quotes.Select(q => new ReportRow(
                    [
                        q.Number,
                        q.Date,
                        q.Name,
                        new Money(HomeAmount.Of(q.Net, q.Currency, q.ExchangeRate, home), home),
                        StateWord(q.State),
                        q.AnsweredOn,
                        q.AnsweredOn is { } day ? day.DayNumber - q.Date.DayNumber : null,
                        q.State == DocumentState.Declined ? q.LostBy?.Word() ?? "no reason given" : "",
                    ],
                    $"/papers/{q.Id}"
                )),
            ]
        );
    }

    /// <summary>What became of the quotes of these days: how many, what they came to, and how long it took.</summary>
    public async Task<Report> QuoteOutcomesAsync(ReportAsk ask, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var quotes = await QuotesOf(ask)
            .Select(d => new
            {
                d.Date,
                d.Net,
                d.Currency,
                d.ExchangeRate,
                d.State,
                d.AnsweredOn,
                d.LostBy,
            })
            .ToListAsync(stop);
        return new Report(
            "quote-outcomes",
            "What became of quotes",
            ask.Range,
            [
                new("outcome", "Outcome"),
                new("quotes", "Quotes", true, Adds: true),
                new("net", "Net", true, Adds: true),
                new("share", "Share of all, %", true),
                new("days", "Days on average", true),
            ],
            [
                .. quotes
                    .GroupBy(q =>
                        (q.State, Why: q.State == DocumentState.Declined ? q.LostBy?.Word() ?? "no reason given" : "")
                    )
                    .OrderBy(g => g.Key.State)
                    .ThenBy(g => g.Key.Why, StringComparer.Ordinal)
                    .Select(g =>
                    {
                        var days = g.Where(q => q.AnsweredOn is not null)
                            .Select(q => q.AnsweredOn!.Value.DayNumber - q.Date.DayNumber)
                            .ToList();
                        return new ReportRow(
                            [
                                g.Key.Why.Length > 0 ? $"lost: {g.Key.Why}" : StateWord(g.Key.State),
                                g.Count(),
                                new Money(g.Sum(q => HomeAmount.Of(q.Net, q.Currency, q.ExchangeRate, home)), home),
                                Math.Round(100m * g.Count() / quotes.Count, 1, MidpointRounding.AwayFromZero),
                                days.Count == 0
                                    ? null
                                    : Math.Round((decimal)days.Average(), 1, MidpointRounding.AwayFromZero),
                            ],
                            ask.Address("quotes")
                        );
                    }),
            ]
        )
        {
            Drawn = "net",
        };
    }

    private IQueryable<Document> QuotesOf(ReportAsk ask) =>
        db
            .Documents.AsNoTracking()
            .Where(d =>
                d.Kind == DocumentKind.Quote
                && d.State != DocumentState.Draft
                && !d.IsReplaced
                && d.Date >= ask.From
                && d.Date <= ask.Until
            );

    private static string StateWord(DocumentState state) =>
        state switch
        {
            DocumentState.Sent => "waiting",
            DocumentState.Accepted => "won",
            DocumentState.Declined => "lost",
            _ => state.ToString().ToLowerInvariant(),
        };

    /// <summary>Each line of an order that is neither closed nor wholly delivered and billed.</summary>
    public async Task<Report> OpenOrdersAsync(CancellationToken stop = default)
    {
        var orders = await db
            .Documents.AsNoTracking()
            .Include(d => d.Customer)
            .Include(d => d.Lines)
            .Where(d => d.Kind == DocumentKind.Order && d.State == DocumentState.Issued && d.ClosedOn == null)
            .OrderBy(d => d.Date)
            .ThenBy(d => d.Id)
            .ToListAsync(stop);
        var found = await uses.OfAsync(
            [.. orders.SelectMany(o => o.Lines).Where(l => l.Counts).Select(l => l.Id)],
            null,
            stop
        );
        var rows =
            from order in orders
            from line in order.Lines
            where line.Counts
            let left = found[line.Id].Left
            where left.LeftToDeliver != 0 && left.LeftToBill != 0
            orderby order.Date, order.Id, line.Position
            select new ReportRow(
                [
                    order.Number,
                    order.Date,
                    order.Customer!.Name,
                    line.Text,
                    line.Quantity,
                    left.Delivered,
                    left.LeftToDeliver,
                    left.LeftToBill,
                    new Money(left.PartOf(left.LeftToBill), order.Currency),
                    order.Currency.Code,
                ],
                $"/papers/{order.Id}",
                Key: $"{line.Id}"
            );
        return new Report(
            "orders-open",
            "Still owed to customers",
            "",
            [
                new("number", "Order"),
                new("date", "Date"),
                new("customer", "Customer"),
                new("text", "What"),
                new("ordered", "Ordered", true),
                new("delivered", "Delivered", true),
                new("toDeliver", "To deliver", true),
                new("toBill", "To bill", true),
                new("worth", "Worth", true),
                new("currency", "Currency"),
            ],
            [.. rows]
        );
    }

    /// <summary>Delivery notes that are not billed yet.</summary>
    public async Task<Report> DeliveredAsync(CancellationToken stop = default) =>
        new(
            "delivered-not-billed",
            "Delivered and not billed",
            "",
            [
                new("number", "Delivery note"),
                new("date", "Date"),
                new("customer", "Customer"),
                new("order", "Order"),
                new("what", "What"),
                new("net", "Left to bill", true),
                new("currency", "Currency"),
                new("drafted", "On a draft"),
            ],
            [
                .. (await deliveries.ToBillAsync(new DeliveryFilter(), stop)).Select(d => new ReportRow(
                    [
                        d.Number,
                        d.Date,
                        d.Customer,
                        d.Order,
                        d.What,
                        new Money(d.Net, d.Currency),
                        d.Currency.Code,
                        d.Drafted is null ? "" : "yes",
                    ],
                    $"/papers/{d.Id}"
                )),
            ]
        );

    /// <summary>What each standing invoice bills within the year after a day, by its schedule; without tax.</summary>
    public async Task<Report> StandingAsync(ReportAsk ask, CancellationToken stop = default)
    {
        var (first, last) = (ask.Until.AddDays(1), ask.Until.AddYears(1));
        var standing = await db.StandingInvoices.AsNoTracking().Include(s => s.Occurrences).ToListAsync(stop);
        var customers = await db
            .Customers.AsNoTracking()
            .Where(c => db.StandingInvoices.Any(s => s.CustomerId == c.Id))
            .ToDictionaryAsync(c => c.Id, stop);
        var business = await head.BusinessAsync(stop);
        var rows = new List<ReportRow>();
        foreach (var one in standing.Where(s => s is { Paused: false, HasEnded: false }).OrderBy(s => s.Name))
        {
            var times = one.Counted.DueFrom(one.Next, last).Count(d => d.Day >= first);
            var currency = customers[one.CustomerId].BilledIn(one.Content.Currency);
            var net = one
                .Content.Lines.Where(l => l.Role.HasFigures())
                .Sum(l => Math.Round(l.Quantity * l.UnitPrice * currency.MinorPerUnit, MidpointRounding.AwayFromZero));
            rows.Add(
                new ReportRow(
                    [
                        one.Name,
                        customers[one.CustomerId].Name,
                        one.Schedule.Words(business.Format.Date),
                        one.NextDay,
                        times,
                        new Money((long)net, currency),
                        new Money((long)net * times, currency),
                        currency.Code,
                    ],
                    $"/sell/standing/{one.Id}",
                    Key: $"{one.Id}"
                )
            );
        }

        return new Report(
            "standing-next-year",
            "What standing invoices bring",
            $"{ReportAsk.Day(first)} to {ReportAsk.Day(last)}",
            [
                new("name", "Name"),
                new("customer", "Customer"),
                new("repeats", "Repeats"),
                new("next", "Next on"),
                new("times", "Times", true),
                new("each", "Each", true),
                new("year", "In the year", true),
                new("currency", "Currency"),
            ],
            rows
        );
    }

    /// <summary>Discounts on posted papers and for paying early; home currency, in the price mode of their paper.</summary>
    public async Task<Report> DiscountsAsync(ReportAsk ask, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var discounted = db.Set<DocumentLine>().Where(l => l.Discount != 0).Select(l => l.DocumentId);
        var papers = await (
            from document in db.Documents.AsNoTracking()
            join item in db.AccountItems on document.Id equals item.DocumentId
            where
                document.Date >= ask.From
                && document.Date <= ask.Until
                && (document.Discount != 0 || discounted.Contains(document.Id))
            orderby document.Date, document.Id
            select new
            {
                document.Id,
                document.Number,
                document.Date,
                document.Customer!.Name,
                document.Currency,
                document.ExchangeRate,
                item.Sign,
                document.Discount,
                Lines = document.Lines.Sum(l => l.Discount),
            }
        ).ToListAsync(stop);
        var early = await (
            from settlement in db.Settlements
            where
                settlement.Booking!.UndoneOn == null
                && settlement.Date >= ask.From
                && settlement.Date <= ask.Until
                && (
                    settlement.Kind == Core.Accounts.SettlementKind.EarlyPayment
                    || settlement.Kind == Core.Accounts.SettlementKind.EarlyTakenBack
                )
            join document in db.Documents on settlement.DocumentId equals document.Id
            select new
            {
                document.Id,
                document.Number,
                settlement.Date,
                document.Customer!.Name,
                settlement.Currency,
                settlement.ExchangeRate,
                settlement.Amount,
                Back = settlement.Kind == Core.Accounts.SettlementKind.EarlyTakenBack,
                Settled = settlement.Id,
            }
        ).ToListAsync(stop);
        Money Home(long minor, Currency currency, QuotedRate rate) =>
            new(HomeAmount.Of(minor, currency, rate, home), home);
        var none = Money.Zero(home);
        var rows = papers
            .Select(p => new ReportRow(
                [
                    p.Number,
                    p.Date,
                    p.Name,
                    Home(p.Sign * p.Lines, p.Currency, p.ExchangeRate),
                    Home(p.Sign * p.Discount, p.Currency, p.ExchangeRate),
                    none,
                ],
                $"/papers/{p.Id}"
            ))
            .Concat(
                early.Select(e => new ReportRow(
                    [
                        e.Number,
                        e.Date,
                        e.Name,
                        none,
                        none,
                        Home(e.Back ? -e.Amount : e.Amount, e.Currency, e.ExchangeRate),
                    ],
                    $"/papers/{e.Id}",
                    Key: $"early {e.Settled}"
                ))
            )
            .OrderBy(r => (DateOnly)r.Cells[1]!);
        return new Report(
            "discounts",
            "Discounts given",
            ask.Range,
            [
                new("number", "Number"),
                new("date", "Date"),
                new("customer", "Customer"),
                new("lines", "On lines", true, Adds: true),
                new("paper", "On the whole", true, Adds: true),
                new("early", "For paying early", true, Adds: true),
            ],
            [.. rows]
        );
    }

    /// <summary>What was earned over cost, by item; only where the item says what it costs.</summary>
    public async Task<Report> MarginsAsync(ReportAsk ask, CancellationToken stop = default) =>
        Margins(
            "margin-by-item",
            "Margin by item",
            ask,
            [new("code", "Code"), new("item", "Item")],
            (await CostedAsync(ask, stop)).GroupBy(c => (c.ItemId, $"{c.Code}", c.Item)),
            g => ([g.Item2, g.Item3], $"/items/{g.Item1}", $"{g.Item1}"),
            (await head.BusinessAsync(stop)).HomeCurrency
        );

    /// <summary>The same by paper.</summary>
    public async Task<Report> MarginsByPaperAsync(ReportAsk ask, CancellationToken stop = default) =>
        Margins(
            "margin-by-paper",
            "Margin by paper",
            ask,
            [new("number", "Number"), new("customer", "Customer")],
            (await CostedAsync(ask, stop)).GroupBy(c => (c.DocumentId, c.Number, c.Customer)),
            g => ([g.Item2, g.Item3], $"/papers/{g.Item1}", $"{g.Item1}"),
            (await head.BusinessAsync(stop)).HomeCurrency
        );

    private static Report Margins(
        string name,
        string title,
        ReportAsk ask,
        ReportColumn[] heads,
        IEnumerable<IGrouping<(int, string, string), Costed>> groups,
        Func<(int, string, string), (object?[] Cells, string Address, string Key)> words,
        Currency home
    ) =>
        new(
            name,
            title,
            ask.Range,
            [
                .. heads,
                new("net", "Net", true, Adds: true),
                new("cost", "Cost", true, Adds: true),
                new("margin", "Margin", true, Adds: true),
                new("percent", "Of net, %", true),
            ],
            [
                .. groups
                    .Select(g => (Words: words(g.Key), Net: g.Sum(c => c.Net), Cost: g.Sum(c => c.Cost)))
                    .OrderByDescending(g => g.Net - g.Cost)
                    .ThenBy(g => g.Words.Key, StringComparer.Ordinal)
                    .Select(g => new ReportRow(
                        [
                            .. g.Words.Cells,
                            new Money(g.Net, home),
                            new Money(g.Cost, home),
                            new Money(g.Net - g.Cost, home),
                            g.Net == 0
                                ? null
                                : Math.Round(100m * (g.Net - g.Cost) / g.Net, 1, MidpointRounding.AwayFromZero),
                        ],
                        g.Words.Address,
                        Key: g.Words.Key
                    )),
            ]
        )
        {
            Drawn = "margin",
        };

    private sealed record Costed(
        int ItemId,
        string Code,
        string Item,
        int DocumentId,
        string Number,
        string Customer,
        long Net,
        long Cost
    );

    /// <summary>Lines of posted papers whose items say what they cost; in minor units of the home currency.</summary>
    private async Task<List<Costed>> CostedAsync(ReportAsk ask, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var lines = await (
            from line in db.Set<DocumentLine>().AsNoTracking()
            join document in db.Documents on line.DocumentId equals document.Id
            join posted in db.AccountItems on document.Id equals posted.DocumentId
            join item in db.Items on line.ItemId equals item.Id
            where document.Date >= ask.From && document.Date <= ask.Until && item.Cost > 0 && line.Net != 0
            select new
            {
                item.Id,
                item.Code,
                item.Name,
                item.Cost,
                DocumentId = document.Id,
                document.Number,
                Customer = document.Customer!.Name,
                document.Currency,
                document.ExchangeRate,
                posted.Sign,
                line.Net,
                line.Quantity,
            }
        ).ToListAsync(stop);
        return lines.ConvertAll(l => new Costed(
            l.Id,
            l.Code,
            l.Name,
            l.DocumentId,
            l.Number!,
            l.Customer,
            l.Sign * HomeAmount.Of(l.Net, l.Currency, l.ExchangeRate, home),
            l.Sign * (long)Math.Round(l.Quantity * l.Cost * home.MinorPerUnit, MidpointRounding.AwayFromZero)
        ));
    }
}
