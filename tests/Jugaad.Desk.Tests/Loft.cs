using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Jugaad.Formats.Papers;
using Jugaad.Formats.Pictures;
using Jugaad.Formats.Tables;
using Jugaad.Formats.Taxes;
using Jugaad.Outside;
using Jugaad.Stopper;
using Microsoft.AspNetCore.Identity;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Time.Testing;

namespace Jugaad.Desk.Tests;

/// <summary>
/// A small business with real books in a real SQLite file, a fake clock, and the real painters and stand-ins.
/// </summary>
public sealed class Loft : IAsyncDisposable
{
    private readonly ServiceProvider _services;
    private bool _isKept;
    private static readonly AsyncLocal<PersonRole?> Role = new();

    private Loft(ServiceProvider services, BooksFile file, FakeTimeProvider clock, ScriptedCarrier carrier) =>
        (_services, File, Clock, Carrier) = (services, file, clock, carrier);

    public BooksFile File { get; }

    public FakeTimeProvider Clock { get; }

    public ScriptedCarrier Carrier { get; }

    public static DateOnly Today { get; } = new(2025, 9, 17);

    public int Yard { get; private set; }

    public int Swede { get; private set; }

    public int Std { get; private set; }

    public int Bank { get; private set; }

    public int Sales { get; private set; }

    /// <summary>The same loft, with its taxes from a kit that ships.</summary>
    public static Task<Loft> WithKitAsync(string key, Address address, DateOnly? registeredFrom) =>
        OpenAsync(first =>
            first with
            {
                TaxName = "",
                TaxPercent = 0,
                Kit = new ShippedKits().Find(key),
                RegisteredFrom = registeredFrom,
                Business = first.Business with
                {
                    Address = address,
                    TaxNumber = address.Country == "EE" && registeredFrom is not null ? "EE101188342" : "",
                },
            }
        );

    public static async Task<Loft> OpenAsync(Func<FirstRun, FirstRun>? change = null)
    {
        var file = new BooksFile(Directory.CreateTempSubdirectory("jugaad-desk-").FullName);
        // Most tests begin with the same books, so those are made once and copied; the others with an empty file, whose
        // schema takes longer to be made than most tests take.
        System.IO.File.Copy((await (change is null ? Usual : Blank).Value).Database, file.Database);
        var loft = Open(file);
        if (change is null)
            await loft.KnowAsync();
        else
            await loft.SetUpAsync(change);
        return loft;
    }

    /// <summary>A loft on books that are put there first, of whatever schema.</summary>
    public static async Task<Loft> OnCopyAsync(Func<string, Task> put)
    {
        var file = new BooksFile(Directory.CreateTempSubdirectory("jugaad-desk-").FullName);
        await put(file.Database);
        return Open(file);
    }

    private static readonly Lazy<Task<BooksFile>> Usual = new(() =>
        MakeOnceAsync(loft => loft.SetUpAsync(first => first))
    );

    private static readonly Lazy<Task<BooksFile>> Blank = new(() => MakeOnceAsync(_ => Task.CompletedTask));

    private static async Task<BooksFile> MakeOnceAsync(Func<Loft, Task> fill)
    {
        var file = new BooksFile(Directory.CreateTempSubdirectory("jugaad-desk-").FullName);
        await file.PrepareAsync();
        await using var loft = Open(file, kept: true);
        await fill(loft);
        await loft.ExecuteAsync("PRAGMA wal_checkpoint(TRUNCATE)");
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(file.Folder, recursive: true);
        return file;
    }

