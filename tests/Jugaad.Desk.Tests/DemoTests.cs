using Jugaad.Core.Documents;
using Jugaad.Demo;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Papers;
using Jugaad.Formats.Pictures;
using Jugaad.Outside;
using Jugaad.Stopper;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Desk.Tests;

/// <summary>The demo's world, made through the same desks that people use.</summary>
public sealed class DemoTests
{
    [Fact]
    public async Task The_demo_is_healthy_full_of_habits_and_the_same_every_time()
    {
        var worlds = await Task.WhenAll(MakeAsync(looksAtPapers: true), MakeAsync(looksAtPapers: false));
        worlds[0].Story.ShouldBe(worlds[1].Story);
        var world = worlds[0];
        world.Differences.ShouldBeEmpty();
        world.Unprintable.ShouldBeEmpty();
        world.Breaches.ShouldBeEmpty();
        world.Counts.Customers.ShouldBe(16, "fifteen, and the counter's");
        world.Counts.Items.ShouldBe(24);
        world.Counts.Invoices.ShouldBeGreaterThanOrEqualTo(60);
        world.Counts.Receipts.ShouldBeGreaterThan(50);
        world.QuoteStates.ShouldBe(
            [
                DocumentState.Draft,
                DocumentState.Sent,
                DocumentState.Accepted,
                DocumentState.Declined,
                DocumentState.Lapsed,
            ],
            ignoreOrder: true
        );
        world.Kinds[DocumentKind.Quote].ShouldBeGreaterThanOrEqualTo(40);
        world.Kinds[DocumentKind.DeliveryNote].ShouldBeGreaterThanOrEqualTo(25);
        world.Kinds[DocumentKind.CreditNote].ShouldBeGreaterThanOrEqualTo(6);
        world.Kinds[DocumentKind.Order].ShouldBe(10);
        world.DaysLate["KALLAS"].ShouldBeInRange(15, 25);
        world.DaysLate["KORALL"].ShouldBeLessThan(3);
        world.Counts.Unsent.ShouldBe(0);
        world.Rates.ShouldBe([22m, 24m], ignoreOrder: true);
    }

    private sealed record World(
        string Story,
        IReadOnlyList<string> Differences,
        (int Customers, int Items, int Invoices, int Receipts, int Unsent) Counts,
        IReadOnlyList<DocumentState> QuoteStates,
        IReadOnlyDictionary<string, double> DaysLate,
        IReadOnlyList<decimal> Rates,
        IReadOnlyDictionary<DocumentKind, int> Kinds,
        IReadOnlyList<string> Unprintable,
        IReadOnlyList<string> Breaches
    );

