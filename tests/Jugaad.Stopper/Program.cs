using System.Data.Common;
using System.Diagnostics;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Keeping;
using Jugaad.Formats.Archives;
using Jugaad.Stopper;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Microsoft.Extensions.DependencyInjection;

// Works on books and is killed, by itself at a moment that is named, or from outside at any:
//   FOLDER DRAFT-ID write:N | before-commit | after-commit   issues a draft and kills its own process at that moment
//   FOLDER FIRST work          does one piece of work after another (see WorkDay)
//   FOLDER ARCHIVE restore     brings a backup back, again and again
//   FOLDER N lift              makes a file of the small schema and brings it up to date, again and again
//   FOLDER N full              works while the disk is full, then with room again, and checks the books
//   FILE N migrate             brings a file of the small schema up to date, and stops after its Nth command
switch (args[2])
{
    case "migrate":
        await Boats.Schema(args[0], new Moment($"command:{args[1]}") { Armed = true }).LiftAsync(_ => { });
        return 0;
    case "restore":
        while (true)
        {
            var folder = new BooksFile(args[0]);
            using var held = BooksLock.Hold(folder, "by the stopper");
            await new Restoring(new OpenPgpSeal(), TimeProvider.System).RestoreAsync(
                args[1],
                folder,
                held,
                [],
                _ => { }
            );
            foreach (var aside in Directory.EnumerateDirectories(folder.Folder, "before-*"))
                Directory.Delete(aside, recursive: true);
        }

    case "lift":
        for (var i = 0; ; i = (i + 1) % 4)
        {
            var path = Path.Combine(args[0], $"boats-{i}.db");
            foreach (var old in Directory.EnumerateFiles(args[0], $"boats-{i}*"))
                File.Delete(old);
            await using (var boats = Boats.Open(path))
                await boats.GetService<IMigrator>().MigrateAsync("20250101000000_Begin");
            await Boats.Schema(path).LiftAsync(_ => { });
        }
}

var moment = new Moment(args[2]);
var file = new BooksFile(args[0]);
var services = WorkServices.On(file, args[2] == "full" ? Path.GetTempFileName() : WorkDay.MailboxOf(file.Folder));
services.AddDbContext<BooksContext>((_, options) => options.AddInterceptors(moment));
await using var provider = services.BuildServiceProvider();
switch (args[2])
{
    case "work":
        await new WorkDay(provider).RunAsync(int.Parse(args[1]), WorkDay.NotesOf(file.Folder));
        return 0;
    case "full":
        return await FullDisk.RunAsync(provider, file, int.Parse(args[1]));
}

await using var scope = provider.CreateAsyncScope();
var id = int.Parse(args[1]);
var version = await scope
    .ServiceProvider.GetRequiredService<BooksContext>()
    .Documents.Where(d => d.Id == id)
    .Select(d => d.Version)
    .SingleAsync();
moment.Armed = true;
await scope.ServiceProvider.GetRequiredService<IssuingDesk>().IssueAsync(id, version);
Console.Error.WriteLine("The moment did not come.");
return 3;

internal sealed class Moment(string name) : DbCommandInterceptor, IDbTransactionInterceptor
{
    private int _writes;
    private int _commands;

    internal bool Armed { get; set; }

    public override ValueTask<DbDataReader> ReaderExecutedAsync(
        DbCommand command,
        CommandExecutedEventData eventData,
        DbDataReader result,
        CancellationToken cancellationToken = default
    )
    {
        CountWrite(command);
        return ValueTask.FromResult(result);
    }

    public override ValueTask<int> NonQueryExecutedAsync(
        DbCommand command,
        CommandExecutedEventData eventData,
        int result,
        CancellationToken cancellationToken = default
    )
    {
        CountWrite(command);
        return ValueTask.FromResult(result);
    }

    public ValueTask<InterceptionResult> TransactionCommittingAsync(
        DbTransaction transaction,
        TransactionEventData eventData,
        InterceptionResult result,
        CancellationToken cancellationToken = default
    )
    {
        if (Armed && name == "before-commit")
            Stop();
        return ValueTask.FromResult(result);
    }

    public Task TransactionCommittedAsync(
        DbTransaction transaction,
        TransactionEndEventData eventData,
        CancellationToken cancellationToken = default
    )
    {
        if (Armed && name == "after-commit")
            Stop();
        return Task.CompletedTask;
    }

    private void CountWrite(DbCommand command)
    {
        if (Armed && name == $"command:{++_commands}")
            Stop();
        if (
            !Armed
            || !(
                command.CommandText.Contains("INSERT", StringComparison.Ordinal)
                || command.CommandText.Contains("UPDATE", StringComparison.Ordinal)
            )
        )
            return;
        if (name == $"write:{++_writes}")
            Stop();
    }

    private static void Stop()
    {
        Process.GetCurrentProcess().Kill();
        Thread.Sleep(Timeout.Infinite);
    }
}
