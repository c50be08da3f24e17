using System.Diagnostics;
using System.Globalization;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Jugaad.Desk.Keeping;
using Jugaad.Desk.Kept;
using Jugaad.Stopper;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Desk.Tests;

/// <summary>
/// The program is killed at random moments while it issues, receives, imports, mails, brings a backup back and brings
/// books up to date. What was answered is there once; what was not is there whole or not at all, and sending it again
/// under its key makes no second one. To have many kills in little time, the process is frozen and what a kill would
/// leave, its files at that moment, is looked at as a copy; then it thaws and works on. At last it is killed indeed.
/// Some dozens here; <c>tests/kills 1000</c> does as many as one likes.
/// </summary>
public sealed class KillTests : IDisposable
{
    private readonly string _work = Directory.CreateTempSubdirectory("jugaad-kills-").FullName;
    private readonly Random _dice = new(20250917);

    private static int Kills =>
        int.TryParse(Environment.GetEnvironmentVariable("JUGAAD_KILLS"), out var kills) ? kills : 60;

    public void Dispose() => Directory.Delete(_work, recursive: true);

    private static string Program => Path.Combine(AppContext.BaseDirectory, "Jugaad.Stopper.dll");

    private string Copy => Path.Combine(_work, "copy");

    [Fact]
    public async Task Killed_at_work_nothing_is_lost_doubled_or_skipped_and_no_mail_goes_twice()
    {
        var (unknown, again) = (0, 0);
        for (var left = Kills * 2 / 3; left > 0; left -= 60)
        {
            await using var loft = await Loft.OpenAsync();
            await loft.ExecuteAsync("PRAGMA wal_checkpoint(TRUNCATE)");
            var folder = loft.File.Folder;
            using var working = Freezer.Start(Program, folder, "1", "work");
            await working.UntilAsync(() => File.Exists(WorkDay.NotesOf(folder)));
            for (var kill = 0; kill < Math.Min(60, left); kill++)
            {
                await Task.Delay(_dice.Next(90));
                working.WhileFrozen(() => CopyAll(folder));
                var notes = Notes.Read(WorkDay.NotesOf(Copy));
                var copy = new BooksFile(Copy);
                await ProveAsync(copy, notes);
                if (notes.Begun == notes.Answered)
                    continue;
                again++;
                unknown += await GoOnAsync(copy, notes);
            }

            working.Kill();
            CopyAll(folder);
            await ProveAsync(new BooksFile(Copy), Notes.Read(WorkDay.NotesOf(Copy)));
            File.Delete(WorkDay.NotesOf(folder));
            File.Delete(WorkDay.MailboxOf(folder));
        }

        again.ShouldBeGreaterThan(0, "none was in the middle of anything");
        Console.WriteLine(
            $"Of {Kills * 2 / 3} kills {again} were in the middle of a piece of work; of {unknown} mails nobody knew."
        );
    }

    /// <summary>
    /// After the kill: what was begun is sent again under its keys, the post is carried on, and all is there once.
    /// </summary>
    /// <returns>Of how many mails nobody knows.</returns>
    private async Task<int> GoOnAsync(BooksFile copy, Notes notes)
    {
        await using (var provider = WorkServices.On(copy, WorkDay.MailboxOf(Copy)).BuildServiceProvider())
            await new WorkDay(provider).GoOnAsync(notes.Begun);
        await ProveAsync(copy, notes with { Answered = notes.Begun });
        await using var db = copy.Open();
        (await new BooksCheck(db).RunAsync()).Differences.ShouldBeEmpty();
        var states = await db.Post.Select(p => p.State).ToListAsync();
        states.ShouldAllBe(s => s == PostState.Sent || s == PostState.Unknown);
        var unknown = states.Count(s => s == PostState.Unknown);
        unknown.ShouldBeLessThanOrEqualTo(1);
        return unknown;
    }

    [Fact]
    public async Task Killed_while_restoring_the_old_books_are_there_or_the_new_ones_whole()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        var archive = Path.Combine(_work, "backup.tar.gz");
        await loft.WithAsync<BackupMaking>(b => b.MakeAsync(archive, ""));
        var folder = new BooksFile(Path.Combine(_work, "restored"));
        await folder.PrepareAsync();
        SqliteConnection.ClearAllPools();
        using var restoring = Freezer.Start(Program, folder.Folder, archive, "restore");
        await restoring.UntilAsync(() =>
            Directory.EnumerateFileSystemEntries(folder.Folder).Any(f => Path.GetFileName(f) == "restoring")
        );
        var between = 0;
        for (var kill = 0; kill < Kills / 6; kill++)
        {
            await Task.Delay(_dice.Next(60));
            restoring.WhileFrozen(() => CopyAll(folder.Folder));
            var copy = new BooksFile(Copy);
            if (!File.Exists(copy.Database))
                between++;
            using (BooksLock.Hold(copy, "by a test"))
                FolderSwap.GoOn(copy);
            File.Exists(copy.Database).ShouldBeTrue("there are no books at all");
            await using var db = copy.Open();
            (await db.Documents.CountAsync()).ShouldBeOneOf(0, 1);
            (await new BooksCheck(db).RunAsync()).Differences.ShouldBeEmpty();
        }

