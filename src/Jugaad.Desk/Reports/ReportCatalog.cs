using Jugaad.Core;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Lists;

namespace Jugaad.Desk.Reports;

/// <summary>Of which days a report tells.</summary>
public enum ReportDays
{
    /// <summary>As things stand.</summary>
    Now,

    /// <summary>At the end of a day.</summary>
    Day,

    /// <summary>From a day until another.</summary>
    Range,
}

/// <summary>With what a report is compared.</summary>
public enum ReportAgainst
{
    Nothing,

    /// <summary>The range of the same length right before.</summary>
    Before,

    /// <summary>The same days a year before.</summary>
    YearBefore,
}

/// <summary>The question to which a report is an answer.</summary>
public enum ReportQuestion
{
    WhoOwesUs,
    WhatDidWeSell,
    WhatDoWeOweTheTaxOffice,
    WhatHappened,
    WhatDoWeHave,
}

/// <summary>A report that can be asked for, described once for its page, its files, its paper and the launcher.</summary>
/// <param name="Name">As addresses, files and the launcher have it.</param>
/// <param name="About">What it answers, in a sentence.</param>
public sealed record ReportKind(
    string Name,
    string Title,
    string About,
    ReportQuestion Question,
    ReportDays Days,
    Func<ReportDesks, ReportAsk, CancellationToken, Task<Report>> Make
)
{
    /// <summary>The column by which two periods are compared; null where that makes no sense.</summary>
    public string? Compares { get; init; }

    /// <summary>What must be said besides the days, such as <c>account</c>; empty for nothing.</summary>
    public string Needs { get; init; } = "";

    /// <summary>Whether it is long, and read in parts where a part is wanted.</summary>
    public bool IsInParts { get; init; }

    /// <summary>Where it is shown; null for the page that shows all others.</summary>
    public string? Page { get; init; }

    /// <summary>Whether it is reached from another report only.</summary>
    public bool IsBehind { get; init; }

    public string Address => Page ?? $"/reports/{Name}";
}

/// <summary>All desks that make reports.</summary>
public sealed record ReportDesks(
    IncomeReports Income,
    SellingReports Selling,
    MoneyReports Money,
    ListReports Lists,
    AgedReports Aged,
    CreditReport Credit,
    JournalReports Journal,
    TaxReports Taxes,
    ValuationReports Valuation,
    ExchangeReports Exchange
);

