using System.Globalization;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Matching;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Reports;
using Jugaad.Formats.EInvoices;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Bench;

/// <summary>Everything that is measured on books of one size.</summary>
/// <param name="parts">Of <see cref="AllParts"/>, which are measured.</param>
internal sealed class Suite(string root, int seed, string? keep, string[] parts)
{
    /// <summary>In the order in which they are measured.</summary>
    internal static readonly string[] AllParts = ["check", "desks", "matching", "night", "reports", "pages"];

    /// <summary>Each list with the bare question that its rows are the answer to.</summary>
    private static readonly (string Name, string Path, string Bare)[] Lists =
    [
        ("All that is sold", "/sell", Sold + NewestFirst),
        (
            "Invoices that are late",
            "/sell?kind=invoice&show=late",
            Sold + " AND d.\"Kind\" = 'Invoice' AND i.\"Open\" > 0 AND i.\"Due\" < date('now')" + NewestFirst
        ),
        ("A search in what is sold", "/sell?q=INV-2025", Sold + " AND d.\"Number\" LIKE 'INV-2025%'" + NewestFirst),
        ("A search that all have", "/sell?q=INV", Sold + " AND d.\"Number\" LIKE 'INV%'" + NewestFirst),
        (
            "A search by a customer's name",
            "/sell?q=customer 7",
            Sold + " AND c.\"Name\" LIKE '%customer 7%'" + NewestFirst
        ),
        (
            "The last page of invoices",
            "/sell?kind=invoice&end",
            Sold + " AND d.\"Kind\" = 'Invoice' ORDER BY d.\"Date\", d.\"Id\" LIMIT 41"
        ),
        (
            "What all that is sold comes to",
            "/sell/totals",
            "SELECT d.\"Currency\", count(*), sum(d.\"Payable\"), sum(i.\"Open\") FROM \"Documents\" d LEFT JOIN \"AccountItems\" i ON i.\"DocumentId\" = d.\"Id\" WHERE d.\"State\" <> 'Cancelled' GROUP BY d.\"Currency\""
        ),
        ("The jump box", "/api/jump?q=INV-2025", ""),
        ("Customers", "/customers", Owing + " ORDER BY c.\"Name\" LIMIT 41"),
        ("Customers by what they owe", "/customers?sort=-balance", Owing + " ORDER BY 3 DESC LIMIT 41"),
        ("Receipts", "/receive", Received + " ORDER BY r.\"Date\" DESC, r.\"Id\" DESC LIMIT 41"),
        ("The last page of receipts", "/receive?end", Received + " ORDER BY r.\"Date\", r.\"Id\" LIMIT 41"),
        ("The trail", "/setup/trail", "SELECT * FROM \"Trail\" ORDER BY \"Id\" DESC LIMIT 41"),
        ("Day sheet", "/", ""),
        ("Overdue", "/collect", ""),
        ("Journal of this month", "/reports/entries", ""),
    ];

    private const string Sold =
        "SELECT d.\"Id\", d.\"Number\", d.\"Date\", d.\"DueDate\", c.\"Name\", d.\"Currency\", d.\"Payable\", i.\"Open\" FROM \"Documents\" d JOIN \"Customers\" c ON c.\"Id\" = d.\"CustomerId\" LEFT JOIN \"AccountItems\" i ON i.\"DocumentId\" = d.\"Id\" WHERE d.\"State\" <> 'Cancelled'";

    private const string NewestFirst = " ORDER BY d.\"Date\" DESC, d.\"Id\" DESC LIMIT 41";

    private const string Owing =
        "SELECT c.\"Id\", c.\"Name\", (SELECT sum(i.\"Sign\" * i.\"Open\") FROM \"AccountItems\" i WHERE i.\"CustomerId\" = c.\"Id\" AND i.\"Open\" > 0) FROM \"Customers\" c";

