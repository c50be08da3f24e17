using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Builder;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Browser.Tests;

/// <summary>The real program on a port of its own, with the demo's books in a folder of its own.</summary>
public sealed class Running : IAsyncLifetime
{
    private static readonly SemaphoreSlim Making = new(1, 1);
    private WebApplication? _app;

    public string Address { get; private set; } = "";

    public BooksFile File { get; } = new(Directory.CreateTempSubdirectory("jugaad-browser-").FullName);

    /// <summary>Does one thing with a desk of the running program, to have more to work on than the demo has.</summary>
    public async Task<TResult> WithAsync<T, TResult>(Func<T, Task<TResult>> work) where T : notnull
    {
        await using var scope = _app!.Services.CreateAsyncScope();
        return await work(scope.ServiceProvider.GetRequiredService<T>());
    }

    public async Task InitializeAsync()
    {
        await Making.WaitAsync();
        try
        {
            _app = await WebHost.BuildAsync(new LaunchOptions(true, File.Folder, 0, false, Path.Combine(SourceTree.Root, "src", "Jugaad.Web")));
        }
        finally
        {
            Making.Release();
        }

        await _app!.StartAsync();
        Address = _app.Urls.First();
    }

    public async Task DisposeAsync()
    {
        if (_app is not null) await _app.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(File.Folder, recursive: true);
    }
}
