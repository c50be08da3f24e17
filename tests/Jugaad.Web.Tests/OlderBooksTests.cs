using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>Books of a schema from before the first that is kept.</summary>
public sealed class OlderBooksTests : IDisposable
{
    private readonly BooksFile _file = new(Directory.CreateTempSubdirectory("jugaad-older-").FullName);

    [Fact]
    public async Task Somebodys_own_are_refused_and_left_alone_even_by_the_demo()
    {
        await _file.PrepareAsync();
        await using (var db = _file.Open())
            await db.Database.ExecuteSqlRawAsync(
                "DELETE FROM __EFMigrationsHistory WHERE MigrationId NOT LIKE '%_First'; UPDATE __EFMigrationsHistory SET MigrationId = '20000101000000_Odd'"
            );
        _file.LetGo();
        foreach (var demo in new[] { true, false })
        {
            var launch = new LaunchOptions(demo, _file.Folder, 0, false);
            (await Should.ThrowAsync<RefusalException>(() => WebHost.BuildAsync(launch))).Message.ShouldContain("_Odd");
        }

        await using var after = _file.Open();
        (await after.Database.GetAppliedMigrationsAsync()).ShouldBe(["20000101000000_Odd"]);
    }

    public void Dispose()
    {
        _file.LetGo();
        Directory.Delete(_file.Folder, recursive: true);
    }
}
