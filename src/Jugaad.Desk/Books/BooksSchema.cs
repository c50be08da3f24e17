using System.Globalization;
using Jugaad.Core;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>Says that books are of a schema from before the first that is kept from one version to the next.</summary>
public sealed class OlderBooksException(string message) : RefusalException("data", message);

/// <summary>
/// Looks whether a books file can be opened by this program, and brings it up to date. That is done on a copy which
/// takes the file's place when it is whole: a program that is stopped in between leaves the books as they were, and the
/// next start begins again.
/// </summary>
/// <param name="path">The SQLite file.</param>
/// <param name="open">Opens a context on a file, through a connection that is not kept after use.</param>
public sealed class BooksSchema(string path, Func<string, DbContext> open)
{
    private static readonly TimeSpan MostWait = TimeSpan.FromSeconds(60);

    /// <summary>The copy that is kept of books before they are brought up to date.</summary>
    /// <param name="step">The first of the steps that they lacked.</param>
    public string CopyBefore(string step) =>
        Path.Combine(Path.GetDirectoryName(path)!, $"{Path.GetFileNameWithoutExtension(path)}-before-{step}.db");

    private string Working => $"{path}.next";

    /// <summary>Which steps of the schema the file lacks; all, where there is no file.</summary>
    /// <exception cref="RefusalException">When the file is damaged, or kept by a newer program.</exception>
    public async Task<IReadOnlyList<string>> LackingAsync(CancellationToken stop = default)
    {
        await using var db = open(path);
        var known = db.Database.GetMigrations().ToList();
        if (!File.Exists(path))
            return known;
        return await DamagedBooks.SaidAsync(
            path,
            async () =>
            {
                await MustBeSoundAsync(db, stop);
                var applied = (await db.Database.GetAppliedMigrationsAsync(stop)).ToList();
                var strange = applied.Except(known).Max(StringComparer.Ordinal);
                if (strange is not null && string.CompareOrdinal(strange, known[^1]) > 0)
                    throw new RefusalException(
                        "data",
                        $"The books in {path} were kept by a newer Jugaad: their schema is {strange}, and this one knows up to {known[^1]}. Start the newer Jugaad on them."
                    );
                if (strange is not null)
                    throw new OlderBooksException(
                        $"The books in {path} have a schema, {strange}, that this Jugaad does not know; it begins with {known[0]} and goes to {known[^1]}. Books of the demo are made anew by ./jugaad demo --fresh."
                    );
                return (IReadOnlyList<string>)known.Except(applied).ToList();
            }
        );
    }

    /// <summary>
    /// Makes the file where there is none, or brings it up to date. Only whoever has the folder's lock may.
    /// </summary>
    /// <param name="said">Told what is done, and what is waited for.</param>
    /// <exception cref="RefusalException">When the file is damaged, kept by a newer program, or kept open by
    /// somebody.</exception>
    public async Task LiftAsync(Action<string> said, CancellationToken stop = default)
    {
        var lacking = await LackingAsync(stop);
        Clear(Working);
        if (lacking.Count > 0)
        {
            var before = File.Exists(path) && new FileInfo(path).Length > 0 ? CopyBefore(lacking[0]) : null;
            if (before is not null)
                await CopyAsync(before, lacking.Count, said, stop);
            await MigrateAsync(before is not null, stop);
            if (before is not null)
                Durable.Replace(Part(before), before);
            Durable.Replace(Working, path);
            if (before is not null)
                said("The books are up to date.");
        }

        await using var db = open(path);
        await db.Database.ExecuteSqlRawAsync("PRAGMA journal_mode=WAL", stop);
        OwnersOnly.File(path);
    }

    private static string Part(string copy) => $"{copy}.part";

    /// <summary>Takes away what a run that was stopped left half done, with its logs.</summary>
    private static void Clear(string file)
    {
        foreach (
            var left in Directory.EnumerateFiles(Path.GetDirectoryName(file)!, $"{Path.GetFileName(file)}*").ToList()
        )
            File.Delete(left);
    }