    private static async Task<World> MakeAsync(bool looksAtPapers)
    {
        var file = new BooksFile(Directory.CreateTempSubdirectory("jugaad-demo-").FullName);
        await file.PrepareAsync();
        await using var services = new ServiceCollection()
            .AddDesks(file)
            .AddLogging()
            .AddScoped<IActor>(_ => new NamedActor(Acting.Now ?? "nobody"))
            .AddSingleton<IPaperPrinter, PaperPrinter>()
            .AddSingleton<Jugaad.Desk.Lists.ITableFiles, Jugaad.Formats.Tables.TableFiles>()
            .AddSingleton<IPictureCleaner, PictureCleaner>()
            .AddSingleton<ISecretKeeper, NoSecrets>()
            .AddSingleton<IMailCarrier>(new MailStandIn(file))
            .AddSingleton<IMessageGateway, MessageStandIn>()
            .AddSingleton<IEInvoiceFiles, Jugaad.Formats.EInvoices.EInvoicePort>()
            .AddSingleton<IAccessPoint, AccessPointStandIn>()
            .AddSingleton(new CardStandIn(file))
            .AddSingleton<ICardService>(s => s.GetRequiredService<CardStandIn>())
            .AddSingleton<Jugaad.Desk.Filing.IAuthorityDesk, AuthorityStandIn>()
            .AddSingleton<ICardPage>(s => s.GetRequiredService<CardStandIn>())
            .AddSingleton<ISiteAddress, HarbourAddress>()
            .AddSingleton<IStatementReader, Jugaad.Formats.Bank.StatementReader>()
            .AddSingleton<IRateFiles, Jugaad.Formats.Rates.RateFiles>()
            .AddSingleton<IPaymentFileWriter, Jugaad.Formats.Bank.CreditTransferWriter>()
            .BuildServiceProvider();
        await new DemoBooks(services).MakeAsync(_ => { });
        await using var db = file.Open();
        var documents = await db
            .Documents.AsNoTracking()
            .Include(d => d.Customer)
            .Include(d => d.Taxes)
            .OrderBy(d => d.Id)
            .ToListAsync();
        var receipts = await db.Receipts.OrderBy(r => r.Id).ToListAsync();
        var story = string.Join(
            '\n',
            documents
                .Select(d => $"{d.Kind} {d.Number} {d.Date:O} {d.Customer!.Code} {d.Payable} {d.State}")
                .Concat(receipts.Select(r => $"{r.Number} {r.Date:O} {r.Amount}"))
        );
        var paid = await db
            .Allocations.Where(a => a.Lowering.Kind == Core.Accounts.AccountItemKind.Receipt)
            .Select(a => new
            {
                a.Raising.CustomerId,
                a.Raising.Due,
                a.Lowering.Date,
            })
            .ToListAsync();
        var codes = await db.Customers.ToDictionaryAsync(c => c.Id, c => c.Code);
        var world = new World(
            story,
            (await new BooksCheck(db).RunAsync()).Differences,
            (
                await db.Customers.CountAsync(),
                await db.Items.CountAsync(),
                documents.Count(d => d.Kind == DocumentKind.Invoice),
                receipts.Count,
                await db.Post.CountAsync(p => p.State != PostState.Sent)
            ),
            documents.Where(d => d.Kind == DocumentKind.Quote).Select(d => d.State).Distinct().ToList(),
            paid.GroupBy(p => codes[p.CustomerId])
                .ToDictionary(g => g.Key, g => g.Average(p => p.Date.DayNumber - p.Due.DayNumber)),
            documents
                .SelectMany(d => d.Taxes)
                .Where(t => t.Component == "VAT")
                .Select(t => t.Percent)
                .Distinct()
                .ToList(),
            documents.GroupBy(d => d.Kind).ToDictionary(g => g.Key, g => g.Count()),
            looksAtPapers ? await UnprintableAsync(services, documents) : [],
            looksAtPapers ? await BreachesAsync(services, documents) : []
        );
        await db.DisposeAsync();
        SqliteConnection.ClearAllPools();
        Directory.Delete(file.Folder, recursive: true);
        return world;
    }

    /// <summary>What of any paper no typeface that ships can paint.</summary>
    private static async Task<IReadOnlyList<string>> UnprintableAsync(
        IServiceProvider services,
        IEnumerable<Document> documents
    )
    {
        await using var scope = services.CreateAsyncScope();
        var room = scope.ServiceProvider.GetRequiredService<Papers.PaperRoom>();
        var marks = new List<string>();
        foreach (var document in documents)
        {
            foreach (var style in new[] { new Papers.PaperStyle(), new Papers.PaperStyle(Slip: true) })
                marks.AddRange(
                    (await room.ComposeAsync(document.Id, style))
                        .Pages.SelectMany(p => p.Marks)
                        .OfType<Core.Layouts.TextMark>()
                        .Select(t => t.Text)
                );
        }
        return [.. marks.Distinct().Where(t => PaperFonts.Shared.Unprintable(t).Count > 0)];
    }

    /// <summary>What any posted document breaks of the European standard as an e-invoice.</summary>
    private static async Task<IReadOnlyList<string>> BreachesAsync(
        IServiceProvider services,
        IEnumerable<Document> documents
    )
    {
        await using var scope = services.CreateAsyncScope();
        var room = scope.ServiceProvider.GetRequiredService<Papers.EInvoices>();
        var breaches = new List<string>();
        foreach (var document in documents.Where(d => d is { IsDraft: false, Policy.Posts: true, Number: not null }))
            breaches.AddRange(
                (await room.OfAsync(document.Id)).Breaches.Select(b =>
                    $"{document.Number}: {b.Rule} {b.Place} {b.Problem}"
                )
            );
        return breaches;
    }

    private sealed class NoSecrets : ISecretKeeper
    {
        public string Protect(string secret) => secret;

        public string Reveal(string kept) => kept;
    }
}
