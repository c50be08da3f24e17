using Jugaad.Desk;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Bank;
using Jugaad.Formats.EInvoices;
using Jugaad.Formats.Papers;
using Jugaad.Formats.Pictures;
using Jugaad.Formats.Tables;
using Jugaad.Formats.Taxes;
using Jugaad.Outside;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

namespace Jugaad.Bench;

/// <summary>Books in a folder of their own, with the desks that work on them.</summary>
internal sealed class Books : IAsyncDisposable
{
    internal const string Email = "owner@bench.example";
    internal const string Password = "a bench password";

    private readonly ServiceProvider _services;

    private Books(BooksFile file, ServiceProvider services) => (File, _services) = (file, services);

    internal BooksFile File { get; }

    internal static async Task<Books> OpenAsync(string folder)
    {
        var file = new BooksFile(folder);
        await file.PrepareAsync();
        return new Books(
            file,
            new ServiceCollection()
                .AddDesks(file)
                .AddLogging(log => log.SetMinimumLevel(LogLevel.None))
                .AddScoped<IActor>(_ => new NamedActor("Bench"))
                .AddSingleton<IPaperPrinter, PaperPrinter>()
                .AddSingleton<IPictureCleaner, PictureCleaner>()
                .AddSingleton<ISecretKeeper, NoSecrets>()
                .AddSingleton<IMailCarrier>(new MailStandIn(file))
                .AddSingleton<IMessageGateway, MessageStandIn>()
                .AddSingleton<ISiteAddress, NoSite>()
                .AddSingleton<ITableFiles, TableFiles>()
                .AddSingleton<IStatementReader, StatementReader>()
                .AddSingleton<IPaymentFileWriter, CreditTransferWriter>()
                .AddSingleton<ITaxKits, ShippedKits>()
                .AddSingleton<IBusinessRegister, RegisterStandIn>()
                .AddSingleton<IEInvoiceFiles, EInvoicePort>()
                .AddSingleton<IAccessPoint, AccessPointStandIn>()
                .AddSingleton<IAuthorityDesk, AuthorityStandIn>()
                .AddSingleton<CardStandIn>()
                .AddSingleton<ICardService>(s => s.GetRequiredService<CardStandIn>())
                .BuildServiceProvider()
        );
    }

    internal async Task<TResult> WithAsync<T, TResult>(Func<T, Task<TResult>> work)
        where T : notnull
    {
        await using var scope = _services.CreateAsyncScope();
        return await work(scope.ServiceProvider.GetRequiredService<T>());
    }

    internal Task WithAsync<T>(Func<T, Task> work)
        where T : notnull =>
        WithAsync<T, bool>(async desk =>
        {
            await work(desk);
            return true;
        });

    public ValueTask DisposeAsync() => _services.DisposeAsync();

    private sealed class NoSecrets : ISecretKeeper
    {
        public string Protect(string secret) => secret;

        public string Reveal(string kept) => kept;
    }

    private sealed class NoSite : ISiteAddress
    {
        public string Address => "http://bench.example";
    }
}
