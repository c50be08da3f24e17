using System.IO.Compression;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// Small books of every schema that there has been are kept beside the tests, and come up to date with nothing lost.
/// Whoever changes the schema keeps books of the new one too: run these tests with JUGAAD_KEEP_BOOKS=yes.
/// </summary>
public sealed class EarlierBooksTests(RichBooks books) : IClassFixture<RichBooks>
{
    private static string Folder => Path.Combine(SourceTree.Root, "tests", "Jugaad.Desk.Tests", "EarlierBooks");

    private static string FileOf(string schema) => Path.Combine(Folder, $"{schema}.db.gz");

    private static IReadOnlyList<string> Schemas
    {
        get
        {
            using var db = new BooksFile(Path.GetTempPath()).Open();
            return [.. db.Database.GetMigrations()];
        }
    }

    public static TheoryData<string> Kept => [.. Schemas];

    [Theory]
    [MemberData(nameof(Kept))]
    public async Task Books_of_each_schema_come_up_to_date_and_agree(string schema)
    {
        if (Environment.GetEnvironmentVariable("JUGAAD_KEEP_BOOKS") == "yes" && schema == Schemas[^1])
            await KeepAsync(FileOf(schema));
        File.Exists(FileOf(schema))
            .ShouldBeTrue($"no books are kept of the schema {schema}; keep some with JUGAAD_KEEP_BOOKS=yes");
        await using var loft = await Loft.OnCopyAsync(async database =>
        {
            await using var packed = new GZipStream(File.OpenRead(FileOf(schema)), CompressionMode.Decompress);
            await using var file = File.Create(database);
            await packed.CopyToAsync(file);
        });
        (await loft.File.Schema.LackingAsync()).ShouldBe(Schemas.SkipWhile(s => s != schema).Skip(1));
        await loft.File.PrepareAsync();
        var report = await loft.CheckAsync();
        report.Differences.ShouldBeEmpty();
        (await loft.NumberAsync("SELECT count(*) FROM Documents WHERE Number IS NOT NULL")).ShouldBeGreaterThan(20);
        (await loft.NumberAsync("SELECT count(*) FROM Allocations")).ShouldBeGreaterThan(5);
    }

    private async Task KeepAsync(string to)
    {
        var plain = Path.Combine(books.Loft.File.Folder, "kept.db");
        await books.Loft.ExecuteAsync($"VACUUM INTO '{plain}'");
        await using (var file = File.OpenRead(plain))
        await using (var packed = new GZipStream(File.Create(to), CompressionLevel.SmallestSize))
            await file.CopyToAsync(packed);
        File.Delete(plain);
    }
}
