using System.Formats.Tar;
using System.IO.Compression;
using System.Text;
using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Keeping;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Jugaad.Desk.Standing;
using Jugaad.Formats.Archives;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Backups, and bringing them back: nothing lost, nothing half done, nothing sent or numbered twice.</summary>
public sealed class KeepingTests : IDisposable
{
    private readonly string _work = Directory.CreateTempSubdirectory("jugaad-keeping-").FullName;
    private readonly OpenPgpSeal _seal = new();

    private string Archive => Path.Combine(_work, "backup.tar.gz");

    private BooksFile Elsewhere => new(Path.Combine(_work, "elsewhere"));

    private static Task<ArchiveManifest> BackUpAsync(Loft loft, string path, string key = "") =>
        loft.WithAsync<BackupMaking, ArchiveManifest>(b => b.MakeAsync(path, key));

    private async Task<(ArchiveManifest Manifest, string? Aside)> RestoreAsync(
        BooksFile file,
        string? key = null,
        string? archive = null
    )
    {
        using var held = BooksLock.Hold(file, "by a test");
        return await new Restoring(_seal, TimeProvider.System).RestoreAsync(
            archive ?? Archive,
            file,
            held,
            key is null ? [] : [key],
            _ => { }
        );
    }

    private static async Task<CheckReport> CheckAsync(BooksFile file)
    {
        await using var db = file.Open();
        return await new BooksCheck(db).RunAsync();
    }

    [Fact]
    public async Task A_backup_of_running_books_has_what_is_in_the_log_and_comes_back_whole()
    {
        await using var loft = await Loft.OpenAsync();
        Directory.CreateDirectory(loft.File.KeysFolder);
        await File.WriteAllTextAsync(Path.Combine(loft.File.KeysFolder, "key-1.xml"), "<key/>");
        await loft.IssuedAsync();
        // Somebody is in the middle of something, and the log is not written back.
        await using var open = loft.File.Open();
        await using var writing = await open.Database.BeginTransactionAsync();
        await open.Database.ExecuteSqlRawAsync("UPDATE Customers SET Name = 'Half'");
        using (var copied = new MemoryStream())
            (await BackUpAsyncBeside(loft)).Files.Select(f => f.Name).ShouldBe(["books.db", "keys/key-1.xml"]);
        await writing.RollbackAsync();
        File.Exists($"{Archive}.part").ShouldBeFalse();
        Directory.GetFiles(ArchiveWriter.Scratch(loft.File)).ShouldBeEmpty();

        var (manifest, aside) = await RestoreAsync(Elsewhere);
        (manifest.Business, aside).ShouldBe(("Little Loft", null));
        (await File.ReadAllTextAsync(Path.Combine(Elsewhere.KeysFolder, "key-1.xml"))).ShouldBe("<key/>");
        (await CheckAsync(Elsewhere)).Differences.ShouldBeEmpty();
        await using var back = Elsewhere.Open();
        (await back.Documents.SingleAsync()).Number.ShouldBe("INV-2025-0001");
        (await back.Customers.CountAsync(c => c.Name == "Half")).ShouldBe(0);
    }

    /// <summary>The trail waits for whoever writes; the file itself does not.</summary>
    private async Task<ArchiveManifest> BackUpAsyncBeside(Loft loft) =>
        await loft.WithAsync<ArchiveWriter, ArchiveManifest>(w => w.WriteAsync(Archive, []));

    [Fact]
    public async Task Into_the_same_folder_what_was_there_is_put_aside()
    {
        await using var loft = await Loft.OpenAsync();
        await BackUpAsync(loft, Archive);
        await loft.IssuedAsync();
        await loft.ExecuteAsync("PRAGMA wal_checkpoint(TRUNCATE)");
        var (_, aside) = await RestoreAsync(loft.File);
        (await loft.WithAsync<BooksContext, int>(db => db.Documents.CountAsync())).ShouldBe(0);
        await using (var before = new BooksFile(aside!).Open())
            (await before.Documents.CountAsync()).ShouldBe(1);
        // And that again can be undone: the one before comes back the same way.
        SqliteConnection.ClearAllPools();
    }

