using System.CommandLine;
using Jugaad.Core;
using Jugaad.Desk;
using Jugaad.Desk.Books;
using Jugaad.Desk.Moving;
using Jugaad.Formats.Tables;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

namespace Jugaad.Cli;

/// <summary>What the verbs that open books share.</summary>
internal static class BooksVerbs
{
    internal static Option<string> Data() => new("--data") { Description = "The folder of the books.", Required = true, HelpName = "DIR" };

    /// <summary>Opens the books and runs <paramref name="work"/>; says what is wrong and gives 2 where that cannot be.</summary>
    internal static async Task<int> WithAsync(string folder, Func<IServiceProvider, Task<int>> work)
    {
        var file = new BooksFile(folder);
        if (!File.Exists(file.Database))
        {
            Console.Error.WriteLine($"There are no books in {file.Folder}. Give the folder that has books.db in it.");
            return 2;
        }

        try
        {
            if ((await file.Schema.LackingAsync()).Count > 0)
            {
                Console.Error.WriteLine("These books were kept by an older version. Start Jugaad on them once, which brings them up to date, and try again.");
                return 2;
            }
        }
        catch (RefusalException refused)
        {
            Console.Error.WriteLine(refused.Message);
            return 2;
        }

        await using var services = new ServiceCollection().AddLogging(log => log.SetMinimumLevel(LogLevel.None)).AddDesks(file)
            .AddScoped<IActor>(_ => new NamedActor(Environment.UserName)).AddSingleton<ITableFiles, TableFiles>().AddSingleton<Jugaad.Desk.Outside.IStatementReader, Jugaad.Formats.Bank.StatementReader>().AddSingleton<Jugaad.Desk.Outside.IPaymentFileWriter, Jugaad.Formats.Bank.CreditTransferWriter>().BuildServiceProvider();
        await using var scope = services.CreateAsyncScope();
        try
        {
            return await work(scope.ServiceProvider);
        }
        catch (RefusalException refused)
        {
            foreach (var refusal in refused.Refusals) Console.Error.WriteLine(refusal.Message);
            return 2;
        }
        catch (Exception cannot) when (cannot is IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine(cannot.Message);
            return 2;
        }
    }
}