        restoring.Kill();
        Console.WriteLine($"Of {Kills / 6} kills {between} were between the old books and the new.");
    }

    [Fact]
    public async Task Killed_while_migrating_the_next_start_goes_on()
    {
        var folder = Directory.CreateDirectory(Path.Combine(_work, "boats")).FullName;
        using var lifting = Freezer.Start(Program, folder, "0", "lift");
        await lifting.UntilAsync(() =>
            Directory.EnumerateFiles(folder, "*.next").Any() || Directory.EnumerateFiles(folder, "boats-1.db").Any()
        );
        for (var kill = 0; kill < Kills / 6; kill++)
        {
            await Task.Delay(_dice.Next(60));
            lifting.WhileFrozen(() => CopyAll(folder));
            foreach (var path in Directory.EnumerateFiles(Copy, "boats-?.db"))
            {
                await using (var before = Boats.Open(path))
                {
                    // Half of the first step is not books of an older program yet, but none.
                    if (!(await before.Database.GetAppliedMigrationsAsync()).Any())
                        continue;
                }

                await Boats.Schema(path).LiftAsync(_ => { });
                await using var lifted = Boats.Open(path);
                (
                    await lifted
                        .Database.SqlQueryRaw<int>("SELECT COUNT(*) AS Value FROM Boats WHERE Sails = 2")
                        .SingleAsync()
                ).ShouldBe(500);
            }
        }

        lifting.Kill();
    }

    /// <summary>The folder and what lies beside it, as they are this moment.</summary>
    private void CopyAll(string folder)
    {
        SqliteConnection.ClearAllPools();
        if (Directory.Exists(Copy))
            Directory.Delete(Copy, recursive: true);
        // Our own file calls would heed the locks of who is frozen.
        using (var copying = Process.Start("cp", ["-a", folder, Copy])!)
        {
            copying.WaitForExit();
            copying.ExitCode.ShouldBe(0);
        }

        // The index into the log is made anew when a killed program's books are opened, and its hold on the folder is
        // gone.
        foreach (
            var gone in Directory
                .EnumerateFiles(Copy, "*", SearchOption.AllDirectories)
                .Where(f =>
                    f.EndsWith("-shm", StringComparison.Ordinal)
                    || Path.GetFileName(f) is "books.lock" or "books.holder"
                )
                .ToList()
        )
            File.Delete(gone);
        foreach (
            var (from, to) in new[]
            {
                (WorkDay.NotesOf(folder), WorkDay.NotesOf(Copy)),
                (WorkDay.MailboxOf(folder), WorkDay.MailboxOf(Copy)),
            }
        )
        {
            File.Delete(to);
            if (File.Exists(from))
                File.Copy(from, to);
        }
    }

    /// <summary>What was begun last, and up to where all was answered.</summary>
    private sealed record Notes(int Begun, int Answered)
    {
        internal static Notes Read(string path)
        {
            // The last line may be half written.
            var text = File.ReadAllText(path);
            var lines = text[..(text.LastIndexOf('\n') + 1)].Split('\n', StringSplitOptions.RemoveEmptyEntries);
            int Last(string word) =>
                lines.LastOrDefault(l => l.StartsWith(word, StringComparison.Ordinal)) is { } line
                    ? int.Parse(line[(line.IndexOf(' ', StringComparison.Ordinal) + 1)..], CultureInfo.InvariantCulture)
                    : 0;
            return new Notes(Last("begin"), Last("done"));
        }
    }

    /// <summary>The books have just what was answered, and of what was begun all or nothing.</summary>
    private async Task ProveAsync(BooksFile books, Notes notes)
    {
        var mailbox = WorkDay.MailboxOf(Copy);
        var taken = File.Exists(mailbox) ? await File.ReadAllLinesAsync(mailbox) : [];
        taken.ShouldBeUnique("a mail went twice");
        await using var db = books.Open();
        var papers = (await db.Documents.Include(d => d.Lines).AsNoTracking().ToListAsync())
            .Where(d => d.Lines.Count == 1)
            .GroupBy(d => d.Lines[0].Text)
            .ToDictionary(g => g.Key, g => g.ToList());
        var receipts = (await db.Receipts.AsNoTracking().Select(r => r.Reference).ToListAsync())
            .GroupBy(r => r)
            .ToDictionary(g => g.Key, g => g.Count());
        var customers = (await db.Customers.AsNoTracking().Select(c => c.Name).ToListAsync())
            .Where(n => n.StartsWith("Taken ", StringComparison.Ordinal))
            .GroupBy(n => n[..(n.IndexOf('.', StringComparison.Ordinal) + 1)])
            .ToDictionary(g => g.Key, g => g.Count());
        var mails = (await db.Post.AsNoTracking().ToListAsync())
            .GroupBy(p => p.To)
            .ToDictionary(g => g.Key, g => g.ToList());
        for (var n = 1; n <= notes.Begun; n++)
        {
            var answered = n <= notes.Answered;
            switch (n % 4)
            {
                case 0:
                    customers
                        .GetValueOrDefault($"Taken {n}.")
                        .ShouldBeOneOf(answered ? [WorkDay.RowsAFile] : [0, WorkDay.RowsAFile]);
                    break;
                case 2:
                    receipts.GetValueOrDefault($"pay-{n}.").ShouldBeOneOf(answered ? [1] : [0, 1]);
                    break;
                default:
                    var there = papers.GetValueOrDefault($"Work {n}.") ?? [];
                    there.Count.ShouldBeOneOf(answered ? [1] : [0, 1]);
                    if (answered)
                        there[0].State.ShouldNotBe(DocumentState.Draft);
                    var mail = mails.GetValueOrDefault($"work-{n}@slip.example") ?? [];
                    // The mail is written with the invoice, in one.
                    mail.Count.ShouldBe(there.Count(d => d.State != DocumentState.Draft));
                    if (mail.Count == 0)
                        taken.ShouldNotContain($"work-{n}@slip.example");
                    else if (mail[0].State == PostState.Sent)
                        taken.ShouldContain(mail[0].To);
                    else if (taken.Contains(mail[0].To))
                        mail[0].State.ShouldBeOneOf(PostState.OnItsWay, PostState.Unknown);
                    break;
            }
        }

        papers
            .Keys.Count(t => t.StartsWith("Work ", StringComparison.Ordinal))
            .ShouldBeLessThanOrEqualTo((notes.Begun + 1) / 2);
        var numbers = papers
            .Values.SelectMany(d => d)
            .Where(d => d.Number is not null)
            .Select(d => int.Parse(d.Number![(d.Number!.LastIndexOf('-') + 1)..], CultureInfo.InvariantCulture))
            .Order()
            .ToList();
        numbers.ShouldBe(Enumerable.Range(1, numbers.Count), "a number is skipped or given twice");
    }

    /// <summary>
    /// A file system of some megabytes is filled up under the books, and the program killed besides; with room again
    /// all goes on.
    /// </summary>
    [Fact]
    public async Task A_full_disk_is_told_as_such_and_loses_nothing_even_when_the_plug_is_pulled()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.ExecuteAsync("PRAGMA wal_checkpoint(TRUNCATE)");
        var place = Path.Combine(_work, "small");
        Directory.CreateDirectory(place);
        var rounds = Math.Max(2, Kills / 30);
        // A mount of one's own needs no rights of the machine's owner where user namespaces are let; a machine's owner
        // needs none of them.
        var script = $"""
            set -e
            mount -t tmpfs -o size=8m none "$1"
            trap 'umount "$1"' EXIT
            mkdir "$1/books"
            cp "$2" "$1/books/books.db"
            for dice in $(seq {rounds}); do
                code=0; dotnet "$3" "$1/books" $dice full || code=$?
                [ $code = 137 ] || exit 3
            done
            dotnet "$3" "$1/books" 0 full
            """;
        var (code, said, error) = await RunAsync(
            "unshare",
            "-Urm",
            "bash",
            "-c",
            script,
            "small",
            place,
            loft.File.Database,
            Program
        );
        if (
            error.StartsWith("unshare:", StringComparison.Ordinal)
            || error.StartsWith("mount:", StringComparison.Ordinal)
        )
            (code, said, error) = await RunAsync("bash", "-c", script, "small", place, loft.File.Database, Program);
        // A machine that lets nobody mount anything has no small disk to fill; books that may not grow are tried over
        // HTTP besides.
        if (
            error.StartsWith("mount:", StringComparison.Ordinal)
            && (
                error.Contains("denied", StringComparison.Ordinal)
                || error.Contains("superuser", StringComparison.Ordinal)
                || error.Contains("not permitted", StringComparison.Ordinal)
            )
        )
        {
            Console.WriteLine($"No file system can be mounted here, so no disk was filled: {error}");
            return;
        }

        code.ShouldBe(0, $"{said}\n{error}");
        said.Split('\n').Count(l => l == "full").ShouldBe(rounds, said);
        said.Split('\n').ShouldContain("healthy", said);
    }

    private static async Task<(int Code, string Out, string Error)> RunAsync(string program, params string[] words)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, words) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        var error = process.StandardError.ReadToEndAsync();
        var said = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return (process.ExitCode, said, await error);
    }
}