    [Fact]
    public async Task Sealed_it_opens_with_the_key_and_not_without()
    {
        await using var loft = await Loft.OpenAsync();
        var key = _seal.NewKey("Loft");
        await BackUpAsync(loft, Archive, key.Public);
        Encoding.Latin1.GetString(await File.ReadAllBytesAsync(Archive)).ShouldNotContain("SQLite format");
        (await Should.ThrowAsync<RefusalException>(() => RestoreAsync(Elsewhere))).Message.ShouldContain(
            "is sealed. Give the file"
        );
        (
            await Should.ThrowAsync<RefusalException>(() => RestoreAsync(Elsewhere, _seal.NewKey("Other").Private))
        ).Message.ShouldContain("sealed for another key");
        File.Exists(Elsewhere.Database).ShouldBeFalse();
        await RestoreAsync(Elsewhere, key.Private);
        (await CheckAsync(Elsewhere)).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("../escaped")]
    [InlineData("/etc/escaped")]
    [InlineData("keys/../../escaped")]
    [InlineData("keys/.hidden")]
    [InlineData("books.db/x")]
    [InlineData("link")]
    [InlineData("twice")]
    [InlineData("no manifest")]
    [InlineData("after the manifest")]
    [InlineData("not as it says")]
    [InlineData("cut")]
    [InlineData("changed")]
    [InlineData("no archive")]
    [InlineData("newer form")]
    public async Task A_hostile_or_broken_file_is_refused_and_the_books_stay(string how)
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        await BackUpAsync(loft, Archive);
        var good = await File.ReadAllBytesAsync(Archive);
        var bytes = how switch
        {
            "cut" => good[..^200],
            "changed" => Changed(good),
            "no archive" => "a letter"u8.ToArray(),
            _ => Rewritten(good, how),
        };
        await File.WriteAllBytesAsync(Archive, bytes);
        var said = (await Should.ThrowAsync<RefusalException>(() => RestoreAsync(loft.File))).Message;
        said.ShouldContain(
            how == "newer form" ? "made by a newer Jugaad" : "is no backup of Jugaad, or was cut off or damaged"
        );
        Directory.GetFiles(_work, "*escaped*", SearchOption.AllDirectories).ShouldBeEmpty();
        Directory.Exists(Path.Combine(loft.File.Folder, "restoring")).ShouldBeFalse();
        (await loft.WithAsync<BooksContext, int>(db => db.Documents.CountAsync())).ShouldBe(1);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("begun")]
    [InlineData("ready")]
    [InlineData("half out")]
    [InlineData("out")]
    [InlineData("half in")]
    [InlineData("in")]
    public void A_swap_that_was_stopped_goes_on(string when)
    {
        var file = Elsewhere;
        Write("books.db", "old");
        Write("books.db-wal", "old log");
        Write("mail/a.eml", "old mail");
        var ready = FolderSwap.Begin(file);
        Write("restoring/books.db", "new");
        Write("restoring/keys/k", "new key");
        Write("restoring/mail/b.eml", "new mail");
        var aside = Path.Combine(file.Folder, "before-x");
        if (when != "begun")
            Write("restoring/READY", aside);
        if (when is "half out" or "out" or "half in" or "in")
            Move("books.db", "before-x/books.db");
        if (when is "out" or "half in" or "in")
        {
            Move("books.db-wal", "before-x/books.db-wal");
            Move("mail", "before-x/mail");
            Write("restoring/OUT", "");
        }

        if (when is "half in" or "in")
            Move("restoring/mail", "mail");
        if (when is "in")
        {
            Move("restoring/keys", "keys");
            Move("restoring/books.db", "books.db");
        }

        FolderSwap.GoOn(file).ShouldBe(when == "begun" ? null : aside);
        Directory.Exists(ready).ShouldBeFalse();
        Read("books.db").ShouldBe(when == "begun" ? "old" : "new");
        if (when == "begun")
            return;
        (
            Read("keys/k"),
            Read("mail/b.eml"),
            Read("before-x/books.db"),
            Read("before-x/books.db-wal"),
            Read("before-x/mail/a.eml")
        ).ShouldBe(("new key", "new mail", "old", "old log", "old mail"));
        File.Exists(Path.Combine(file.Folder, "books.db-wal")).ShouldBeFalse("a log of other books would spoil these");
        FolderSwap.GoOn(file).ShouldBeNull();

        void Write(string name, string text)
        {
            Directory.CreateDirectory(Path.GetDirectoryName(Path.Combine(file.Folder, name))!);
            File.WriteAllText(Path.Combine(file.Folder, name), text);
        }

        void Move(string from, string to)
        {
            Directory.CreateDirectory(Path.GetDirectoryName(Path.Combine(file.Folder, to))!);
            Directory.Move(Path.Combine(file.Folder, from), Path.Combine(file.Folder, to));
        }

        string Read(string name) => File.ReadAllText(Path.Combine(file.Folder, name));
    }

    [Fact]
    public async Task Books_that_were_brought_back_send_write_and_number_nothing_until_somebody_says_so()
    {
        await using var loft = await RestedAsync();
        await loft.WithAsync<PostCarrying>(p => p.CarryAsync());
        loft.Carrier.Carried.ShouldBeEmpty();
        (await loft.WithAsync<DailyRun, int>(d => d.RunAsync())).ShouldBe(0);
        (await loft.WithAsync<Backups, BackupRun?>(b => b.MakeDueAsync())).ShouldBeNull();
        var draft = await loft.WithAsync<BooksContext, int>(db =>
            db.Documents.Where(d => d.State == DocumentState.Draft).Select(d => d.Id).SingleAsync()
        );
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<IssuingDesk>(i => i.IssueAsync(draft, 1)))
        ).Message.ShouldContain("come from the backup of");
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<Setup.RatesDesk>(r => r.EnterAsync(new("SEK", Loft.Today, 1)))
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        // Waking them by hand is found.
        await loft.ExecuteAsync("UPDATE Businesses SET RestsBecause = ''");
        (await loft.CheckAsync()).Differences.ShouldHaveSingleItem().ShouldContain("do not say why");
        await loft.ExecuteAsync("UPDATE Businesses SET RestsBecause = 'the backup of then', RestsSince = NULL");
        (await loft.CheckAsync()).Differences.Count.ShouldBe(2);
        await loft.ExecuteAsync("UPDATE Businesses SET RestsBecause = '', RestsSince = NULL");
        (await loft.CheckAsync())
            .Differences.ShouldHaveSingleItem()
            .ShouldContain("nobody said that they are the books now");
        await loft.ExecuteAsync(
            "UPDATE Businesses SET RestsBecause = 'the backup of then', RestsSince = '2025-09-17 00:00:00'"
        );

        // Everything that is not said is asked for at once.
        var refused = await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<TakingUp>(t => t.TakeUpAsync(new Dictionary<int, string>(), null))
        );
        refused.Refusals.Select(r => r.Field).ShouldBe([$"last{await InvoicesAsync(loft)}", "standing"]);
        Loft.ActAs(PersonRole.Bookkeeper);
        await Should.ThrowAsync<NotAllowedException>(() =>
            loft.WithAsync<TakingUp>(t => t.TakeUpAsync(new Dictionary<int, string>(), true))
        );
        Loft.ActAs(null);
    }

    [Fact]
    public async Task Taken_up_numbers_go_on_after_the_last_that_was_sent_and_nothing_is_billed_or_mailed_twice()
    {
        await using var loft = await RestedAsync();
        var found = (await loft.WithAsync<TakingUp, ToTakeUp?>(t => t.FindAsync()))!;
        (found.Post, found.Standing.Single().Count, found.Series.Single(s => s.Last.Length > 0).Last).ShouldBe(
            (1, 3, "INV-2025-0002")
        );
        await loft.WithAsync<TakingUp>(async t =>
            await t.TakeUpAsync(
                new Dictionary<int, string> { [await InvoicesAsync(loft)] = "INV-2025-0009" },
                skipsStanding: true
            )
        );
        await loft.WithAsync<DailyRun, int>(d => d.RunAsync());
        await loft.WithAsync<PostCarrying>(p => p.CarryAsync());
        loft.Carrier.Carried.ShouldBeEmpty("what waited then may have gone since");
        (await loft.WithAsync<BooksContext, PostItem>(db => db.Post.SingleAsync())).State.ShouldBe(PostState.Unknown);
        (await loft.IssuedAsync()).Number.ShouldBe("INV-2025-0010");
        (await loft.WithAsync<BooksContext, int>(db => db.Documents.CountAsync())).ShouldBe(
            4,
            "two and the draft of before, and the one of now"
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        (await loft.WithAsync<TakingUp, ToTakeUp?>(t => t.FindAsync())).ShouldBeNull();
        await Should.ThrowAsync<RefusalException>(() =>
            loft.WithAsync<TakingUp>(t => t.TakeUpAsync(new Dictionary<int, string>(), true))
        );

        // What was lost is entered again under its own number.
        var again = await loft.IssuedAsync(loft.Content() with { NumberByHand = "INV-2025-0005" });
        again.Number.ShouldBe("INV-2025-0005");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Standing_invoices_that_did_not_go_out_are_made_when_that_is_said()
    {
        await using var loft = await RestedAsync();
        await loft.WithAsync<TakingUp>(async t =>
            await t.TakeUpAsync(
                new Dictionary<int, string> { [await InvoicesAsync(loft)] = "INV-2025-0002" },
                skipsStanding: false
            )
        );
        (await loft.WithAsync<DailyRun, int>(d => d.RunAsync())).ShouldBe(3);
        (await loft.WithAsync<BooksContext, int>(db => db.NumberGaps.CountAsync())).ShouldBe(0);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("UPDATE NumberGaps SET \"To\" = 20", "did not come past them")]
    [InlineData("UPDATE NumberGaps SET \"From\" = 4", "the number is missing from the series")]
    [InlineData("UPDATE NumberGaps SET \"From\" = 2", "nobody said so")]
    [InlineData("UPDATE NumberGaps SET Year = 2024", "did not come past them")]
    [InlineData(
        "INSERT INTO NumberGaps (SeriesId, Year, \"From\", \"To\", Because) SELECT SeriesId, Year, \"From\", \"To\", Because FROM NumberGaps",
        "said twice"
    )]
    [InlineData("DELETE FROM NumberGaps", "the number is missing from the series")]
    public async Task The_check_finds_gaps_that_nobody_said(string tampering, string says)
    {
        await using var loft = await RestedAsync();
        await loft.WithAsync<TakingUp>(async t =>
            await t.TakeUpAsync(
                new Dictionary<int, string> { [await InvoicesAsync(loft)] = "INV-2025-0009" },
                skipsStanding: true
            )
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await loft.ExecuteAsync(tampering);
        (await loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(says, StringComparison.Ordinal));
    }

    [Fact]
    public async Task Each_night_one_is_made_tried_out_each_week_and_kept_for_so_long()
    {
        await using var loft = await Loft.OpenAsync();
        var place = Path.Combine(_work, "other");
        Directory.CreateDirectory(place);
        await File.WriteAllTextAsync(Path.Combine(place, "jugaad-ffffffff-20200101-020000.tar.gz"), "of other books");
        await loft.WithAsync<BackupSetup>(b =>
            b.SaveAsync(new BackupWishes(true, 2, "", 3, 0, 0, OtherPlace.Folder, "", 22, "", "", place))
        );
        for (var night = 0; night < 9; night++)
        {
            var run = (await loft.WithAsync<Backups, BackupRun?>(b => b.MakeDueAsync()))!;
            (run.Problem, run.OtherProblem, run.Who).ShouldBe(("", "", "Tester"));
            (await loft.WithAsync<Backups, BackupRun?>(b => b.MakeDueAsync())).ShouldBeNull("one a night");
            loft.Clock.Advance(TimeSpan.FromDays(1));
        }

        var names = Directory
            .GetFiles(Path.Combine(loft.File.Folder, "backups"))
            .Select(Path.GetFileName)
            .Order()
            .ToList();
        names.Count.ShouldBe(3);
        Directory
            .GetFiles(place)
            .Select(Path.GetFileName)
            .Order()
            .ShouldBe(names.Prepend("jugaad-ffffffff-20200101-020000.tar.gz").Order());
        (await loft.WithAsync<BooksContext, int>(db => db.BackupRuns.CountAsync(r => r.TriedAt != null))).ShouldBe(2);
        (await StandingAsync(loft)).Complaints.ShouldBeEmpty();
        await RestoreAsync(Elsewhere, archive: Path.Combine(place, names[^1]!));
        (await CheckAsync(Elsewhere)).Differences.ShouldBeEmpty();

        // A place that is not there is said, and tried again within hours.
        Directory.Delete(place, recursive: true);
        (await loft.WithAsync<Backups, BackupRun?>(b => b.MakeDueAsync()))!.OtherProblem.ShouldContain(
            "Is its disk mounted?"
        );
        (await StandingAsync(loft)).Complaints.Single().ShouldContain("did not reach the other place");
        (await loft.WithAsync<Backups, BackupRun?>(b => b.MakeDueAsync())).ShouldBeNull();
        loft.Clock.Advance(TimeSpan.FromMinutes(61));
        Directory.CreateDirectory(place);
        (await loft.WithAsync<Backups, BackupRun?>(b => b.MakeDueAsync()))!.OtherProblem.ShouldBeEmpty();
        loft.Clock.Advance(TimeSpan.FromDays(4));
        (await StandingAsync(loft)).Complaints.Single().ShouldBe("The last good backup is 4 days old.");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_backup_that_does_not_come_back_is_complained_of()
    {
        await using var loft = await Loft.OpenAsync();
        var run = await loft.WithAsync<Backups, BackupRun>(b => b.MakeAsync());
        var path = Path.Combine(loft.File.Folder, "backups", run.Name);
        await File.WriteAllBytesAsync(path, Changed(await File.ReadAllBytesAsync(path)));
        await loft.WithAsync<Backups>(b => b.TryNewestAsync());
        (await StandingAsync(loft)).Complaints.ShouldContain(c =>
            c.StartsWith("A backup was brought back on trial and is not good", StringComparison.Ordinal)
        );
        (await StandingAsync(loft)).LastGood.ShouldBeNull();
    }

    [Fact]
    public async Task Sealed_ones_are_tried_out_too_and_a_key_is_shown_once_and_kept_nowhere()
    {
        await using var loft = await Loft.OpenAsync();
        var secret = await loft.WithAsync<BackupSetup, string>(b => b.NewKeyAsync("Loft"));
        var run = await loft.WithAsync<Backups, BackupRun>(b => b.MakeAsync());
        run.Name.ShouldEndWith(".tar.gz.pgp");
        await loft.WithAsync<Backups>(b => b.TryNewestAsync());
        (
            await loft.WithAsync<BooksContext, BackupRun>(db => db.BackupRuns.AsNoTracking().SingleAsync())
        ).TrialProblem.ShouldBeEmpty();
        await RestoreAsync(Elsewhere, secret, Path.Combine(loft.File.Folder, "backups", run.Name));
        var body = secret.Split('\n')[3].Trim();
        SqliteConnection.ClearAllPools();
        foreach (var kept in Directory.GetFiles(loft.File.Folder, "*", SearchOption.AllDirectories))
            Encoding.Latin1.GetString(await File.ReadAllBytesAsync(kept)).ShouldNotContain(body, customMessage: kept);
        await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<BackupSetup>(b => b.UseKeyAsync(secret)));
    }

    [Fact]
    public async Task A_key_that_is_shown_is_the_one_that_seals_also_when_the_button_is_pressed_twice()
    {
        await using var loft = await Loft.OpenAsync();
        var first = await loft.WithAsync<BackupSetup, string>(b => b.NewKeyAsync("Loft", "one form"));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<BackupSetup, string>(b => b.NewKeyAsync("Loft", "one form"))
            )
        ).Message.ShouldContain("make another");
        var run = await loft.WithAsync<Backups, BackupRun>(b => b.MakeAsync());
        await RestoreAsync(Elsewhere, first, Path.Combine(loft.File.Folder, "backups", run.Name));
    }

    [Fact]
    public async Task A_kept_secret_goes_to_no_other_host_or_user()
    {
        await using var loft = await Loft.OpenAsync();
        var wishes = new BackupWishes(
            true,
            2,
            "",
            3,
            0,
            0,
            OtherPlace.Sftp,
            "one.example",
            22,
            "keeper",
            "a secret",
            "/backups"
        );
        await loft.WithAsync<BackupSetup>(b => b.SaveAsync(wishes));
        await loft.WithAsync<BackupSetup>(b => b.SaveAsync(wishes with { Secret = "", Path = "/other" }));
        foreach (
            var elsewhere in new[]
            {
                wishes with
                {
                    Host = "two.example",
                },
                wishes with
                {
                    User = "thief",
                },
                wishes with
                {
                    Port = 2222,
                },
                wishes with
                {
                    Other = OtherPlace.Store,
                    Host = "https://one.example",
                },
            }
        )
            (
                await Should.ThrowAsync<RefusalException>(() =>
                    loft.WithAsync<BackupSetup>(b => b.SaveAsync(elsewhere with { Secret = "" }))
                )
            )
                .Refusals.Single()
                .Field.ShouldBe("secret");
    }

    private static Task<BackupStanding> StandingAsync(Loft loft) =>
        loft.WithAsync<BackupScreens, BackupStanding>(s => s.StandingAsync());

    private static Task<int> InvoicesAsync(Loft loft) =>
        loft.WithAsync<BooksContext, int>(db =>
            db.Series.Where(s => s.UsedFor == "Invoice").Select(s => s.Id).SingleAsync()
        );

    /// <summary>
    /// Books with two invoices, a draft, a standing invoice and a mail that waits; backed up, three months lost, and
    /// brought back.
    /// </summary>
    private async Task<Loft> RestedAsync()
    {
        var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        await loft.IssuedAsync();
        await loft.DraftAsync();
        await loft.WithAsync<PostTray>(t =>
            t.AddAsync(new MailToSend("yard@slip.example", "Hello", "Body") { CustomerId = loft.Yard })
        );
        await loft.WithAsync<StandingDesk>(s =>
            s.SaveAsync(
                null,
                new StandingDetails
                {
                    Name = "Storage",
                    Schedule = new Schedule(Loft.Today.AddDays(5), 1, Pace.Months),
                    Way = StandingWay.Issue,
                },
                loft.Yard,
                loft.Content()
            )
        );
        await BackUpAsync(loft, Archive);
        loft.Clock.Advance(TimeSpan.FromDays(80));
        await RestoreAsync(loft.File);
        return loft;
    }

    private static byte[] Changed(byte[] bytes)
    {
        var changed = bytes.ToArray();
        changed[bytes.Length / 2] ^= 0x40;
        return changed;
    }

    /// <summary>The same archive with something in it that does not belong there.</summary>
    private static byte[] Rewritten(byte[] good, string how)
    {
        using var source = new TarReader(new GZipStream(new MemoryStream(good), CompressionMode.Decompress));
        using var to = new MemoryStream();
        using (var packed = new GZipStream(to, CompressionLevel.Fastest, leaveOpen: true))
        using (var tar = new TarWriter(packed, TarEntryFormat.Pax))
        {
            while (source.GetNextEntry(copyData: true) is { } entry)
            {
                var isManifest = entry.Name == ArchiveManifest.FileName;
                if (isManifest && how == "no manifest")
                    continue;
                if (
                    isManifest
                    && how is not ("twice" or "link" or "not as it says" or "after the manifest" or "newer form")
                )
                    Add(tar, how, "x");
                if (isManifest && how == "twice")
                    Add(tar, "books.db", "x");
                if (isManifest && how == "link")
                    tar.WriteEntry(new PaxTarEntry(TarEntryType.SymbolicLink, "keys/link") { LinkName = "/etc" });
                if (isManifest && how is "not as it says" or "newer form")
                {
                    using var text = new StreamReader(entry.DataStream!);
                    var said = text.ReadToEnd();
                    Add(
                        tar,
                        entry.Name,
                        how == "newer form"
                            ? said.Replace("\"form\": 1", "\"form\": 9", StringComparison.Ordinal)
                            : said.Replace("\"size\": ", "\"size\": 1", StringComparison.Ordinal)
                    );
                    continue;
                }

                tar.WriteEntry(entry);
                if (isManifest && how == "after the manifest")
                    Add(tar, "keys/x", "x");
            }
        }

        return to.ToArray();
    }

    private static void Add(TarWriter tar, string name, string text) =>
        tar.WriteEntry(
            new PaxTarEntry(TarEntryType.RegularFile, name)
            {
                DataStream = new MemoryStream(Encoding.UTF8.GetBytes(text)),
            }
        );

    public void Dispose() => Directory.Delete(_work, recursive: true);
}
