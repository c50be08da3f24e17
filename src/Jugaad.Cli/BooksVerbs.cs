using System.CommandLine;
using Jugaad.Core;
using Jugaad.Desk;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Archives;
using Jugaad.Formats.Bank;
using Jugaad.Formats.EInvoices;
using Jugaad.Formats.Papers;
using Jugaad.Formats.Pictures;
using Jugaad.Formats.Rates;
using Jugaad.Formats.Tables;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

namespace Jugaad.Cli;

/// <summary>What the verbs that open books share.</summary>
internal static class BooksVerbs
{
    internal static Option<string> Data() =>
        new("--data")
        {
            Description = "The folder of the books.",
            Required = true,
            HelpName = "DIR",
        };

    /// <summary>
    /// Opens the books and runs <paramref name="work"/>; says what is wrong and gives 2 where that cannot be.
    /// </summary>
    internal static Task<int> WithAsync(string folder, Func<IServiceProvider, Task<int>> work) =>
        SaidAsync(async () =>
        {
            var file = new BooksFile(folder);
            if (!File.Exists(file.Database))
                throw new RefusalException(
                    "data",
                    $"There are no books in {file.Folder}. Give the folder that has books.db in it."
                );
            if ((await file.Schema.LackingAsync()).Count > 0)
                throw new RefusalException(
                    "data",
                    "These books were kept by an older version. Start Jugaad on them once, which brings them up to date, and try again."
                );
            await using var services = new ServiceCollection()
                .AddLogging(log => log.SetMinimumLevel(LogLevel.None))
                .AddDesks(file)
                .AddScoped<IActor>(_ => new NamedActor(Environment.UserName))
                .AddSingleton<ITableFiles, TableFiles>()
                .AddSingleton<IPaperPrinter, PaperPrinter>()
                .AddSingleton<IPictureCleaner, PictureCleaner>()
                .AddSingleton<IArchiveSeal, OpenPgpSeal>()
                .AddSingleton<ISiteAddress, ListeningAddress>()
                .AddSingleton<IMailCarrier, NoCarrier>()
                .AddSingleton<IMessageGateway, NoCarrier>()
                .AddSingleton<IEInvoiceFiles, EInvoicePort>()
                .AddSingleton<IAccessPoint, NoNetwork>()
                .AddSingleton<IStatementReader, StatementReader>()
                .AddSingleton<IRateFiles, RateFiles>()
                .AddSingleton<IPaymentFileWriter, CreditTransferWriter>()
                .BuildServiceProvider();
            await using var scope = services.CreateAsyncScope();
            return await work(scope.ServiceProvider);
        });

    /// <summary>
    /// Runs <paramref name="work"/>; says what is refused, or what the disk or the books do not let, and gives 2 then.
    /// </summary>
    internal static async Task<int> SaidAsync(Func<Task<int>> work)
    {
        try
        {
            return await work();
        }
        catch (RefusalException refused)
        {
            foreach (var refusal in refused.Refusals)
                Console.Error.WriteLine(refusal.Message);
            return 2;
        }
        catch (Exception cannot) when (BooksTrouble.Of(cannot) is { } trouble)
        {
            Console.Error.WriteLine(trouble.Words);
            return 2;
        }
    }
}
