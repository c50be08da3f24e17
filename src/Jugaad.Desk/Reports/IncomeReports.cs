using System.Globalization;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>By what income is told apart.</summary>
public enum IncomeBy
{
    Customer,
    Item,
    Kind,
    Seller,
    Project,
    Account,
    Country,
    Month,
}

/// <summary>
/// What was sold: the nets of invoices and debit notes less those of credit notes, in home currency, as the journal
/// posted them. Papers in home currency are added up by the database; of the few in another, each line bears its share
/// of what its paper posted to its account.
/// </summary>
public sealed class IncomeReports(BooksContext db, BooksHead head)
{
    private static readonly ReportColumn[] Figures =
    [
        new("billed", "Billed", true, Adds: true),
        new("credited", "Credited", true, Adds: true),
        new("income", "Income", true, Adds: true),
    ];

    /// <summary>What a seller is given of it, by their rate of today, half away from zero.</summary>
    private static readonly ReportColumn[] Commission =
    [
        new("percent", "Commission, %", true),
        new("commission", "Commission", true, Adds: true),
    ];

    /// <summary>A line or a charge of a paper that was posted; its net has the sign of its paper.</summary>
    private sealed class Sold
    {
        public int DocumentId { get; set; }
        public int LineId { get; set; }
        public int CustomerId { get; set; }
        public int? ItemId { get; set; }
        public int? SellerId { get; set; }
        public int AccountId { get; set; }
        public string Project { get; set; } = "";
        public string Country { get; set; } = "";
        public string Text { get; set; } = "";
        public DateOnly Date { get; set; }
        public Currency Currency { get; set; } = null!;
        public long Net { get; set; }
    }

    /// <summary>What is told of a line in the list of them.</summary>
    private sealed class Line
    {
        public int DocumentId { get; set; }
        public int LineId { get; set; }
        public int? ItemId { get; set; }
        public DateOnly Date { get; set; }
        public string Text { get; set; } = "";
        public long Net { get; set; }

        internal static Line Of(Sold sold) =>
            new()
            {
                DocumentId = sold.DocumentId,
                LineId = sold.LineId,
                ItemId = sold.ItemId,
                Date = sold.Date,
                Text = sold.Text,
                Net = sold.Net,
            };
    }

    private sealed record Sum(int? Id, string? Text, long Billed, long Credited)
    {
        internal string Key => Text ?? Id?.ToString(CultureInfo.InvariantCulture) ?? "";
    }

    private IQueryable<Sold> Lines(DateOnly from, DateOnly until) =>
        from line in db.Set<DocumentLine>().AsNoTracking()
        join document in db.Documents on line.DocumentId equals document.Id
        join item in db.AccountItems on document.Id equals item.DocumentId
        join place in db.PaperPlaces on document.Id equals place.DocumentId
        where document.Date >= @from && document.Date <= until && line.Net != 0
        select new Sold
        {
            DocumentId = document.Id,
            LineId = line.Id,
            CustomerId = document.CustomerId,
            ItemId = line.ItemId,
            SellerId = document.Particulars.SellerId,
            AccountId = line.LedgerAccountId,
            Project = document.Particulars.Project,
            Country = place.BuyerCountry,
            Text = line.Text,
            Date = document.Date,
            Currency = document.Currency,
            Net = item.Sign * line.Net,
        };

    private IQueryable<Sold> Charges(DateOnly from, DateOnly until) =>
        from charge in db.Set<DocumentCharge>().AsNoTracking()
        join document in db.Documents on charge.DocumentId equals document.Id
        join item in db.AccountItems on document.Id equals item.DocumentId
        join place in db.PaperPlaces on document.Id equals place.DocumentId
        where document.Date >= @from && document.Date <= until && charge.Net != 0
        select new Sold
        {
            DocumentId = document.Id,
            LineId = -charge.Id,
            CustomerId = document.CustomerId,
            ItemId = null,
            SellerId = document.Particulars.SellerId,
            AccountId = charge.LedgerAccountId,
            Project = document.Particulars.Project,
            Country = place.BuyerCountry,
            Text = charge.Text,
            Date = document.Date,
            Currency = document.Currency,
            Net = item.Sign * charge.Net,
        };

