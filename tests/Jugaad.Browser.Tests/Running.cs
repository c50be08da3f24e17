using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Builder;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Browser.Tests;

/// <summary>The real program on a port of its own, with the demo's books in a folder of its own.</summary>
public sealed class Running : IAsyncLifetime
{
    private static readonly Lazy<Task<BooksFile>> Made = new(MakeAsync);
    private WebApplication? _app;

    public string Address { get; private set; } = "";

    public BooksFile File { get; } = new(Directory.CreateTempSubdirectory("jugaad-browser-").FullName);

    /// <summary>Does one thing with a desk of the running program, to have more to work on than the demo has.</summary>
    public async Task<TResult> WithAsync<T, TResult>(Func<T, Task<TResult>> work)
        where T : notnull
    {
        await using var scope = _app!.Services.CreateAsyncScope();
        return await work(scope.ServiceProvider.GetRequiredService<T>());
    }

    public async Task InitializeAsync()
    {
        var made = await Made.Value;
        foreach (var file in Directory.EnumerateFiles(made.Folder, "*", SearchOption.AllDirectories))
        {
            var copy = Path.Combine(File.Folder, Path.GetRelativePath(made.Folder, file));
            Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
            System.IO.File.Copy(file, copy);
        }

        _app = await OnAsync(File);
        await _app.StartAsync();
        Address = _app.Urls.First();
    }

    /// <summary>The demo's books are made once by each build and copied for each class of tests.</summary>
    private static async Task<BooksFile> MakeAsync()
    {
        var file = new BooksFile(Directory.CreateTempSubdirectory("jugaad-browser-").FullName);
        await using (await OnAsync(file))
        {
            await using var db = file.Open();
            await Microsoft.EntityFrameworkCore.RelationalDatabaseFacadeExtensions.ExecuteSqlRawAsync(
                db.Database,
                "PRAGMA wal_checkpoint(TRUNCATE)"
            );
        }

        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(file.Folder, recursive: true);
        return file;
    }

    private static async Task<WebApplication> OnAsync(BooksFile file) =>
        (
            await WebHost.BuildAsync(
                new LaunchOptions(
                    true,
                    file.Folder,
                    0,
                    false,
                    Path.Combine(SourceTree.Root, "src", "Jugaad.Web"),
                    null,
                    Path.Combine(SourceTree.Root, ".jugaad", "made")
                )
            )
        )!;

    /// <summary>An invoice of one line, issued.</summary>
    /// <returns>The document's id.</returns>
    public async Task<int> IssuedAsync(int customer, DateOnly date, decimal price)
    {
        var (tax, sales) = await WithAsync<BooksContext, (int, int)>(async db =>
            (
                await db.TaxCodes.Where(c => c.Code == "STD").Select(c => c.Id).SingleAsync(),
                await db.LedgerAccounts.Where(a => a.Code == "3000").Select(a => a.Id).SingleAsync()
            )
        );
        var content = new DraftContent
        {
            CustomerId = customer,
            Date = date,
            Lines = [new DraftLine(null, "Eyelets", 1, "C62", price, null, null, tax, sales)],
        };
        var draft = await WithAsync<Drafts, int>(d =>
            d.SaveAsync(new DraftToSave(null, DocumentKind.Invoice, 0, content))
        );
        await WithAsync<IssuingDesk, int>(i => i.IssueAsync(draft, 1));
        return draft;
    }

    public async Task DisposeAsync()
    {
        Chromium.EndOf(Address);
        if (_app is not null)
        {
            // What works in the background, such as the post, may not write into the folder any more.
            await _app.StopAsync();
            await _app.DisposeAsync();
        }

        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(File.Folder, recursive: true);
    }
}
