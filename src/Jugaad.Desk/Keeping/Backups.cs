using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Keeping;

/// <summary>
/// Backups that are made by themselves: into a folder, to another place, kept for so long, and tried out.
/// </summary>
public sealed class Backups(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    BooksFile file,
    BackupMaking making,
    Restoring restoring,
    IOtherPlaces others,
    TimeProvider clock
)
{
    private static readonly SemaphoreSlim Turn = new(1, 1);
    private static readonly TimeSpan BetweenTrials = TimeSpan.FromDays(7);
    private static readonly TimeSpan AfterFailure = TimeSpan.FromHours(1);

    /// <summary>The folder of this machine where they are kept.</summary>
    public static string FolderOf(BackupSettings settings, BooksFile file) =>
        settings.Folder.Length > 0 ? settings.Folder : Path.Combine(file.Folder, "backups");

    /// <summary>
    /// Makes one where the night has come, and tries the newest out where that was long ago. Nothing is done for books
    /// that rest, nor for the demo's.
    /// </summary>
    /// <returns>What was made; null where nothing was due.</returns>
    public async Task<BackupRun?> MakeDueAsync(CancellationToken stop = default)
    {
        if (await head.FindBusinessAsync(stop) is null or { IsResting: true } or { PinnedDay: not null })
            return null;
        var settings = await making.SettingsAsync(stop);
        var made = settings.Nightly && await IsDueAsync(settings, stop) ? await MakeAsync(stop) : null;
        await TryNewestAsync(stop);
        return made;
    }

    /// <summary>
    /// Makes one now, brings it to where it belongs, and throws away what need not be kept any longer.
    /// </summary>
    /// <exception cref="RefusalException">When whoever acts may not. What else goes wrong stands in the
    /// run.</exception>
    public async Task<BackupRun> MakeAsync(CancellationToken stop = default)
    {
        writer.Must(Right.Keep);
        await Turn.WaitAsync(stop);
        try
        {
            BackupSettings settings = null!;
            await writer.WriteAsync(
                Right.Keep,
                stop,
                async () =>
                {
                    settings = await making.KeptSettingsAsync(stop);
                    return 0;
                }
            );
            var run = new BackupRun { At = clock.GetUtcNow().UtcDateTime, Who = writer.Who };
            await FillAsync(run, settings, stop);
            await NoteAsync(run, settings.HostKey, stop);
            return run;
        }
        finally
        {
            Turn.Release();
        }
    }

    /// <summary>Brings the newest backup back on trial, where none was for a week.</summary>
    public async Task TryNewestAsync(CancellationToken stop = default)
    {
        var since = clock.GetUtcNow().UtcDateTime - BetweenTrials;
        if (await db.BackupRuns.AnyAsync(r => r.TriedAt > since, stop))
            return;
        if (
            await db
                .BackupRuns.AsNoTracking()
                .Where(r => r.Problem == "" && r.Name != "")
                .OrderByDescending(r => r.Id)
                .FirstOrDefaultAsync(stop)
            is not { } newest
        )
            return;
        var path = Path.Combine(FolderOf(await making.SettingsAsync(stop), file), newest.Name);
        var problem = File.Exists(path)
            ? await restoring.TryAsync(path, ArchiveWriter.Scratch(file), making.OwnKeys(), stop)
            : $"{path} is not there any more.";
        await writer.WriteAsync(
            Right.Keep,
            stop,
            async () =>
            {
                var run = await db.BackupRuns.SingleAsync(r => r.Id == newest.Id, stop);
                (run.TriedAt, run.TrialProblem) = (clock.GetUtcNow().UtcDateTime, Cut(problem));
                await writer.TrailAsync(
                    problem.Length == 0
                        ? $"Backup {run.Name} brought back on trial; its books agree"
                        : $"Backup {run.Name} brought back on trial, and it is not good: {Cut(problem)}"
                );
                return run.Id;
            }
        );
    }

    private async Task<bool> IsDueAsync(BackupSettings settings, CancellationToken stop)
    {
        var now = clock.GetLocalNow().DateTime;
        var night = now.Date.AddHours(settings.Hour);
        if (night > now)
            night = night.AddDays(-1);
        var since = clock.GetUtcNow().UtcDateTime - (now - night);
        var last = await db
            .BackupRuns.AsNoTracking()
            .Where(r => r.At >= since)
            .OrderByDescending(r => r.Id)
            .FirstOrDefaultAsync(stop);
        return last is null
            || (
                (last.Problem.Length > 0 || last.OtherProblem.Length > 0)
                && last.At < clock.GetUtcNow().UtcDateTime - AfterFailure
            );
    }

    private async Task FillAsync(BackupRun run, BackupSettings settings, CancellationToken stop)
    {
        var folder = FolderOf(settings, file);
        var name = BackupName.Of(settings.Mark, clock.GetLocalNow().DateTime, settings.PublicKey.Length > 0);
        var path = Path.Combine(folder, name);
        try
        {
            if (!Directory.Exists(folder))
            {
                Directory.CreateDirectory(folder);
                OwnersOnly.Folder(folder);
            }

            await making.MakeAsync(path, settings.PublicKey, stop);
            (run.Name, run.Size) = (name, new FileInfo(path).Length);
            await TidyAsync(new FolderPlace(folder), settings, stop);
        }
        catch (Exception cannot)
            when (cannot is RefusalException or PlaceException or IOException or UnauthorizedAccessException)
        {
            run.Problem = Cut(cannot.Message);
            return;
        }

        if (settings.Other == OtherPlace.None)
            return;
        try
        {
            await using var other = await others.OpenAsync(settings, stop);
            await other.PutAsync(path, name, stop);
            if (
                (await other.ListAsync(stop)).FirstOrDefault(f => f.Name == name) is not { } there
                || there.Size != run.Size
            )
                throw new PlaceException("It was brought there, and is not there whole.");
            await TidyAsync(other, settings, stop);
        }
        catch (PlaceException away)
        {
            run.OtherProblem = Cut(away.Message);
        }
    }

    private static async Task TidyAsync(IBackupPlace place, BackupSettings settings, CancellationToken stop)
    {
        var there = (await place.ListAsync(stop))
            .Select(f => (f.Name, Made: BackupName.MadeAt(f.Name, settings.Mark)))
            .Where(f => f.Made is not null)
            .ToList();
        var kept = settings.Retention.Keep(there.Select(f => f.Made!.Value));
        foreach (var (name, made) in there.Where(f => !kept.Contains(f.Made!.Value)))
            await place.DeleteAsync(name, stop);
    }

    private Task<int> NoteAsync(BackupRun run, string hostKey, CancellationToken stop) =>
        writer.WriteAsync(
            Right.Keep,
            stop,
            async () =>
            {
                db.BackupRuns.Add(run);
                (await making.KeptSettingsAsync(stop)).HostKey = hostKey;
                if (run.Problem.Length > 0)
                    await writer.TrailAsync($"No backup was made: {run.Problem}");
                else if (run.OtherProblem.Length > 0)
                    await writer.TrailAsync($"The backup did not reach the other place: {run.OtherProblem}");
                await writer.SaveAsync(stop);
                return run.Id;
            }
        );

    private static string Cut(string text) => text.Length > 500 ? text[..500] : text;
}