    /// <summary>Income by one thing, the most first; by month in the order of the months.</summary>
    public async Task<Report> ByAsync(IncomeBy by, ReportAsk ask, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var goods = by == IncomeBy.Kind ? await GoodsAsync(stop) : [];
        List<Sum> sums =
        [
            .. await SumsAsync(PostedLines(ask.From, ask.Until, home), by, stop),
            .. await SumsAsync(PostedCharges(ask.From, ask.Until, home), by, stop),
            .. (await ForeignAsync(ask.From, ask.Until, home, stop)).Select(l => new Sum(
                Id(l, by),
                Text(l, by),
                Math.Max(l.Net, 0),
                Math.Min(l.Net, 0)
            )),
        ];
        var words = await WordsAsync(by, stop);
        var given = by == IncomeBy.Seller ? await db.Users.ToDictionaryAsync(u => u.Id, u => u.Commission, stop) : [];
        var rows = sums.GroupBy(s => by == IncomeBy.Kind ? KindOf(s.Id, goods) : s.Key)
            .Select(g => (g.Key, Billed: g.Sum(s => s.Billed), Credited: g.Sum(s => s.Credited)))
            .Where(g => g.Billed != 0 || g.Credited != 0);
        rows =
            by == IncomeBy.Month
                ? rows.OrderBy(r => r.Key, StringComparer.Ordinal)
                : rows.OrderByDescending(r => r.Billed + r.Credited).ThenBy(r => r.Key, StringComparer.Ordinal);
        return new Report(
            $"income-by-{Word(by)}",
            Title(by),
            ask.Range,
            [.. Heads(by), .. Figures, .. by == IncomeBy.Seller ? Commission : []],
            [
                .. rows.Select(r => new ReportRow(
                    [
                        .. words.TryGetValue(r.Key, out var said) ? said : Unknown(by, r.Key),
                        new Money(r.Billed, home),
                        new Money(r.Credited, home),
                        new Money(r.Billed + r.Credited, home),
                        .. by == IncomeBy.Seller ? CommissionOf(r.Key, r.Billed + r.Credited) : [],
                    ],
                    ask.Address("income-lines", ("by", Word(by)), ("key", r.Key.Length == 0 ? "-" : r.Key)),
                    Key: r.Key
                )),
            ]
        )
        {
            Drawn = "income",
            Over = by == IncomeBy.Month ? DrawnOver.Months : DrawnOver.Rows,
        };

        object?[] CommissionOf(string seller, long income)
        {
            var percent = int.TryParse(seller, out var id) ? given.GetValueOrDefault(id) : 0;
            return [percent == 0 ? null : percent, new Money(Rounding.Percent(income, percent), home)];
        }
    }

    /// <summary>The lines that one row of income is made of, by day.</summary>
    public async Task<Report> LinesAsync(ReportAsk ask, CancellationToken stop = default)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var by = Enum.TryParse<IncomeBy>(ask.Of("by"), true, out var said) ? said : IncomeBy.Customer;
        var key = ask.Of("key") switch
        {
            "" => null,
            "-" => "",
            var typed => typed,
        };
        var goods = by == IncomeBy.Kind ? await GoodsAsync(stop) : [];
        // Papers in another currency bear shares of what was posted, which the database cannot tell.
        var anyForeign = await db.Documents.AnyAsync(
            d => d.Currency != home && d.Date >= ask.From && d.Date <= ask.Until,
            stop
        );
        if (ask.Window is { } window && (anyForeign || by is IncomeBy.Kind or IncomeBy.Month))
            return (await LinesAsync(ask with { Window = null }, stop)).Summed().Within(window);
        var all = key is null;
        IQueryable<Line> Asked(IQueryable<Sold> sold) =>
            Narrowed(sold.Where(l => l.Currency == home), by, key)
                .Select(l => new Line
                {
                    DocumentId = l.DocumentId,
                    LineId = l.LineId,
                    ItemId = l.ItemId,
                    Date = l.Date,
                    Text = l.Text,
                    Net = l.Net,
                });
        var asked = Asked(Lines(ask.From, ask.Until)).Concat(Asked(Charges(ask.From, ask.Until)));
        var (lines, of) = await asked
            .OrderBy(l => l.Date)
            .ThenBy(l => l.DocumentId)
            .ThenBy(l => l.LineId)
            .WindowAsync(ask.Window, stop);
        if (ask.Window is null)
        {
            var foreign = anyForeign ? await ForeignAsync(ask.From, ask.Until, home, stop) : [];
            lines =
            [
                .. lines
                    .Where(l => all || by is not (IncomeBy.Kind or IncomeBy.Month) || KeyOf(l, by, goods) == key)
                    .Concat(foreign.Where(l => all || KeyOf(l, by, goods) == key).Select(Line.Of))
                    .OrderBy(l => l.Date)
                    .ThenBy(l => l.DocumentId)
                    .ThenBy(l => l.LineId),
            ];
        }