    /// <summary>
    /// Works out what follows from what is posted and issued, and was not kept when that was done; what is there stays.
    /// </summary>
    public static async Task FillAsync(BooksContext books, CancellationToken stop = default)
    {
        await new TaxTelling(books).FillAsync(stop);
        await KeptLooks.FillAsync(books, stop);
        var places = new TaxPlaces(books);
        if (await places.EnsureAsync(stop))
            await places.PlaceAsync(books.TaxFigures, stop);
        await OriginalsFill.RunAsync(books, stop);
    }

    private async Task MigrateAsync(bool there, CancellationToken stop)
    {
        await using var next = open(Working);
        try
        {
            // Left behind by a program that was stopped while it held it; nobody else can hold it now.
            if (there)
                await next.Database.ExecuteSqlRawAsync("DROP TABLE IF EXISTS \"__EFMigrationsLock\"", stop);
            await next.Database.MigrateAsync(stop);
            // What each posted thing tells which authority is worked out, which a step alone cannot.
            if (there && next is BooksContext books)
                await FillAsync(books, stop);

            // What was known of indexes that were made anew went with them.
            if (there)
                await Statistics.MakeAsync(next, stop);
        }
        catch (SqliteException cannot) when (there && cannot.SqliteErrorCode == 1)
        {
            throw new RefusalException(
                "data",
                $"The books in {path} cannot be brought up to date ({cannot.Message}): an earlier Jugaad was stopped half-way. They are left as they are. Restore the copy that it made before, books-before-… beside them, or the newest backup."
            );
        }

        await MustBeSoundAsync(next, stop);
        await next.Database.ExecuteSqlRawAsync("PRAGMA journal_mode=DELETE", stop);
        OwnersOnly.File(Working);
    }

    /// <summary>
    /// Makes a verified copy to keep, under a name that says it is not done yet, and another to work on.
    /// </summary>
    private async Task CopyAsync(string copy, int steps, Action<string> said, CancellationToken stop)
    {
        said(
            string.Create(
                CultureInfo.InvariantCulture,
                $"The books were kept by an older Jugaad. They are brought up to date in {steps} {(steps == 1 ? "step" : "steps")}; a copy as they are is kept in {copy}."
            )
        );
        await CloseLogAsync(said, stop);
        var part = Part(copy);
        Clear(part);
        File.Copy(path, part);
        await using (var written = open(part))
            await MustBeSoundAsync(written, stop);
        OwnersOnly.File(part);
        File.Copy(part, Working, overwrite: true);
    }

    /// <summary>
    /// Writes the log into the file and does without one; that needs all others to have let go of the file.
    /// </summary>
    private async Task CloseLogAsync(Action<string> said, CancellationToken stop)
    {
        SqliteConnection.ClearAllPools();
        for (var waited = TimeSpan.Zero; ; waited += TimeSpan.FromMilliseconds(250))
        {
            await using var db = open(path);
            await db.Database.OpenConnectionAsync(stop);
            await using var command = db.Database.GetDbConnection().CreateCommand();
            command.CommandTimeout = 1;
            command.CommandText = "PRAGMA busy_timeout=250";
            await command.ExecuteNonQueryAsync(stop);
            command.CommandText = "PRAGMA journal_mode=DELETE";
            try
            {
                if (await command.ExecuteScalarAsync(stop) is "delete")
                    return;
            }
            catch (SqliteException busy) when (busy.SqliteErrorCode is 5 or 6)
            {
                // Said and tried again below.
            }

            if (waited == TimeSpan.Zero)
                said("Another command of Jugaad still has the books open; waiting for it to end …");
            if (waited > MostWait)
                throw new RefusalException(
                    "data",
                    $"The books in {path} cannot be brought up to date while another program has them open. End it and start again; nothing has been changed."
                );
            await Task.Delay(250, stop);
        }
    }

    private static async Task MustBeSoundAsync(DbContext db, CancellationToken stop)
    {
        await db.Database.OpenConnectionAsync(stop);
        await using var command = db.Database.GetDbConnection().CreateCommand();
        command.CommandText = "PRAGMA quick_check(1)";
        if (await command.ExecuteScalarAsync(stop) is not "ok")
            throw new DamagedException();
    }
}
