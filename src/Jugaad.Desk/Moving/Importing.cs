using System.Text.Json;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Moves tables in: a file is begun, its columns are looked over, its rows are tried without keeping anything, and then the good ones
/// are taken, alone or only all together. Taking the same file again changes nothing.
/// </summary>
public sealed class Importing(BooksContext db, BookWriter writer, BooksHead head, ITableFiles files)
{
    private const int Batch = 500;

    /// <summary>Reads a file and guesses what its columns mean.</summary>
    /// <returns>The import's id.</returns>
    /// <exception cref="RefusalException">When the file is no table.</exception>
    public Task<int> BeginAsync(MovingKind kind, string fileName, byte[] file, string? formKey = null, CancellationToken stop = default)
    {
        writer.Must(RightFor(kind));
        // Read before the books are touched: nobody waits for a file.
        var table = files.Read(file);
        var columns = MovingFields.Guess(kind, table.Columns);
        IEnumerable<string> CellsOf(Func<string, bool> wanted) => columns.Where(c => wanted(c.Key)).SelectMany(c => table.Rows.Where((_, row) => !table.Figures.Contains((row, c.Value))).Select(r => r[c.Value]));
        var guess = CellFormat.Guess(CellsOf(MovingFields.IsFigure), CellsOf(MovingFields.IsDate));
        return writer.WriteAsync(RightFor(kind), formKey, async () =>
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
                SettingsText = JsonSerializer.Serialize(new ImportSettings(columns, guess.Format.DecimalMark, guess.Format.Dates, guess.FiguresInDoubt, guess.DatesInDoubt)),
            };
            db.ImportRuns.Add(run);
            await writer.SaveAsync(stop);
            return run.Id;
        }, stop);
    }

    /// <summary>Changes how the rows are understood.</summary>
    /// <exception cref="RefusalException">When a column is given twice, or one that is needed is missing.</exception>
    public Task<int> SetAsync(int id, ImportSettings settings, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Masters, formKey, async () =>
    {
        var run = await LoadAsync(id, stop);
        Check(run.Kind, settings);
        if (run.State != ImportState.Begun) throw new RefusalException("", "This file has been taken already. Begin again with the file to take it once more.");
        run.SettingsText = JsonSerializer.Serialize(settings);
        return id;
    }, stop);

    /// <exception cref="NotAllowedException">When whoever acts may not move such rows in.</exception>
    public void Allow(MovingKind kind) => writer.Must(RightFor(kind));

    public async Task<IReadOnlyList<ImportRun>> LatestAsync(CancellationToken stop = default) =>
        await db.ImportRuns.AsNoTracking().OrderByDescending(r => r.Id).Take(8).Select(r => new ImportRun { Id = r.Id, Kind = r.Kind, FileName = r.FileName, Rows = r.Rows, Day = r.Day, Who = r.Who, State = r.State, ReportText = r.ReportText, TakenBackText = r.TakenBackText }).ToListAsync(stop);

    public async Task<ImportRun?> FindAsync(int id, CancellationToken stop = default) => await db.ImportRuns.AsNoTracking().SingleOrDefaultAsync(r => r.Id == id, stop);

    public Table TableOf(ImportRun run) => files.Read(run.File);

    /// <summary>Tries every row and keeps nothing.</summary>
    public async Task<ImportReport> TryOutAsync(int id, CancellationToken stop = default)
    {
        var run = await LoadAsync(id, stop);
        writer.Must(RightFor(run.Kind));
        Certain(run.Settings);
        Check(run.Kind, run.Settings);
        var table = TableOf(run);
        try
        {
            await using var moment = await ReadMoment.BeginAsync(db, stop);
            return await RowsAsync(run, table, await TakerAsync(run.Kind, stop), null, stop);
        }
        finally
        {
            db.ChangeTracker.Clear();
        }
    }

    /// <summary>
    /// Takes the good rows, in one transaction. The rows are looked at before it begins, so that others go on writing meanwhile; only where
    /// somebody wrote in between they are looked at again within it.
    /// </summary>
    /// <param name="allOrNone">Takes nothing where a row is refused.</param>
    /// <param name="progress">Told how many rows have been looked at.</param>
    /// <exception cref="RefusalException">When it was taken already.</exception>
    public async Task<ImportReport> TakeAsync(int id, bool allOrNone, IProgress<int>? progress = null, string? formKey = null, CancellationToken stop = default)
    {
        var begun = await FindAsync(id, stop) ?? throw new RefusalException("", "This import is not there.");
        var table = TableOf(begun);
        await db.Database.OpenConnectionAsync(stop);
        try
        {
            var staged = begun.State == ImportState.Begun ? await StageAsync(begun, table, progress, stop) : null;
            await writer.WriteAsync(Right.Masters, formKey, async () =>
            {
                var now = (await FindAsync(id, stop))!;
                if (now.State != ImportState.Begun) throw new RefusalException("", "This file has been taken already. Begin again with the file to take it once more.");
                if (staged is null || await CommitsOfOthersAsync(stop) != staged.Seen)
                {
                    db.ChangeTracker.Clear();
                    staged = await StageAsync(now, table, progress, stop);
                }

                var report = staged.Report;
                if (allOrNone && report.Refused.Count > 0) throw new RefusalException("", $"{report.Refused.Count} rows are refused, so nothing was taken. Correct them, or take the good rows alone.");
                await db.SaveChangesAsync(stop);
                var effects = staged.Taker.Effects(id).ToList();
                // The rows may have been many; the run is looked at afresh.
                db.ChangeTracker.Clear();
                var run = await LoadAsync(id, stop);
                db.ImportEffects.AddRange(effects);
                (run.State, run.ReportText) = (ImportState.Done, JsonSerializer.Serialize(report));
                await writer.TrailAsync($"{MovingFields.Words(run.Kind)} moved in from {run.FileName}: {report.New} new, {report.Changed} changed, {report.Same} there already, {report.Refused.Count} refused");
                return id;
            }, stop);
        }
        finally
        {
            db.ChangeTracker.Clear();
            await db.Database.CloseConnectionAsync();
        }

        return (await FindAsync(id, stop))!.Report!;
    }

    /// <summary>Rows that were looked at and are ready to be saved.</summary>
    /// <param name="Seen">The mark of what others had committed before.</param>
    private sealed record Staged(RowTaker Taker, ImportReport Report, long Seen);

    /// <exception cref="RefusalException">When whoever acts may not, or it is not clear how the rows are meant.</exception>
    private async Task<Staged> StageAsync(ImportRun run, Table table, IProgress<int>? progress, CancellationToken stop)
    {
        writer.Must(RightFor(run.Kind));
        Certain(run.Settings);
        Check(run.Kind, run.Settings);
        var seen = await CommitsOfOthersAsync(stop);
        var taker = await TakerAsync(run.Kind, stop);
        return new Staged(taker, await RowsAsync(run, table, taker, progress, stop), seen);
    }

    /// <summary>Changes whenever somebody else has committed (SQLite's data_version of this connection).</summary>
    private async Task<long> CommitsOfOthersAsync(CancellationToken stop) => (await db.Database.SqlQueryRaw<long>("SELECT data_version AS Value FROM pragma_data_version").ToListAsync(stop))[0];

    /// <summary>The rows that were refused as the file had them, with the reason in an added column.</summary>
    public Table RefusedRows(ImportRun run, ImportReport report)
    {
        var table = TableOf(run);
        return new Table([.. table.Columns, "Reason"], report.Refused.Select(r => (IReadOnlyList<string>)[.. table.Rows[r.Row - 1], r.Why]).ToList());
    }

    /// <summary>Nothing is read of a file that may mean two things.</summary>
    private static void Certain(ImportSettings settings)
    {
        if (settings.InDoubt) throw new RefusalException("decimalMark", "The file does not tell how its figures or dates are written. Say it first.");
    }

    private async Task<ImportReport> RowsAsync(ImportRun run, Table table, RowTaker taker, IProgress<int>? progress, CancellationToken stop)
    {
        var (settings, refused, counts) = (run.Settings, new List<RefusedRow>(), new Dictionary<RowFate, int>());
        await taker.PrepareAsync(stop);
        var format = (await head.BusinessAsync(stop)).Format;
        db.ChangeTracker.AutoDetectChangesEnabled = false;
        try
        {
            for (var i = 0; i < table.Rows.Count; i++)
            {
                var fate = Take(taker, table, settings, i + 1, refused, format);
                counts[fate] = counts.GetValueOrDefault(fate) + 1;
                if ((i + 1) % Batch != 0) continue;
                stop.ThrowIfCancellationRequested();
                progress?.Report(i + 1);
            }

            progress?.Report(table.Rows.Count);
        }
        finally
        {
            db.ChangeTracker.AutoDetectChangesEnabled = true;
        }

        return new ImportReport(counts.GetValueOrDefault(RowFate.New), counts.GetValueOrDefault(RowFate.Changed), counts.GetValueOrDefault(RowFate.Same), refused);
    }

    private static RowFate Take(RowTaker taker, Table table, ImportSettings settings, int number, List<RefusedRow> refused, DisplayFormat format)
    {
        var cells = table.Rows[number - 1];
        var row = new RowCells(settings.Columns.ToDictionary(c => c.Key, c => cells[c.Value]), settings.Format, settings.Columns.Where(c => table.Figures.Contains((number - 1, c.Value))).Select(c => c.Key).ToHashSet());
        try
        {
            return taker.Take(row);
        }
        catch (RefusalException wrong)
        {
            refused.Add(new RefusedRow(number, string.Join(" ", wrong.Refusals.Select(r => r.Field.Length > 0 ? $"{MovingFields.HeadOf(r.Field)}: {r.Phrase.In(format)}" : r.Phrase.In(format)))));
            return RowFate.Refused;
        }
    }

    private async Task<RowTaker> TakerAsync(MovingKind kind, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        return kind switch
        {
            MovingKind.Customers => new CustomerRows(db, business),
            MovingKind.Items => new ItemRows(db, business),
            MovingKind.Prices => new PriceRows(db),
            MovingKind.OpenItems => new OpenItemRows(db, business),
            _ => new BalanceRows(db, business),
        };
    }

    private static void Check(MovingKind kind, ImportSettings settings)
    {
        var refusals = new Refusals();
        foreach (var field in MovingFields.Of(kind).Where(f => f.Required && !settings.Columns.ContainsKey(f.Key)))
            refusals.Add($"column-{field.Key}", $"Say which column is the {field.Words}; without it no row can be taken.");
        foreach (var twice in settings.Columns.GroupBy(c => c.Value).Where(g => g.Count() > 1))
            refusals.Add($"column-{twice.Last().Key}", $"One column is given to {string.Join(" and ", twice.Select(c => $"“{c.Key}”"))}. Give it to one of them.");
        refusals.ThrowIfAny();
    }

    private async Task<ImportRun> LoadAsync(int id, CancellationToken stop) => await db.ImportRuns.SingleOrDefaultAsync(r => r.Id == id, stop) ?? throw new RefusalException("", $"There is no import {id}.");

    internal static Right RightFor(MovingKind kind) => kind is MovingKind.OpenItems or MovingKind.Balances ? Right.Money : Right.Masters;
}