    private static Loft Open(BooksFile file, bool kept = false)
    {
        var clock = new FakeTimeProvider(new DateTimeOffset(2025, 9, 17, 9, 0, 0, TimeSpan.Zero));
        var carrier = new ScriptedCarrier();
        var services = new ServiceCollection()
            .AddDesks(file)
            .AddLogging()
            .AddSingleton<TimeProvider>(clock)
            // Few rounds, since most tests sign in and none guesses; how many the real ones are is held by a test of
            // its own.
            .Configure<PasswordHasherOptions>(hashes => hashes.IterationCount = 1_000)
            .AddScoped<IActor>(_ => new NamedActor("Tester", Role.Value))
            .AddSingleton<IPaperPrinter, PaperPrinter>()
            .AddSingleton<IPictureCleaner, PictureCleaner>()
            .AddSingleton<ISecretKeeper, PlainKeeper>()
            .AddSingleton<IMailCarrier>(carrier)
            .AddSingleton<IMessageGateway, MessageStandIn>()
            .AddSingleton<IEInvoiceFiles, Jugaad.Formats.EInvoices.EInvoicePort>()
            .AddSingleton<IAccessPoint, AccessPointStandIn>()
            .AddSingleton<ISiteAddress, HarbourAddress>()
            .AddSingleton<ITaxKits, ShippedKits>()
            .AddSingleton<ITableFiles, TableFiles>()
            .AddSingleton<IStatementReader, Jugaad.Formats.Bank.StatementReader>()
            .AddSingleton<IRateFiles, Jugaad.Formats.Rates.RateFiles>()
            .AddSingleton<IRateSource, RateStandIn>()
            .AddSingleton<IPaymentFileWriter, Jugaad.Formats.Bank.CreditTransferWriter>()
            .AddSingleton<IBusinessRegister, RegisterStandIn>()
            .AddSingleton<CardStandIn>()
            .AddSingleton<ICardService>(s => s.GetRequiredService<CardStandIn>())
            .AddSingleton<Jugaad.Desk.Filing.IAuthorityDesk, AuthorityStandIn>()
            .AddSingleton<ICardPage>(s => s.GetRequiredService<CardStandIn>())
            .AddSingleton<IArchiveSeal, Jugaad.Formats.Archives.OpenPgpSeal>()
            .AddSingleton<IOtherPlaces, OtherPlaces>()
            .BuildServiceProvider();
        return new Loft(services, file, clock, carrier) { _isKept = kept };
    }

    /// <summary>
    /// From here on in this test, somebody of that role acts; null for somebody who may do everything.
    /// </summary>
    public static void ActAs(PersonRole? role) => Role.Value = role;

    /// <summary>Does one thing with a desk, as one request would.</summary>
    public async Task<TResult> WithAsync<T, TResult>(Func<T, Task<TResult>> work)
        where T : notnull
    {
        await using var scope = _services.CreateAsyncScope();
        return await work(scope.ServiceProvider.GetRequiredService<T>());
    }

    public Task WithAsync<T>(Func<T, Task> work)
        where T : notnull =>
        WithAsync<T, bool>(async desk =>
        {
            await work(desk);
            return true;
        });

    /// <summary>What is refused first of something that leaves no trace in the books.</summary>
    public async Task<Refusal> RefusedAsync(Func<Task> work)
    {
        var before = await this.PictureAsync();
        var refused = (await Should.ThrowAsync<RefusalException>(work)).Refusals[0];
        (await this.PictureAsync()).ShouldBe(before);
        return refused;
    }

    public Task<CheckReport> CheckAsync() => WithAsync<BooksCheck, CheckReport>(c => c.RunAsync());

    /// <summary>Has the books be the demo's, in which stand-ins play the outside world.</summary>
    public Task BeTheDemoAsync() => ExecuteAsync($"UPDATE Businesses SET PinnedDay = '{Today:yyyy-MM-dd}'");

    /// <summary>The one number that a question gives.</summary>
    public Task<long> NumberAsync(string sql) =>
        WithAsync<BooksContext, long>(async db =>
        {
            await db.Database.OpenConnectionAsync();
            await using var command = db.Database.GetDbConnection().CreateCommand();
            command.CommandText = sql;
            return Convert.ToInt64(
                await command.ExecuteScalarAsync(),
                System.Globalization.CultureInfo.InvariantCulture
            );
        });

    public Task ExecuteAsync(string sql) => WithAsync<BooksContext>(db => db.Database.ExecuteSqlRawAsync(sql));

    public DraftContent Content(
        decimal quantity = 2,
        decimal price = 50,
        int? customer = null,
        DateOnly? date = null
    ) =>
        new()
        {
            CustomerId = customer ?? Yard,
            Date = date ?? Today,
            Lines = [new DraftLine(null, "Sail repair", quantity, "HUR", price, null, null, Std, Sales)],
        };

    public Task<int> DraftAsync(DraftContent? content = null, DocumentKind kind = DocumentKind.Invoice) =>
        WithAsync<Drafts, int>(d => d.SaveAsync(new DraftToSave(null, kind, 0, content ?? Content())));