        var ids = lines.Select(l => l.DocumentId).Distinct().ToList();
        var papers = new Dictionary<int, (string Number, string Customer)>();
        foreach (var some in ids.Chunk(2_000))
        {
            foreach (
                var paper in await db
                    .Documents.Where(d => some.Contains(d.Id))
                    .Select(d => new
                    {
                        d.Id,
                        d.Number,
                        d.Customer!.Name,
                    })
                    .ToListAsync(stop)
            )
                papers[paper.Id] = (paper.Number!, paper.Name);
        }
        List<ReportRow> rows =
        [
            .. lines.Select(l => new ReportRow(
                [papers[l.DocumentId].Number, l.Date, papers[l.DocumentId].Customer, l.Text, new Money(l.Net, home)],
                $"/papers/{l.DocumentId}",
                Key: $"{l.LineId}"
            )),
        ];
        if (ask.Window is not null && ask.Window.WantsSums(of))
            rows.Add(
                new ReportRow(
                    ["In all", null, null, null, new Money(await asked.SumAsync(l => l.Net, stop), home)],
                    IsSum: true
                )
            );
        return new Report(
            "income-lines",
            all ? "Income by line" : $"Income of one {Words(by)}, by line",
            ask.Range,
            [
                new("number", "Number"),
                new("date", "Date"),
                new("customer", "Customer"),
                new("text", "What"),
                new("net", "Net", true, Adds: true),
            ],
            rows
        )
        {
            Of = of,
        };
    }

    /// <summary>Only the lines of one row, where the database can tell.</summary>
    private static IQueryable<Sold> Narrowed(IQueryable<Sold> sold, IncomeBy by, string? key)
    {
        if (key is null)
            return sold;
        int? id = int.TryParse(key, out var number) ? number : null;
        return by switch
        {
            IncomeBy.Customer => sold.Where(l => l.CustomerId == id),
            IncomeBy.Item => sold.Where(l => l.ItemId == id),
            IncomeBy.Seller => sold.Where(l => l.SellerId == id),
            IncomeBy.Account => sold.Where(l => l.AccountId == id),
            IncomeBy.Project => sold.Where(l => l.Project == key),
            IncomeBy.Country => sold.Where(l => l.Country == key),
            _ => sold,
        };
    }

    /// <summary>The little of a line in home currency from which a year is added up without reading its paper.</summary>
    private sealed class Posted
    {
        public int DocumentId { get; set; }
        public int CustomerId { get; set; }
        public int? ItemId { get; set; }
        public int AccountId { get; set; }
        public DateOnly Date { get; set; }
        public long Net { get; set; }
    }

    private IQueryable<Posted> PostedLines(DateOnly from, DateOnly until, Currency home) =>
        from item in db.AccountItems
        where item.DocumentId != null && item.Date >= @from && item.Date <= until && item.Currency == home
        join line in db.Set<DocumentLine>() on item.DocumentId equals line.DocumentId
        where line.Net != 0
        select new Posted
        {
            DocumentId = line.DocumentId,
            CustomerId = item.CustomerId,
            ItemId = line.ItemId,
            AccountId = line.LedgerAccountId,
            Date = item.Date,
            Net = item.Sign * line.Net,
        };

    private IQueryable<Posted> PostedCharges(DateOnly from, DateOnly until, Currency home) =>
        from item in db.AccountItems
        where item.DocumentId != null && item.Date >= @from && item.Date <= until && item.Currency == home
        join charge in db.Set<DocumentCharge>() on item.DocumentId equals charge.DocumentId
        where charge.Net != 0
        select new Posted
        {
            DocumentId = charge.DocumentId,
            CustomerId = item.CustomerId,
            ItemId = null,
            AccountId = charge.LedgerAccountId,
            Date = item.Date,
            Net = item.Sign * charge.Net,
        };

    /// <summary>What one paper came to.</summary>
    private sealed class Paper
    {
        public int Id { get; set; }
        public int CustomerId { get; set; }
        public long Billed { get; set; }
        public long All { get; set; }
    }

    /// <summary>What all of one thing came to.</summary>
    private sealed class Came
    {
        public int? Id { get; set; }
        public string? Text { get; set; }
        public long Billed { get; set; }
        public long All { get; set; }
    }

    private async Task<List<Sum>> SumsAsync(IQueryable<Posted> lines, IncomeBy by, CancellationToken stop)
    {
        // What is of the paper and not of its lines is grouped paper by paper first: a year has a third as many.
        var papers = lines
            .GroupBy(l => new { l.DocumentId, l.CustomerId })
            .Select(g => new Paper
            {
                Id = g.Key.DocumentId,
                CustomerId = g.Key.CustomerId,
                Billed = g.Sum(l => l.Net > 0 ? l.Net : 0),
                All = g.Sum(l => l.Net),
            });
        var came = by switch
        {
            IncomeBy.Item or IncomeBy.Kind => ById(lines.GroupBy(l => l.ItemId)),
            IncomeBy.Account => ById(lines.GroupBy(l => (int?)l.AccountId)),
            IncomeBy.Customer => OfPapers(papers.GroupBy(p => (int?)p.CustomerId)),
            IncomeBy.Seller => OfPapers(
                from paper in papers
                join document in db.Documents on paper.Id equals document.Id
                group paper by document.Particulars.SellerId
            ),
            IncomeBy.Project => OfTexts(
                from paper in papers
                join document in db.Documents on paper.Id equals document.Id
                group paper by document.Particulars.Project
            ),
            IncomeBy.Country => OfTexts(
                from paper in papers
                join place in db.PaperPlaces on paper.Id equals place.DocumentId
                group paper by place.BuyerCountry
            ),
            _ => null,
        };
        return came is null
            ? await ByMonthAsync(lines, stop)
            : (await came.ToListAsync(stop)).ConvertAll(c => new Sum(c.Id, c.Text, c.Billed, c.All - c.Billed));
    }

    private static IQueryable<Came> ById(IQueryable<IGrouping<int?, Posted>> groups) =>
        groups.Select(g => new Came
        {
            Id = g.Key,
            Billed = g.Sum(l => l.Net > 0 ? l.Net : 0),
            All = g.Sum(l => l.Net),
        });

    private static IQueryable<Came> OfPapers(IQueryable<IGrouping<int?, Paper>> groups) =>
        groups.Select(g => new Came
        {
            Id = g.Key,
            Billed = g.Sum(p => p.Billed),
            All = g.Sum(p => p.All),
        });

    private static IQueryable<Came> OfTexts(IQueryable<IGrouping<string, Paper>> groups) =>
        groups.Select(g => new Came
        {
            Text = g.Key,
            Billed = g.Sum(p => p.Billed),
            All = g.Sum(p => p.All),
        });

    /// <summary>By day in the database, where that is a column; months are made of some hundred days.</summary>
    private static async Task<List<Sum>> ByMonthAsync(IQueryable<Posted> lines, CancellationToken stop) =>
        (
            await lines
                .GroupBy(l => l.Date)
                .OrderBy(g => g.Key)
                .Select(g => new
                {
                    g.Key,
                    Billed = g.Sum(l => l.Net > 0 ? l.Net : 0),
                    All = g.Sum(l => l.Net),
                })
                .ToListAsync(stop)
        ).ConvertAll(g => new Sum(g.Key.Year * 100 + g.Key.Month, null, g.Billed, g.All - g.Billed));

    /// <summary>Lines of papers in other currencies, in home currency as their papers posted them.</summary>
    private async Task<List<Sold>> ForeignAsync(DateOnly from, DateOnly until, Currency home, CancellationToken stop)
    {
        List<Sold> lines =
        [
            .. await Lines(from, until).Where(l => l.Currency != home).ToListAsync(stop),
            .. await Charges(from, until).Where(l => l.Currency != home).ToListAsync(stop),
        ];
        var posted = await (
            from entry in db.Journal
            where entry.Event == JournalEvent.Document && entry.Date >= @from && entry.Date <= until
            join document in db.Documents on entry.DocumentId equals document.Id
            where document.Currency != home
            from line in entry.Lines
            group line by new { document.Id, line.AccountId } into one
            select new
            {
                one.Key.Id,
                one.Key.AccountId,
                Amount = one.Sum(l => l.Credit - l.Debit),
            }
        ).ToDictionaryAsync(p => (p.Id, p.AccountId), p => p.Amount, stop);
        foreach (var same in lines.GroupBy(l => (l.DocumentId, l.AccountId)))
        {
            var of = same.OrderBy(l => l.LineId).ToList();
            var shares = Apportion.Spread(posted.GetValueOrDefault(same.Key), of.ConvertAll(l => l.Net));
            for (var i = 0; i < of.Count; i++)
                of[i].Net = shares[i];
        }

        return lines;
    }

    private async Task<HashSet<int>> GoodsAsync(CancellationToken stop) =>
        [.. await db.Items.Where(i => i.IsGoods).Select(i => i.Id).ToListAsync(stop)];

    private static string KindOf(int? item, HashSet<int> goods) =>
        item is not { } id ? "no-item"
        : goods.Contains(id) ? "goods"
        : "services";

    private static int? Id(Sold line, IncomeBy by) =>
        by switch
        {
            IncomeBy.Customer => line.CustomerId,
            IncomeBy.Item or IncomeBy.Kind => line.ItemId,
            IncomeBy.Seller => line.SellerId,
            IncomeBy.Account => line.AccountId,
            IncomeBy.Month => line.Date.Year * 100 + line.Date.Month,
            _ => null,
        };

    private static string? Text(Sold line, IncomeBy by) =>
        by switch
        {
            IncomeBy.Project => line.Project,
            IncomeBy.Country => line.Country,
            _ => null,
        };

    private static string KeyOf(Sold line, IncomeBy by, HashSet<int> goods) =>
        by == IncomeBy.Kind ? KindOf(line.ItemId, goods) : new Sum(Id(line, by), Text(line, by), 0, 0).Key;

    /// <summary>By kind or month, which the database does not narrow.</summary>
    private static string KeyOf(Line line, IncomeBy by, HashSet<int> goods) =>
        by == IncomeBy.Kind ? KindOf(line.ItemId, goods) : MonthKey(line.Date);

    private static string MonthKey(DateOnly day) => (day.Year * 100 + day.Month).ToString(CultureInfo.InvariantCulture);

    private static ReportColumn[] Heads(IncomeBy by) =>
        by switch
        {
            IncomeBy.Customer => [new("code", "Code"), new("customer", "Customer")],
            IncomeBy.Item => [new("code", "Code"), new("item", "Item")],
            IncomeBy.Account => [new("code", "Account"), new("account", "Name of the account")],
            IncomeBy.Month => [new("month", "Month")],
            _ => [new(Word(by), Words(by)[..1].ToUpperInvariant() + Words(by)[1..])],
        };

    private static object?[] Unknown(IncomeBy by, string key) =>
        by switch
        {
            IncomeBy.Item => ["", new SaidCell("typed by hand, without an item")],
            IncomeBy.Kind => [new SaidCell(key == "no-item" ? "typed by hand, without an item" : key)],
            IncomeBy.Seller => [new SaidCell("nobody in particular")],
            IncomeBy.Project => [key.Length == 0 ? new SaidCell("no project") : key],
            IncomeBy.Month => [$"{key[..4]}-{key[4..]}"],
            IncomeBy.Customer or IncomeBy.Account => ["", key],
            _ => [key],
        };

    private async Task<Dictionary<string, object?[]>> WordsAsync(IncomeBy by, CancellationToken stop)
    {
        var named = by switch
        {
            IncomeBy.Customer => await db
                .Customers.Select(c => new
                {
                    c.Id,
                    c.Code,
                    Name = (string?)c.Name,
                })
                .ToListAsync(stop),
            IncomeBy.Item => await db
                .Items.Select(i => new
                {
                    i.Id,
                    i.Code,
                    Name = (string?)i.Name,
                })
                .ToListAsync(stop),
            IncomeBy.Account => await db
                .LedgerAccounts.Select(a => new
                {
                    a.Id,
                    a.Code,
                    Name = (string?)a.Name,
                })
                .ToListAsync(stop),
            IncomeBy.Seller => await db
                .Users.Select(u => new
                {
                    u.Id,
                    Code = u.FullName,
                    Name = (string?)null,
                })
                .ToListAsync(stop),
            _ => [],
        };
        return named.ToDictionary(
            n => n.Id.ToString(CultureInfo.InvariantCulture),
            n => n.Name is null ? new object?[] { n.Code } : [n.Code, n.Name]
        );
    }

    /// <summary>As an address and a file's name have it.</summary>
    public static string Word(IncomeBy by) => by.ToString().ToLowerInvariant();

    public static string Title(IncomeBy by) => $"Income by {Words(by)}";

    private static string Words(IncomeBy by) =>
        by switch
        {
            IncomeBy.Kind => "kind of item",
            IncomeBy.Account => "ledger account",
            _ => Word(by),
        };
}