/// <summary>Every report that there is.</summary>
public sealed class ReportCatalog(ReportDesks desks, BooksContext db, Originals originals)
{
    /// <summary>By their questions, in the order in which they are shown.</summary>
    public static IReadOnlyList<ReportKind> All { get; } =
    [
        new(
            "aged",
            "Aged balances",
            "What each customer owes, by how late it is.",
            ReportQuestion.WhoOwesUs,
            ReportDays.Day,
            (desks, ask, stop) => desks.Aged.AgedReportAsync(ask.Until, stop)
        )
        {
            Page = "/reports/aged",
        },
        new(
            "open-items",
            "Open items",
            "Every paper and payment that is not settled.",
            ReportQuestion.WhoOwesUs,
            ReportDays.Day,
            (desks, ask, stop) => desks.Aged.OpenItemsAsync(ask.Until, stop)
        ),
        new(
            "valuation",
            "Valuation of other currencies",
            "What is open in other currencies at a day's rates, and what that would gain or lose.",
            ReportQuestion.WhoOwesUs,
            ReportDays.Day,
            (desks, ask, stop) => desks.Valuation.ValuationAsync(ask.Until, stop)
        ),
        new(
            "currency-balances",
            "Balances by currency",
            "What is owed and what is on accounts in each other currency, at a day's rates.",
            ReportQuestion.WhoOwesUs,
            ReportDays.Day,
            (desks, ask, stop) => desks.Exchange.BalancesAsync(ask.Until, stop)
        ),
        new(
            "credit",
            "Credit of a customer",
            "How much credit one customer uses, how they paid, and what was let pass.",
            ReportQuestion.WhoOwesUs,
            ReportDays.Now,
            (desks, ask, stop) => desks.Credit.OfAsync(ask.Of("customer"), stop)
        )
        {
            Needs = "customer",
            IsBehind = true,
        },
        new(
            "statement",
            "Statement",
            "What one customer owes.",
            ReportQuestion.WhoOwesUs,
            ReportDays.Day,
            (desks, ask, stop) => desks.Aged.StatementAsync(ask.Of("customer"), ask.Until, stop)
        )
        {
            Needs = "customer",
        },
        new(
            "changes",
            "Changes in what customers owe",
            "From what was owed before to what is owed after, and why.",
            ReportQuestion.WhoOwesUs,
            ReportDays.Range,
            (desks, ask, stop) => desks.Money.ChangesAsync(ask, stop)
        ),
        .. Income(),
        new(
            "sales",
            "Sales journal",
            "Each invoice and credit note with its tax.",
            ReportQuestion.WhatDidWeSell,
            ReportDays.Range,
            (desks, ask, stop) => desks.Journal.SalesAsync(ask, stop)
        )
        {
            IsInParts = true,
        },
        new(
            "discounts",
            "Discounts given",
            "On lines, on whole papers, and for paying early.",
            ReportQuestion.WhatDidWeSell,
            ReportDays.Range,
            (desks, ask, stop) => desks.Selling.DiscountsAsync(ask, stop)
        ),
        new(
            "margin-by-item",
            "Margin by item",
            "What is left over cost, where the item says what it costs.",
            ReportQuestion.WhatDidWeSell,
            ReportDays.Range,
            (desks, ask, stop) => desks.Selling.MarginsAsync(ask, stop)
        )
        {
            Compares = "margin",
        },
        new(
            "margin-by-paper",
            "Margin by paper",
            "The same for each invoice and credit note.",
            ReportQuestion.WhatDidWeSell,
            ReportDays.Range,
            (desks, ask, stop) => desks.Selling.MarginsByPaperAsync(ask, stop)
        ),
        new(
            "quote-outcomes",
            "What became of quotes",
            "Won, lost and why, waiting, and how long it took.",
            ReportQuestion.WhatDidWeSell,
            ReportDays.Range,
            (desks, ask, stop) => desks.Selling.QuoteOutcomesAsync(ask, stop)
        )
        {
            Compares = "net",
        },
        new(
            "quotes",
            "Quotes",
            "Each quote that was sent, with its answer.",
            ReportQuestion.WhatDidWeSell,
            ReportDays.Range,
            (desks, ask, stop) => desks.Selling.QuotesAsync(ask, stop)
        ),
        new(
            "orders-open",
            "Still owed to customers",
            "What is ordered and not delivered or billed.",
            ReportQuestion.WhatDidWeSell,
            ReportDays.Now,
            (desks, _, stop) => desks.Selling.OpenOrdersAsync(stop)
        ),
        new(
            "delivered-not-billed",
            "Delivered and not billed",
            "Delivery notes that wait for their invoice.",
            ReportQuestion.WhatDidWeSell,
            ReportDays.Now,
            (desks, _, stop) => desks.Selling.DeliveredAsync(stop)
        ),
        new(
            "standing-next-year",
            "What standing invoices bring",
            "By their schedules, in the year after a day.",
            ReportQuestion.WhatDidWeSell,
            ReportDays.Day,
            (desks, ask, stop) => desks.Selling.StandingAsync(ask, stop)
        ),
        new(
            "union-sales",
            "Sales within the union",
            "To businesses, by their tax number, goods and services apart.",
            ReportQuestion.WhatDoWeOweTheTaxOffice,
            ReportDays.Range,
            (desks, ask, stop) => desks.Taxes.UnionSalesAsync(ask.From, ask.Until, stop)
        ),
        new(
            "tax-by-document",
            "Tax by document",
            "Each paper by tax, as auditors ask for it.",
            ReportQuestion.WhatDoWeOweTheTaxOffice,
            ReportDays.Range,
            (desks, ask, stop) => desks.Taxes.ByDocumentAsync(ask.From, ask.Until, ask.Window, stop)
        )
        {
            IsInParts = true,
        },
        new(
            "consumers-abroad",
            "Sales to consumers abroad",
            "By country and rate.",
            ReportQuestion.WhatDoWeOweTheTaxOffice,
            ReportDays.Range,
            (desks, ask, stop) => desks.Taxes.ConsumersAbroadAsync(ask.From, ask.Until, stop)
        ),
        new(
            "sales-by-place",
            "Sales by place",
            "For taxes of states, counties and cities: by where it went and each tax.",
            ReportQuestion.WhatDoWeOweTheTaxOffice,
            ReportDays.Range,
            (desks, ask, stop) => desks.Taxes.ByPlaceAsync(ask.From, ask.Until, stop)
        ),
        new(
            "entries",
            "Journal",
            "Every entry with its sides.",
            ReportQuestion.WhatHappened,
            ReportDays.Range,
            (desks, ask, stop) => desks.Journal.JournalAsync(ask.From, ask.Until, stop)
        )
        {
            Page = "/reports/entries",
        },
        new(
            "account",
            "Book of an account",
            "What went onto one account and off it.",
            ReportQuestion.WhatHappened,
            ReportDays.Range,
            (desks, ask, stop) =>
                desks.Journal.AccountBookAsync(int.TryParse(ask.Of("account"), out var id) ? id : 0, ask, stop)
        )
        {
            Needs = "account",
            IsInParts = true,
        },
        new(
            "exchange-differences",
            "Exchange gains and losses",
            "Realised and not, by customer, currency and month.",
            ReportQuestion.WhatHappened,
            ReportDays.Range,
            (desks, ask, stop) => desks.Exchange.DifferencesAsync(ask.From, ask.Until, stop)
        ),
        new(
            "trial-balance",
            "Trial balance",
            "Every account with what it had, what moved, and what it has.",
            ReportQuestion.WhatHappened,
            ReportDays.Range,
            (desks, ask, stop) => desks.Journal.TrialBalanceAsync(ask, stop)
        ),
        new(
            "receipts",
            "Receipts journal",
            "Each payment that came in.",
            ReportQuestion.WhatHappened,
            ReportDays.Range,
            (desks, ask, stop) => desks.Journal.ReceiptsAsync(ask, stop)
        )
        {
            IsInParts = true,
        },
        new(
            "money-by-way",
            "Money received by way and account",
            "By bank, cash or card, and into which account.",
            ReportQuestion.WhatHappened,
            ReportDays.Range,
            (desks, ask, stop) => desks.Money.ByWayAsync(ask, stop)
        )
        {
            Compares = "amount",
        },
        new(
            "takings",
            "Takings at the counter",
            "Day by day, with what each count of the cash box found.",
            ReportQuestion.WhatHappened,
            ReportDays.Range,
            (desks, ask, stop) => desks.Money.TakingsAsync(ask, stop)
        ),
        new(
            "register",
            "Register of invoices",
            "Every number in its order, and why one is missing.",
            ReportQuestion.WhatHappened,
            ReportDays.Range,
            (desks, ask, stop) => desks.Money.RegisterAsync(ask, stop)
        )
        {
            IsInParts = true,
        },
        new(
            "price-list",
            "Prices",
            "Items with their price in each price list.",
            ReportQuestion.WhatDoWeHave,
            ReportDays.Now,
            (desks, _, stop) => desks.Lists.PricesAsync(stop)
        ),
        new(
            "stock",
            "What is in store",
            "How many, and what they cost.",
            ReportQuestion.WhatDoWeHave,
            ReportDays.Now,
            (desks, _, stop) => desks.Lists.StockAsync(stop)
        ),
        new(
            "customer-list",
            "Customers",
            "With where to reach them.",
            ReportQuestion.WhatDoWeHave,
            ReportDays.Now,
            (desks, _, stop) => desks.Lists.CustomersAsync(stop)
        ),
    ];

