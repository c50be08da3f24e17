using System.Text.Json;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Begins to move tables in: a file is read, its columns are looked over, and its rows are tried without keeping
/// anything.
/// </summary>
public sealed class Importing(BooksContext db, BookWriter writer, BooksHead head, ITableFiles files)
{
    /// <summary>Reads a file and guesses what its columns mean.</summary>
    /// <returns>The import's id.</returns>
    /// <exception cref="RefusalException">When the file is no table.</exception>
    public Task<int> BeginAsync(MovingKind kind, string fileName, byte[] file, Once once = default)
    {
        writer.Must(RightFor(kind));
        // Read before the books are touched: nobody waits for a file.
        var table = files.Read(file);
        var columns = MovingFields.Guess(kind, table.Columns);
        IEnumerable<string> CellsOf(Func<string, bool> wanted) =>
            columns
                .Where(c => wanted(c.Key))
                .SelectMany(c =>
                    table.Rows.Where((_, row) => !table.Figures.Contains((row, c.Value))).Select(r => r[c.Value])
                );
        var guess = CellFormat.Guess(CellsOf(MovingFields.IsFigure), CellsOf(MovingFields.IsDate));
        return writer.WriteAsync(
            RightFor(kind),
            once,
            async stop =>
            {
                var run = new ImportRun
                {
                    Kind = kind,
                    FileName = fileName.Length > 120 ? fileName[..120] : fileName,
                    File = file,
                    Note = table.Note,
                    Rows = table.Rows.Count,
                    Day = await head.TodayAsync(stop),
                    Who = writer.Who,
                    SettingsText = JsonSerializer.Serialize(
                        new ImportSettings(
                            columns,
                            guess.Format.DecimalMark,
                            guess.Format.Dates,
                            guess.FiguresInDoubt,
                            guess.DatesInDoubt
                        )
                    ),
                };
                db.ImportRuns.Add(run);
                await writer.SaveAsync(stop);
                return run.Id;
            }
        );
    }

    /// <summary>Changes how the rows are understood.</summary>
    /// <exception cref="RefusalException">When a column is given twice, or one that is needed is missing.</exception>
    public Task<int> SetAsync(int id, ImportSettings settings, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var run = await LoadAsync(id, stop);
                Check(run.Kind, settings);
                if (run.State != ImportState.Begun)
                    throw new RefusalException(
                        "",
                        "This file has been taken already. Begin again with the file to take it once more."
                    );
                run.SettingsText = JsonSerializer.Serialize(settings);
                return id;
            }
        );

    /// <exception cref="NotAllowedException">When whoever acts may not move such rows in.</exception>
    public void Allow(MovingKind kind) => writer.Must(RightFor(kind));

    public async Task<IReadOnlyList<ImportRun>> LatestAsync(CancellationToken stop = default) =>
        await db
            .ImportRuns.AsNoTracking()
            .OrderByDescending(r => r.Id)
            .Take(8)
            .Select(r => new ImportRun
            {
                Id = r.Id,
                Kind = r.Kind,
                FileName = r.FileName,
                Rows = r.Rows,
                Day = r.Day,
                Who = r.Who,
                State = r.State,
                ReportText = r.ReportText,
                TakenBackText = r.TakenBackText,
            })
            .ToListAsync(stop);

    /// <summary>Imports of which a part is in the books and the rest is not, without their files.</summary>
    public async Task<IReadOnlyList<ImportRun>> HalfWayAsync(CancellationToken stop = default) =>
        await db
            .ImportRuns.AsNoTracking()
            .Where(r => r.State == ImportState.Taking || r.State == ImportState.TakingBack)
            .OrderBy(r => r.Id)
            .Select(r => new ImportRun
            {
                Id = r.Id,
                Kind = r.Kind,
                FileName = r.FileName,
                Rows = r.Rows,
                State = r.State,
                ReportText = r.ReportText,
            })
            .ToListAsync(stop);

    public async Task<ImportRun?> FindAsync(int id, CancellationToken stop = default) =>
        await db.ImportRuns.AsNoTracking().SingleOrDefaultAsync(r => r.Id == id, stop);

    public Table TableOf(ImportRun run) => files.Read(run.File);

    /// <summary>Tries every row and keeps nothing.</summary>
    public async Task<ImportReport> TryOutAsync(int id, CancellationToken stop = default)
    {
        var run = await LoadAsync(id, stop);
        return await TryOutAsync(run, TableOf(run), stop);
    }

    internal async Task<ImportReport> TryOutAsync(ImportRun run, Table table, CancellationToken stop)
    {
        MustBeReady(run);
        var found = db.ChangeTracker.AutoDetectChangesEnabled;
        db.ChangeTracker.AutoDetectChangesEnabled = false;
        try
        {
            await using var moment = await ReadMoment.BeginAsync(db, stop);
            return (
                await ImportRows.PrepareAsync(
                    db,
                    await head.BusinessAsync(stop),
                    run,
                    table,
                    onlyTries: true,
                    await head.TodayAsync(stop),
                    stop
                )
            ).Take(0, table.Rows.Count, stop);
        }
        finally
        {
            db.ChangeTracker.AutoDetectChangesEnabled = found;
            db.ChangeTracker.Clear();
        }
    }

    /// <exception cref="NotAllowedException">When whoever acts may not move such rows in.</exception>
    /// <exception cref="RefusalException">When it is not clear how the rows are meant.</exception>
    internal void MustBeReady(ImportRun run)
    {
        Allow(run.Kind);
        Certain(run.Settings);
        Check(run.Kind, run.Settings);
    }

    /// <summary>The rows that were refused as the file had them, with the reason in an added column.</summary>
    public Table RefusedRows(ImportRun run, ImportReport report)
    {
        var table = TableOf(run);
        return new Table(
            [.. table.Columns, "Reason"],
            report.Refused.Select(r => (IReadOnlyList<string>)[.. table.Rows[r.Row - 1], r.Why]).ToList()
        );
    }

    /// <summary>Nothing is read of a file that may mean two things.</summary>
    private static void Certain(ImportSettings settings)
    {
        if (settings.InDoubt)
            throw new RefusalException(
                "decimalMark",
                "The file does not tell how its figures or dates are written. Say it first."
            );
    }

    private static void Check(MovingKind kind, ImportSettings settings)
    {
        var refusals = new Refusals();
        foreach (var field in MovingFields.Of(kind).Where(f => f.Required && !settings.Columns.ContainsKey(f.Key)))
            refusals.Add(
                $"column-{field.Key}",
                $"Say which column is the {field.Words}; without it no row can be taken."
            );
        foreach (var twice in settings.Columns.GroupBy(c => c.Value).Where(g => g.Count() > 1))
            refusals.Add(
                $"column-{twice.Last().Key}",
                $"One column is given to {string.Join(" and ", twice.Select(c => $"“{c.Key}”"))}. Give it to one of them."
            );
        refusals.ThrowIfAny();
    }

    private async Task<ImportRun> LoadAsync(int id, CancellationToken stop) =>
        await db.ImportRuns.SingleOrDefaultAsync(r => r.Id == id, stop)
        ?? throw new RefusalException("", $"There is no import {id}.");

    internal static Right RightFor(MovingKind kind) =>
        kind is MovingKind.OpenItems or MovingKind.Balances ? Right.Money : Right.Masters;
}
