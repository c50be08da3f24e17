using System.Data.Common;
using System.Diagnostics;
using Jugaad.Core.Layouts;
using Jugaad.Desk;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Selling;
using Jugaad.Stopper;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.Extensions.DependencyInjection;

// Issues a draft and kills its own process, without any clean-up, at a moment that is named:
//   Jugaad.Stopper FOLDER DRAFT-ID write:N | before-commit | after-commit
// Or posts one receipt after another against the invoices of a customer, oldest first, until it is killed from outside or all is posted:
//   Jugaad.Stopper FOLDER CUSTOMER-ID receipts
// Or brings a file of the small schema up to date, and stops after its Nth command:
//   Jugaad.Stopper FILE N migrate
if (args[2] == "migrate")
{
    await Boats.Schema(args[0], new Moment($"command:{args[1]}") { Armed = true }).LiftAsync(_ => { });
    return 0;
}

var moment = new Moment(args[2]);
var file = new BooksFile(args[0]);
var services = new ServiceCollection().AddDesks(file).AddLogging()
    .AddScoped<IActor>(_ => new NamedActor("Stopper"))
    .AddSingleton<IPaperPrinter, NoPrinter>();
services.AddDbContext<BooksContext>((_, options) => options.AddInterceptors(moment));
await using var provider = services.BuildServiceProvider();
await using var scope = provider.CreateAsyncScope();
var id = int.Parse(args[1]);
if (args[2] == "receipts")
{
    await ReceiptRun.PostAsync(provider, id);
    return 0;
}

var version = await scope.ServiceProvider.GetRequiredService<BooksContext>().Documents.Where(d => d.Id == id).Select(d => d.Version).SingleAsync();
moment.Armed = true;
await scope.ServiceProvider.GetRequiredService<Issuing>().IssueAsync(id, version);
Console.Error.WriteLine("The moment did not come.");
return 3;

internal sealed class Moment(string name) : DbCommandInterceptor, IDbTransactionInterceptor
{
    private int _writes;
    private int _commands;

    internal bool Armed { get; set; }

    public override ValueTask<DbDataReader> ReaderExecutedAsync(DbCommand command, CommandExecutedEventData eventData, DbDataReader result, CancellationToken cancellationToken = default)
    {
        CountWrite(command);
        return ValueTask.FromResult(result);
    }

    public override ValueTask<int> NonQueryExecutedAsync(DbCommand command, CommandExecutedEventData eventData, int result, CancellationToken cancellationToken = default)
    {
        CountWrite(command);
        return ValueTask.FromResult(result);
    }

    public ValueTask<InterceptionResult> TransactionCommittingAsync(DbTransaction transaction, TransactionEventData eventData, InterceptionResult result, CancellationToken cancellationToken = default)
    {
        if (Armed && name == "before-commit") Stop();
        return ValueTask.FromResult(result);
    }

    public Task TransactionCommittedAsync(DbTransaction transaction, TransactionEndEventData eventData, CancellationToken cancellationToken = default)
    {
        if (Armed && name == "after-commit") Stop();
        return Task.CompletedTask;
    }

    private void CountWrite(DbCommand command)
    {
        if (Armed && name == $"command:{++_commands}") Stop();
        if (!Armed || !(command.CommandText.Contains("INSERT", StringComparison.Ordinal) || command.CommandText.Contains("UPDATE", StringComparison.Ordinal))) return;
        if (name == $"write:{++_writes}") Stop();
    }

    private static void Stop()
    {
        Process.GetCurrentProcess().Kill();
        Thread.Sleep(Timeout.Infinite);
    }
}

internal sealed class NoPrinter : IPaperPrinter
{
    public ITextMeasure Measure => throw new NotSupportedException();

    public byte[] Pdf(IReadOnlyList<DisplayList> papers, PaperPictures pictures, DateOnly date, string author) => throw new NotSupportedException();

    public IReadOnlyList<string> Svg(DisplayList paper, Func<PaperPicture, string?> addressOf) => throw new NotSupportedException();
}
