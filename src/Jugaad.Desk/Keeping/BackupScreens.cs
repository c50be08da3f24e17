using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Keeping;

/// <summary>How the backups of the books stand.</summary>
/// <param name="LastGood">Null where there is none.</param>
/// <param name="Newest">The newest try, whatever became of it.</param>
/// <param name="Complaints">What is wrong, in words; empty where all is well.</param>
public sealed record BackupStanding(
    BackupRun? LastGood,
    BackupRun? Newest,
    DiskRoom Room,
    IReadOnlyList<string> Complaints
);

/// <summary>Reads how the backups stand.</summary>
public sealed class BackupScreens(BooksContext db, BooksFile file, BackupMaking making, TimeProvider clock)
{
    private const int NightlyHours = 50;
    private const int OtherwiseHours = 8 * 24;

    public async Task<BackupStanding> StandingAsync(CancellationToken stop = default)
    {
        var settings = await making.SettingsAsync(stop);
        var newest = await db.BackupRuns.AsNoTracking().OrderByDescending(r => r.Id).FirstOrDefaultAsync(stop);
        var good = await db
            .BackupRuns.AsNoTracking()
            .Where(r => r.Name != "" && r.Problem == "" && r.OtherProblem == "" && r.TrialProblem == "")
            .OrderByDescending(r => r.Id)
            .FirstOrDefaultAsync(stop);
        var now = clock.GetUtcNow().UtcDateTime;
        var begun = await db.Trail.OrderBy(t => t.Id).Select(t => (DateTime?)t.At).FirstOrDefaultAsync(stop) ?? now;
        var complaints = new List<string>();
        var patience = TimeSpan.FromHours(settings.Nightly ? NightlyHours : OtherwiseHours);
        if (now - (good?.At ?? begun) > patience)
            complaints.Add(
                good is null
                    ? "There is no good backup of these books."
                    : $"The last good backup is {(int)(now - good.At).TotalDays} days old."
            );
        if (newest is { Problem.Length: > 0 })
            complaints.Add($"The newest backup failed: {newest.Problem}");
        if (newest is { OtherProblem.Length: > 0 })
            complaints.Add($"The newest backup did not reach the other place: {newest.OtherProblem}");
        if (
            await db
                .BackupRuns.AsNoTracking()
                .Where(r => r.TriedAt != null)
                .OrderByDescending(r => r.Id)
                .FirstOrDefaultAsync(stop) is
            { TrialProblem.Length: > 0 } tried
        )
            complaints.Add($"A backup was brought back on trial and is not good: {tried.TrialProblem}");
        var room = DiskRoom.Of(file);
        if (room.IsLow)
            complaints.Add(
                $"The disk of the books is nearly full: {DiskRoom.Words(room.Free)} are free, and {DiskRoom.Words(room.Needed)} should be."
            );
        return new BackupStanding(good, newest, room, complaints);
    }

    public async Task<IReadOnlyList<BackupRun>> RunsAsync(CancellationToken stop = default) =>
        await db.BackupRuns.AsNoTracking().OrderByDescending(r => r.Id).Take(20).ToListAsync(stop);

    /// <summary>Where a backup lies on this machine; null where no such is there.</summary>
    public async Task<string?> PathAsync(string name, CancellationToken stop = default)
    {
        if (!BackupName.IsOne(name))
            return null;
        var path = Path.Combine(Backups.FolderOf(await making.SettingsAsync(stop), file), name);
        return File.Exists(path) ? path : null;
    }
}
