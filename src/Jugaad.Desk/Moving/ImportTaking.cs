using System.Text.Json;
using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Takes the rows of a file into the books, the good ones alone or only all together. A long file goes in by pieces,
/// each written in a moment, so that others write in between; a file that is taken in part only is gone on with, or
/// taken back. Taking the same file again changes nothing.
/// </summary>
public sealed class ImportTaking(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Importing importing,
    ImportUndo undo
)
{
    /// <summary>How many rows are written at once.</summary>
    internal const int Piece = 500;

    /// <summary>
    /// How often what was read of the books is read anew since somebody wrote, before nobody is let write in between.
    /// </summary>
    private const int MostOvertaken = 3;

    /// <param name="allOrNone">Takes nothing where a row is refused. Where a file is gone on with, it stays as it was
    /// begun.</param>
    /// <param name="progress">Told how many rows are in the books.</param>
    /// <param name="stop">Ends the work after the piece that is being written; what is in the books stays, to be gone
    /// on with or taken back.</param>
    /// <exception cref="RefusalException">When it was taken already, or all were wanted and one is refused; nothing of
    /// it is in the books then.</exception>
    public async Task<ImportReport> RunAsync(
        int id,
        bool allOrNone,
        IProgress<int>? progress = null,
        Once once = default
    )
    {
        var run =
            await importing.FindAsync(id, once.Stop) ?? throw new RefusalException("", "This import is not there.");
        if (run.State is not (ImportState.Begun or ImportState.Taking))
        {
            // The same form sent again gets its answer again; anybody else is refused.
            await writer.WriteAsync(
                Right.Masters,
                once,
                stop =>
                    throw new RefusalException(
                        "",
                        "This file has been taken already. Begin again with the file to take it once more."
                    )
            );
            return run.Report!;
        }

        importing.MustBeReady(run);
        var table = importing.TableOf(run);
        if (run.State == ImportState.Taking)
            allOrNone = run.AllOrNone;
        else if (allOrNone && table.Rows.Count > Piece)
            AllOrNone(await importing.TryOutAsync(run, table, once.Stop));
        await db.Database.OpenConnectionAsync(once.Stop);
        db.ChangeTracker.AutoDetectChangesEnabled = false;
        try
        {
            return await PiecesAsync(run, table, allOrNone, progress, once);
        }
        catch (Exception broken) when (broken is not (OperationCanceledException or TakenElsewhereException))
        {
            db.ChangeTracker.AutoDetectChangesEnabled = true;
            await TakeBackIfInPartAsync(id);
            throw;
        }
        finally
        {
            db.ChangeTracker.AutoDetectChangesEnabled = true;
            db.ChangeTracker.Clear();
            await db.Database.CloseConnectionAsync();
        }
    }

    /// <summary>
    /// Takes back what is in the books of a file that broke off. Where the machine does not let it, it stays half way
    /// for a person to decide.
    /// </summary>
    private async Task TakeBackIfInPartAsync(int id)
    {
        try
        {
            if (await db.ImportRuns.AnyAsync(r => r.Id == id && r.State == ImportState.Taking))
                await undo.TakeBackAsync(id);
        }
        catch (Exception cannot) when (BooksTrouble.Of(cannot) is not null)
        {
            // What broke it off is told; the day sheet says that a part of it is in the books.
        }
    }

    private async Task<ImportReport> PiecesAsync(
        ImportRun run,
        Table table,
        bool allOrNone,
        IProgress<int>? progress,
        Once once
    )
    {
        var report = run.Report ?? new ImportReport(0, 0, 0, []);
        var named = await NamedByAsync(run, table, report.Rows, once.Stop);
        Prepared? prepared = null;
        var overtaken = 0;
        while (true)
        {
            prepared ??= await PrepareAsync(run, table, named, once.Stop);
            var turn = new Turn();
            try
            {
                (report, prepared) = await PieceAsync(
                    run,
                    table,
                    prepared,
                    report,
                    allOrNone,
                    mayWait: overtaken < MostOvertaken,
                    once
                );
                overtaken = 0;
            }
            catch (OvertakenException)
            {
                (prepared, overtaken) = (null, overtaken + 1);
                continue;
            }

            progress?.Report(report.Rows);
            if (report.Rows == table.Rows.Count)
                return report;
            named = prepared.Rows.Taker.Named.ToHashSet(StringComparer.OrdinalIgnoreCase);
            await turn.EndAsync(once.Stop);
        }
    }

    /// <summary>What the rows that are in the books already named, where a file is gone on with.</summary>
    private async Task<IReadOnlySet<string>> NamedByAsync(ImportRun run, Table table, int upTo, CancellationToken stop)
    {
        if (upTo == 0)
            return new HashSet<string>();
        var rows = await ImportRows.PrepareAsync(
            db,
            await head.BusinessAsync(stop),
            run,
            table,
            onlyTries: true,
            await head.TodayAsync(stop),
            stop
        );
        rows.Take(0, upTo, stop);
        return rows.Taker.Named;
    }

    /// <summary>What is known of the books to take rows by.</summary>
    /// <param name="Seen">The mark of what others had committed before it was read.</param>
    private sealed record Prepared(ImportRows Rows, Dictionary<(EffectOn On, int Id), ImportEffect> Effects, long Seen);

    private async Task<Prepared> PrepareAsync(
        ImportRun run,
        Table table,
        IReadOnlySet<string> named,
        CancellationToken stop
    )
    {
        db.ChangeTracker.Clear();
        head.Forget();
        var seen = await CommitsOfOthersAsync(stop);
        var rows = await ImportRows.PrepareAsync(
            db,
            await head.BusinessAsync(stop),
            run,
            table,
            onlyTries: false,
            await head.TodayAsync(stop),
            stop
        );
        rows.Taker.GoOn(named);
        return new Prepared(
            rows,
            await db.ImportEffects.Where(e => e.RunId == run.Id).ToDictionaryAsync(e => (e.On, e.TargetId), stop),
            seen
        );
    }

    /// <summary>Writes the next rows, and what is known of the whole so far.</summary>
    /// <exception cref="OvertakenException">When somebody has written since the books were read; nothing is written
    /// then.</exception>
    private async Task<(ImportReport, Prepared)> PieceAsync(
        ImportRun run,
        Table table,
        Prepared prepared,
        ImportReport soFar,
        bool allOrNone,
        bool mayWait,
        Once once
    )
    {
        var upTo = Math.Min(soFar.Rows + Piece, table.Rows.Count);
        var isLast = upTo == table.Rows.Count;
        var whole = soFar;
        await writer.WritePieceAsync(
            Right.Masters,
            new Once(isLast ? once.Key : null, once.Stop),
            async () =>
            {
                if (await CommitsOfOthersAsync(once.Stop) != prepared.Seen)
                {
                    if (mayWait)
                        throw new OvertakenException();
                    prepared = await PrepareAsync(run, table, prepared.Rows.Taker.Named, once.Stop);
                }

                await MustStandAsync(run.Id, soFar, once.Stop);
                whole = soFar.With(prepared.Rows.Take(soFar.Rows, upTo, once.Stop));
                if (allOrNone)
                    AllOrNone(whole);
                prepared.Rows.Taker.DetectChanges();
                await writer.SaveAsync(once.Stop);
                Keep(prepared, run.Id);
                var state = isLast ? ImportState.Done : ImportState.Taking;
                var text = JsonSerializer.Serialize(whole);
                await db
                    .ImportRuns.Where(r => r.Id == run.Id)
                    .ExecuteUpdateAsync(
                        set =>
                            set.SetProperty(r => r.State, state)
                                .SetProperty(r => r.ReportText, text)
                                .SetProperty(r => r.AllOrNone, allOrNone),
                        once.Stop
                    );
                if (isLast)
                    await writer.TrailAsync(
                        $"{MovingFields.Words(run.Kind)} moved in from {run.FileName}: {whole.New} new, {whole.Changed} changed, {whole.Same} there already, {whole.Refused.Count} refused"
                    );
                return run.Id;
            }
        );
        return (whole, prepared);
    }

    /// <exception cref="TakenElsewhereException">When somebody else has taken rows of the same file since.</exception>
    private async Task MustStandAsync(int id, ImportReport soFar, CancellationToken stop)
    {
        var now = await db
            .ImportRuns.AsNoTracking()
            .Where(r => r.Id == id)
            .Select(r => new ImportRun { State = r.State, ReportText = r.ReportText })
            .SingleAsync(stop);
        if (now.State is not (ImportState.Begun or ImportState.Taking) || (now.Report?.Rows ?? 0) != soFar.Rows)
            throw new TakenElsewhereException();
    }

    /// <summary>Notes what the rows did. What an earlier piece touched keeps what was known of it before.</summary>
    private void Keep(Prepared prepared, int id)
    {
        foreach (var effect in prepared.Rows.Taker.Effects(id))
        {
            if (prepared.Effects.TryGetValue((effect.On, effect.TargetId), out var earlier))
            {
                earlier.VersionAfter = effect.VersionAfter;
                db.Entry(earlier).DetectChanges();
            }
            else
            {
                db.ImportEffects.Add(effect);
                prepared.Effects.Add((effect.On, effect.TargetId), effect);
            }
        }
    }

    private static void AllOrNone(ImportReport report)
    {
        if (report.Refused.Count == 0)
            return;
        var rows = report.Refused.Count == 1 ? "1 row is" : $"{report.Refused.Count} rows are";
        throw new RefusalException(
            "",
            $"{rows} refused, so nothing was taken. Correct the file, or take the good rows alone."
        );
    }

    /// <summary>Changes whenever somebody else has committed (SQLite's data_version of this connection).</summary>
    private async Task<long> CommitsOfOthersAsync(CancellationToken stop) =>
        (
            await db
                .Database.SqlQueryRaw<long>("SELECT data_version AS Value FROM pragma_data_version")
                .ToListAsync(stop)
        )[0];

    /// <summary>Somebody wrote between the reading and the writing.</summary>
    private sealed class OvertakenException : Exception;

    private sealed class TakenElsewhereException()
        : RefusalException("", "This file has been taken already, or is being taken elsewhere. Look at it again.");
}