    public async Task<Document> IssuedAsync(DraftContent? content = null, DocumentKind kind = DocumentKind.Invoice)
    {
        var id = await DraftAsync(content, kind);
        await WithAsync<IssuingDesk>(i => i.IssueAsync(id, 1));
        return await DocumentAsync(id);
    }

    public Task<Document> DocumentAsync(int id) =>
        WithAsync<BooksContext, Document>(db =>
            db.Documents.AsNoTracking().Include(d => d.Lines).Include(d => d.Charges).SingleAsync(d => d.Id == id)
        );

    public Task<Core.Accounts.AccountItem> ItemOfAsync(int documentId) =>
        WithAsync<BooksContext, Core.Accounts.AccountItem>(db =>
            db.AccountItems.AsNoTracking().SingleAsync(i => i.DocumentId == documentId)
        );

    public Task<int> ReceiveAsync(long amount, params (int, long)[] against) =>
        WithAsync<Receipts, int>(r => r.PostAsync(new ReceiptToPost(Yard, Today, Bank, amount, "by bank", against)));

    public async ValueTask DisposeAsync()
    {
        await _services.DisposeAsync();
        await using (var db = File.Open())
            SqliteConnection.ClearPool((SqliteConnection)db.Database.GetDbConnection());
        if (!_isKept)
            Directory.Delete(File.Folder, recursive: true);
    }

    private async Task SetUpAsync(Func<FirstRun, FirstRun> change)
    {
        await WithAsync<BooksSetup>(s =>
            s.MakeAsync(
                change(
                    new FirstRun(
                        new BusinessDetails
                        {
                            Name = "Little Loft",
                            Address = new Address("Quay 1", "1", "Harbour", "EE"),
                            Email = "loft@little.example",
                            HomeCurrency = "EUR",
                        },
                        "VAT",
                        24,
                        "Owner",
                        "owner@little.example",
                        "a long password"
                    )
                )
            )
        );
        await WithAsync<RatesDesk>(r => r.EnterAsync(new("SEK", new DateOnly(2025, 1, 1), 0.0874m)));
        await WithAsync<RatesDesk>(r => r.EnterAsync(new("SEK", new DateOnly(2025, 9, 16), 0.0901m)));
        await WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(
                null,
                0,
                new CustomerDetails
                {
                    Name = "Yard",
                    Currency = "EUR",
                    Email = "yard@slip.example",
                    CreditLimit = 100_000,
                    Address = new Address("", "", "", "EE"),
                }
            )
        );
        await WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(
                null,
                0,
                new CustomerDetails
                {
                    Name = "Varv",
                    Currency = "SEK",
                    Email = "varv@slip.example",
                }
            )
        );
        await KnowAsync();
    }

    private Task KnowAsync() =>
        WithAsync<BooksContext>(async db =>
        {
            Yard = await db.Customers.Where(c => c.Name == "Yard").Select(c => c.Id).SingleAsync();
            Swede = await db.Customers.Where(c => c.Name == "Varv").Select(c => c.Id).SingleAsync();
            Std = (await db.Businesses.Select(b => b.DefaultTaxCodeId).SingleAsync())!.Value;
            Bank = await db.LedgerAccounts.Where(a => a.Code == "1000").Select(a => a.Id).SingleAsync();
            Sales = await db.LedgerAccounts.Where(a => a.Code == "3000").Select(a => a.Id).SingleAsync();
        });
}

/// <summary>A carrier that fails when it is told to.</summary>
public sealed class ScriptedCarrier : IMailCarrier
{
    public List<OutgoingMail> Carried { get; } = [];

    /// <summary>What happens to a mail before it is taken over.</summary>
    public Action<OutgoingMail> Before { get; set; } = _ => { };

    /// <summary>Whether it says of itself that nothing leaves the house by it.</summary>
    public bool OnlyPlays { get; set; }

    public bool IsStandIn(MailSettings settings) => OnlyPlays && !settings.UseServer;

    public Task<string> CarryAsync(OutgoingMail mail, MailSettings settings, CancellationToken stop)
    {
        Before(mail);
        Carried.Add(mail);
        return Task.FromResult("250 taken");
    }
}