    private const string Received =
        "SELECT r.\"Id\", r.\"Number\", r.\"Date\", c.\"Name\", r.\"Amount\", i.\"Open\" FROM \"Receipts\" r JOIN \"Customers\" c ON c.\"Id\" = r.\"CustomerId\" LEFT JOIN \"AccountItems\" i ON i.\"ReceiptId\" = r.\"Id\"";

    internal List<Measure> Measures { get; } = [];

    private Measure Of(string what, double figure, string unit = "ms")
    {
        if (Measures.Find(m => m.What == what) is { } known)
            return known;
        var made = new Measure(what, figure, unit);
        Measures.Add(made);
        return made;
    }

    internal async Task RunAsync(int invoices)
    {
        var folder = Directory.CreateTempSubdirectory("jugaad-bench-").FullName;
        var kept = keep is not null && File.Exists(new BooksFile(KeptOf(invoices)).Database);
        if (kept)
            Copy(KeptOf(invoices), folder);
        try
        {
            await using (var books = await Books.OpenAsync(folder))
            {
                if (kept)
                    Say($"{invoices} invoices: the books that were kept");
                else
                {
                    Say($"{invoices} invoices: making the books");
                    Of("Making the books (no figure set)", double.PositiveInfinity, "s").Took[invoices] =
                        await Measuring.OnceAsync(new BooksGenerator(books, invoices, seed).MakeAsync) / 1_000;
                }

                foreach (var part in AllParts.Where(parts.Contains))
                    await (
                        part switch
                        {
                            "check" => CheckAsync(books, invoices),
                            "desks" => DesksAsync(books, invoices),
                            "matching" => MatchingAsync(books, invoices),
                            "night" => NightAsync(books, invoices),
                            "reports" => ReportsAsync(books, invoices),
                            _ => Task.CompletedTask,
                        }
                    );
            }

            if (parts.Contains("pages"))
                await PagesAsync(folder, invoices);
        }
        finally
        {
            if (keep is not null && !kept)
                Copy(folder, KeptOf(invoices));
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, recursive: true);
        }
    }

    private string KeptOf(int invoices) => Path.Combine(keep!, invoices.ToString(CultureInfo.InvariantCulture));

    /// <summary>Keeps the books, to be looked into and to be measured on again.</summary>
    private static void Copy(string folder, string to)
    {
        Directory.CreateDirectory(to);
        foreach (var file in Directory.GetFiles(folder, "books.db*"))
            File.Copy(file, Path.Combine(to, Path.GetFileName(file)), overwrite: true);
    }

    private static void Say(string what) => Console.Error.WriteLine(what);

    private async Task CheckAsync(Books books, int invoices)
    {
        Say("  check");
        CheckReport? report = null;
        Of("check of all books (no figure set)", double.PositiveInfinity, "s").Took[invoices] =
            await Measuring.OnceAsync(async () =>
                report = await books.WithAsync<BooksCheck, CheckReport>(c => c.RunAsync())
            ) / 1_000;
        if (report is not { Healthy: true })
            throw new InvalidOperationException($"The generated books do not agree: {report!.Differences[0]}");
    }

    private async Task DesksAsync(Books books, int invoices)
    {
        Say("  desks");
        var random = new Random(seed);
        var today = DateOnly.FromDateTime(DateTime.Today);
        Of("Aged balances on any day", 300).Took[invoices] = await Measuring.Percentile95Async(
            20,
            _ => books.WithAsync<AgedReports>(r => r.AgedAsync(today.AddDays(-random.Next(730))))
        );
        Of("Totals of a document of 1,000 lines", 5).Took[invoices] = await Measuring.Percentile95Async(
            50,
            _ =>
            {
                Calculator.Compute(Large());
                return Task.CompletedTask;
            }
        );
        var (customer, code, sales) = await books.WithAsync<BooksContext, (int, int, int)>(async db =>
            (
                await db.Customers.Select(c => c.Id).FirstAsync(),
                (await db.Businesses.Select(b => b.DefaultTaxCodeId).SingleAsync())!.Value,
                (await db.Businesses.Select(b => b.DefaultLedgerAccountId).SingleAsync())!.Value
            )
        );
        var drafts = new List<int>();
        for (var i = 0; i < 53; i++)
        {
            drafts.Add(
                await books.WithAsync<Drafts, int>(d =>
                    d.SaveAsync(
                        new DraftToSave(
                            null,
                            DocumentKind.Invoice,
                            0,
                            new DraftContent
                            {
                                CustomerId = customer,
                                Date = today,
                                Lines =
                                [
                                    new DraftLine(null, "Sail repair", 2, "HUR", 50 + i, null, null, code, sales),
                                    new DraftLine(null, "Rigging", 3, "HUR", 40, null, null, code, sales),
                                ],
                            }
                        )
                    )
                )
            );
        }

        Of("Issuing an invoice", 30).Took[invoices] = await Measuring.Percentile95Async(
            50,
            i => books.WithAsync<IssuingDesk>(s => s.IssueAsync(drafts[i], 1))
        );
        var papers = await books.WithAsync<BooksContext, List<int>>(db =>
            db.Documents.Where(d => d.Number != null)
                .OrderByDescending(d => d.Id)
                .Take(100)
                .Select(d => d.Id)
                .ToListAsync()
        );
        await books.WithAsync<PaperRoom>(p => p.PileAsync([.. papers.Take(5).Select(id => (id, new PaperStyle()))]));
        Of("100 papers to PDF", 1_000).Took[invoices] = await Measuring.OnceAsync(() =>
            books.WithAsync<PaperRoom>(p => p.PileAsync([.. papers.Select(id => (id, new PaperStyle()))]))
        );
        // Each made from its document, written in both syntaxes, read back and checked by every rule.
        var electronic = await books.WithAsync<BooksContext, List<int>>(db =>
            db.Documents.Where(d => d.Kind == DocumentKind.Invoice && d.Number != null)
                .OrderByDescending(d => d.Id)
                .Take(1_000)
                .Select(d => d.Id)
                .ToListAsync()
        );
        Of("1,000 e-invoices made and checked", 20_000).Took[invoices] = await Measuring.OnceAsync(async () =>
        {
            foreach (var id in electronic)
                await books.WithAsync<EInvoices>(async e =>
                {
                    var made = (await e.OfAsync(id)).Invoice;
                    foreach (var syntax in Enum.GetValues<EInvoiceSyntax>())
                        _ = EInvoiceCheck.Of(EInvoiceFiles.Read(EInvoiceFiles.Write(made, syntax)).Invoice);
                });
        });
    }

    private static DocumentFigures Large()
    {
        var treatment = new Treatment(TaxCategory.Standard, [new TreatmentPart(1, "VAT", 24, false)]);
        return new DocumentFigures(
            Currency.Of("EUR"),
            [.. Enumerable.Range(1, 1_000).Select(i => new LineFigures(i / 8m, 19.99m + i, treatment, i % 3))]
        )
        {
            DiscountPercent = 2.5m,
        };
    }

    /// <summary>The same question of the file itself, through the driver and nothing else.</summary>
    private static async Task AskAsync(SqliteConnection file, string question)
    {
        await using var ask = file.CreateCommand();
#pragma warning disable CA2100 // One of the questions above.
        ask.CommandText = question;
#pragma warning restore CA2100
        await using var answer = await ask.ExecuteReaderAsync();
        var row = new object[answer.FieldCount];
        while (await answer.ReadAsync())
            answer.GetValues(row);
    }

    private async Task MatchingAsync(Books books, int invoices)
    {
        Say("  matching");
        var random = new Random(seed);
        var owed = await books.WithAsync<BooksContext, List<Owed>>(async db =>
            (
                await db
                    .AccountItems.AsNoTracking()
                    .Where(i => i.Open > 0 && i.Sign > 0)
                    .Select(i => new
                    {
                        i.Id,
                        i.CustomerId,
                        i.Number,
                        i.Currency,
                        i.Open,
                        i.Date,
                        i.Due,
                    })
                    .ToListAsync()
            ).ConvertAll(i => new Owed(i.Id, i.CustomerId, i.Number, "", i.Currency, i.Open, i.Date, i.Due))
        );
        var payers = await books.WithAsync<BooksContext, List<Payer>>(async db =>
            (
                await db
                    .Customers.AsNoTracking()
                    .Select(c => new
                    {
                        c.Id,
                        c.Name,
                        c.Currency,
                    })
                    .ToListAsync()
            ).ConvertAll(c => new Payer(c.Id, c.Name, "", [c.Currency], c.Id % 2 == 0 ? [$"EE{c.Id:D18}"] : [], []))
        );
        var byId = payers.ToDictionary(p => p.CustomerId);
        var lines = Enumerable
            .Range(0, 10_000)
            .Select(i => (One: owed[random.Next(owed.Count)], How: random.Next(5)))
            .Select(l => new IncomingMoney(
                l.One.Due,
                l.How == 4 ? l.One.Open + 17 : l.One.Open,
                l.One.Currency,
                l.How == 1 ? $"invoice {l.One.Number} with thanks" : "",
                l.How == 0 ? StructuredReference.Of(l.One.Number) : "",
                byId[l.One.CustomerId].Name.ToUpperInvariant(),
                l.How == 2 ? $"EE{l.One.CustomerId:D18}" : ""
            ))
            .ToList();
        Of("10,000 bank lines matched", 3_000).Took[invoices] = await Measuring.OnceAsync(() =>
        {
            var matcher = new Matcher(owed, payers, [], new DisplayFormat('.', "d MMM yyyy"));
            foreach (var line in lines)
                matcher.Propose(line);
            return Task.CompletedTask;
        });
    }

    /// <summary>Letters and statements to a thousand, put into the post and carried out; where so many owe.</summary>
    private async Task NightAsync(Books books, int invoices)
    {
        const int Many = 1_000;
        var today = DateOnly.FromDateTime(DateTime.Today);
        var owing = await books.WithAsync<StatementRun, IReadOnlyList<StatementFor>>(s => s.WhoAsync(today));
        if (owing.Count < Many)
            return;
        Say("  a night of letters and statements");
        var ladder = await books.WithAsync<Ladders, int>(l =>
            l.SaveAsync(null, "Bench", [new StepDetails(3, StepWay.Mail, MailText.GentleReminder, true)])
        );
        await books.WithAsync<Ladders>(l => l.SetAsync(ladder, true, 0, 7, [0, 1, 2, 3, 4, 5, 6]));
        var due = (await books.WithAsync<LadderRun, IReadOnlyList<LadderCase>>(l => l.LookAsync()))
            .Where(c => c.Decision.Step > 0)
            .Select(c => c.CustomerId)
            .Take(Many)
            .ToList();
        Task CarryAsync() => books.WithAsync<PostCarrying>(p => p.CarryAsync());
        if (due.Count == Many)
            Of("1,000 letters of the ladder, with the invoices, sent", 120, "s").Took[invoices] =
                await Measuring.OnceAsync(async () =>
                {
                    var report = await books.WithAsync<LadderRun, LadderReport>(l => l.RunAsync(due));
                    if (report.Taken < Many)
                        throw new InvalidOperationException($"Only {report.Taken} letters went: {report.Left[0].Why}");
                    await CarryAsync();
                }) / 1_000;
        Of("1,000 statements sent", 120, "s").Took[invoices] =
            await Measuring.OnceAsync(async () =>
            {
                foreach (var one in owing.Take(Many))
                    await books.WithAsync<StatementRun>(s =>
                        s.SendAsync(one.CustomerId, new StatementWish(null, today))
                    );
                await CarryAsync();
            }) / 1_000;
    }

    /// <summary>
    /// Every report over the last twelve months as a whole, and the return of the month before with all earlier ones
    /// filed.
    /// </summary>
    private async Task ReportsAsync(Books books, int invoices)
    {
        Say("  reports");
        var today = DateOnly.FromDateTime(DateTime.Today);
        foreach (var kind in ReportCatalog.All)
        {
            var ask = new ReportAsk(today.AddYears(-1).AddDays(1), today, Needed);
            Of($"Whole report: {kind.Title}", 1_000).Took[invoices] = await Measuring.Percentile95Async(
                3,
                _ => books.WithAsync<ReportCatalog, Report>(r => r.MakeAsync(kind, ask)),
                1
            );
        }

        var authority = await books.WithAsync<BooksContext, TaxAuthority>(db =>
            db.TaxAuthorities.AsNoTracking().FirstAsync()
        );
        var month = new DateOnly(today.Year, today.Month, 1);
        Task<ReturnThen> ComputeAsync(DateOnly from, DateOnly to) =>
            books.WithAsync<TaxReturns, ReturnThen>(r => r.ComputeAsync(authority, from, to));
        Task<ReturnDue?> NextAsync() =>
            books.WithAsync<ReturnFiling, ReturnDue?>(async f => (await f.AuthoritiesAsync())[0].Due);
        Of("A return over two years, none of them filed", 2_000).Took[invoices] = await Measuring.OnceAsync(() =>
            ComputeAsync(month.AddYears(-2), month.AddDays(-1))
        );
        while (await NextAsync() is { } due && due.To < month.AddDays(-1))
        {
            var seen = (await ComputeAsync(due.From, due.To)).Tax;
            await books.WithAsync<ReturnFiling, int>(f =>
                f.FileAsync(new ReturnToFile(authority.Id, due.From, due.To, seen, ""))
            );
        }

        Of("The return of a month, all earlier ones filed", 2_000).Took[invoices] = await Measuring.Percentile95Async(
            5,
            _ => ComputeAsync(month.AddMonths(-1), month.AddDays(-1))
        );
    }

    /// <summary>What some reports cannot be made without.</summary>
    private static readonly Dictionary<string, string> Needed = new() { ["account"] = "1", ["customer"] = "C00001" };

    private async Task PagesAsync(string folder, int invoices)
    {
        Say("  pages");
        await using var served = await Served.StartAsync(root, folder);
        await using var bare = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = Path.Combine(folder, "books.db"),
                Mode = SqliteOpenMode.ReadOnly,
                Pooling = false,
            }.ConnectionString
        );
        await bare.OpenAsync();
        foreach (var (name, path, question) in Lists)
        {
            var measure = Of($"Page: {name}", 100);
            measure.Took[invoices] = await Measuring.Percentile95Async(40, _ => served.GetAsync(path), 5);
            if (question.Length > 0)
                measure.Bare[invoices] = await Measuring.Percentile95Async(40, _ => AskAsync(bare, question), 5);
        }

        var random = new Random(seed);
        Of("Page: a customer's account", 100).Took[invoices] = await Measuring.Percentile95Async(
            40,
            _ => served.GetAsync($"/customers/{random.Next(1, 20)}"),
            5
        );
        Of("Page: an invoice", 100).Took[invoices] = await Measuring.Percentile95Async(
            40,
            _ => served.GetAsync($"/papers/{random.Next(1, invoices)}"),
            5
        );
        foreach (var kind in ReportCatalog.All.Where(k => k.Page is null))
            Of($"First page of a report: {kind.Title}", 300).Took[invoices] = await Measuring.Percentile95Async(
                5,
                _ => served.GetAsync($"{kind.Address}?days=last-12-months&account=1&customer=C00001"),
                1
            );
        Of("Page: aged balances today", 300).Took[invoices] = await Measuring.Percentile95Async(
            10,
            _ => served.GetAsync("/reports/aged")
        );
        Of("Memory of the process at the most", 400, "MB").Took[invoices] = served.PeakMemory();
    }
}