    private static IEnumerable<ReportKind> Income()
    {
        (IncomeBy By, string About)[] kinds =
        [
            (IncomeBy.Month, "Month by month."),
            (IncomeBy.Customer, "Who bought most."),
            (IncomeBy.Item, "What was bought most."),
            (IncomeBy.Kind, "Goods and services."),
            (IncomeBy.Seller, "Who sold it."),
            (IncomeBy.Project, "For which project."),
            (IncomeBy.Account, "As the ledger has it."),
            (IncomeBy.Country, "Where customers are."),
        ];
        foreach (var (by, about) in kinds)
            yield return new ReportKind(
                $"income-by-{IncomeReports.Word(by)}",
                IncomeReports.Title(by),
                about,
                ReportQuestion.WhatDidWeSell,
                ReportDays.Range,
                (desks, ask, stop) => desks.Income.ByAsync(by, ask, stop)
            )
            {
                Compares = "income",
            };
        yield return new ReportKind(
            "income-lines",
            "Income by line",
            "What one of these figures is made of.",
            ReportQuestion.WhatDidWeSell,
            ReportDays.Range,
            (desks, ask, stop) => desks.Income.LinesAsync(ask, stop)
        )
        {
            IsBehind = true,
            IsInParts = true,
        };
    }

    /// <returns>Null where there is no such report.</returns>
    public static ReportKind? Find(string name) => All.FirstOrDefault(k => k.Name == name);

    /// <summary>What a report that is read in parts comes to: its rows that sum up, alone.</summary>
    public Task<Report> SumsAsync(ReportKind kind, ReportAsk ask, CancellationToken stop = default) =>
        MakeAsync(kind, ask with { Window = ReportWindow.SumsAlone }, stop: stop);

    /// <summary>
    /// Makes a report, compared where that is wanted, with its sums; all of it of one moment, whatever is posted
    /// meanwhile.
    /// </summary>
    /// <exception cref="RefusalException">When its days run backwards, or something that it needs is not said.</exception>
    public async Task<Report> MakeAsync(
        ReportKind kind,
        ReportAsk ask,
        ReportAgainst against = ReportAgainst.Nothing,
        CancellationToken stop = default
    )
    {
        if (kind.Days == ReportDays.Range && ask.Until < ask.From)
            throw new RefusalException("until", "The last day is before the first. Give a later one.");
        await using var moment = await ReadMoment.BeginAsync(db, stop);
        var report = await kind.Make(desks, ask, stop);
        if (against != ReportAgainst.Nothing && kind.Compares is { } column)
        {
            var (from, until) =
                against == ReportAgainst.Before
                    ? NamedDays.Before(ask.From, ask.Until)
                    : NamedDays.YearBefore(ask.From, ask.Until);
            report = report.ComparedWith(
                await kind.Make(desks, ask.With(from, until), stop),
                column,
                ask.With(from, until).Range
            );
        }

        report = await originals.WithAsync(report, stop);
        return report.Of is not null || report.Rows.Any(r => r.IsSum) || !report.Columns.Any(c => c.Adds)
            ? report
            : report.Summed();
    }
}
