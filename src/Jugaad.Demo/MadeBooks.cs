using System.Reflection;
using System.Security.Cryptography;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Demo;

/// <summary>
/// Keeps the demo's books as they were made, so that one build of the program makes them once only. Another build makes
/// its own.
/// </summary>
/// <param name="folder">Where they are kept; null where nothing is.</param>
/// <param name="makers">The assemblies besides the core, the desks and this one that have a part in what is made, such
/// as the papers.</param>
public sealed class MadeBooks(string? folder, params IReadOnlyList<Assembly> makers)
{
    private static readonly string[] Parts = ["mail", "keys", "cards", "network"];

    private string Kept => Path.Combine(folder!, Build);

    /// <summary>Which build this is, by the assemblies that make the books.</summary>
    private string Build { get; } =
        Convert.ToHexStringLower(
            SHA256.HashData([
                .. from assembly in (Assembly[])
                    [typeof(Core.Refusal).Assembly, typeof(BooksFile).Assembly, typeof(MadeBooks).Assembly, .. makers]
                from one in assembly.ManifestModule.ModuleVersionId.ToByteArray()
                select one,
            ])
        )[..16];

    /// <summary>Puts the books into an empty folder, where this build has made some.</summary>
    public void Give(BooksFile to)
    {
        if (folder is null || File.Exists(to.Database) || !Directory.Exists(Kept))
            return;
        Directory.CreateDirectory(to.Folder);
        foreach (var part in Parts)
            Copy(Path.Combine(Kept, part), Path.Combine(to.Folder, part));
        // Last, since the books are there once this file is.
        var whole = $"{to.Database}.next";
        File.Copy(Path.Combine(Kept, "books.db"), whole, overwrite: true);
        OwnersOnly.File(whole);
        File.Move(whole, to.Database);
    }

    /// <summary>
    /// Keeps books that have just been made, if they agree with themselves, in place of those of other builds.
    /// </summary>
    public async Task KeepAsync(IServiceProvider services, BooksFile made, CancellationToken stop = default)
    {
        if (folder is null)
            return;
        try
        {
            await KeepAsync(services, made, folder, stop);
        }
        catch (Exception cannot) when (cannot is IOException or UnauthorizedAccessException or SqliteException)
        {
            // Another program may keep the same just now, or the disk takes nothing: the demo goes on without a copy.
        }
    }

    private async Task KeepAsync(IServiceProvider services, BooksFile made, string folder, CancellationToken stop)
    {
        await using var scope = services.CreateAsyncScope();
        if ((await scope.ServiceProvider.GetRequiredService<BooksCheck>().RunAsync(stop)).Differences.Count > 0)
            return;
        Directory.CreateDirectory(folder);
        OwnersOnly.Folder(folder);
        var begun = Directory.CreateDirectory(Path.Combine(folder, $"{Build}.{Path.GetRandomFileName()}")).FullName;
        await scope
            .ServiceProvider.GetRequiredService<BooksContext>()
            .Database.ExecuteSqlAsync($"VACUUM INTO {Path.Combine(begun, "books.db")}", stop);
        foreach (var part in Parts)
            Copy(Path.Combine(made.Folder, part), Path.Combine(begun, part));
        // One with an ending is being made by somebody.
        foreach (var other in Directory.GetDirectories(folder).Where(other => !Path.HasExtension(other)))
            Directory.Delete(other, recursive: true);
        Directory.Move(begun, Kept);
    }

    private static void Copy(string from, string to)
    {
        if (!Directory.Exists(from))
            return;
        Directory.CreateDirectory(to);
        OwnersOnly.Folder(to);
        foreach (var file in Directory.EnumerateFiles(from))
        {
            var copy = Path.Combine(to, Path.GetFileName(file));
            File.Copy(file, copy, overwrite: true);
            OwnersOnly.File(copy);
        }
    }
}
