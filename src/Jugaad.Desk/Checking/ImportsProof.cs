using System.Text.Json;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// What is kept of an import, so that it can be taken back, is of its kind, whole, and not newer than what it is about.
/// </summary>
internal sealed class ImportsProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var runs = await db
            .ImportRuns.AsNoTracking()
            .Select(r => new
            {
                r.Id,
                r.Kind,
                r.State,
                r.Rows,
                r.AllOrNone,
                r.ReportText,
                r.TakenBackText,
            })
            .ToListAsync(stop);
        var effects = (await db.ImportEffects.AsNoTracking().ToListAsync(stop)).ToLookup(e => e.RunId);
        var versions = new Dictionary<EffectOn, Dictionary<int, int>>
        {
            [EffectOn.Customer] = await db
                .Customers.Select(c => new { c.Id, c.Version })
                .ToDictionaryAsync(c => c.Id, c => c.Version, stop),
            [EffectOn.Item] = await db
                .Items.Select(i => new { i.Id, i.Version })
                .ToDictionaryAsync(i => i.Id, i => i.Version, stop),
        };
        foreach (var run in runs)
        {
            var what = $"Import {run.Id}";
            findings.Unless(
                (run.State == ImportState.Begun) == (run.ReportText.Length == 0),
                $"{what}: its report does not go with where it stands"
            );
            findings.Unless(
                (run.State is ImportState.TakingBack or ImportState.TakenBack) == (run.TakenBackText.Length > 0),
                $"{what}: what became of taking it back does not go with where it stands"
            );
            var of = effects[run.Id].ToList();
            if (run.ReportText.Length > 0)
            {
                var report = JsonSerializer.Deserialize<ImportReport>(run.ReportText)!;
                Rows(findings, what, run.State, run.Rows, report);
                findings.Unless(
                    !run.AllOrNone || report.Refused.Count == 0,
                    $"{what}: was to be taken whole or not at all, and rows of it are refused"
                );
            }

            if (run.State == ImportState.TakingBack && run.TakenBackText.Length > 0)
                findings.Unless(
                    JsonSerializer.Deserialize<TakenBackReport>(run.TakenBackText)!.Through < of.Count,
                    $"{what}: is being taken back, and all of it is"
                );
            if (run.State == ImportState.Begun)
                findings.Unless(of.Count == 0, $"{what}: was never taken and did something");
            // Imports of before this was kept did what nobody noted.
            else if (of.Count > 0)
                Taken(findings, what, run.Kind, JsonSerializer.Deserialize<ImportReport>(run.ReportText)!, of);
            foreach (var effect in of)
            {
                findings.Unless(Fits(run.Kind, effect.On), $"{what}: touched something of another kind");
                findings.Unless(effect.MadeNew || Reads(effect.Before), $"{what}: what was before it cannot be read");
                if (!versions.TryGetValue(effect.On, out var there))
                    continue;
                var known = there.TryGetValue(effect.TargetId, out var version);
                findings.Unless(
                    known || run.State is ImportState.TakingBack or ImportState.TakenBack,
                    $"{what}: what it touched is not there"
                );
                findings.Unless(
                    !known || effect.VersionAfter <= version,
                    $"{what}: knows something newer than there is"
                );
            }
        }
    }

    /// <summary>What is done tells of every row, what is being taken of a part.</summary>
    private static void Rows(Findings findings, string what, ImportState state, int rows, ImportReport report)
    {
        var fits = state switch
        {
            ImportState.Done => report.Rows == rows,
            ImportState.Taking => report.Rows < rows,
            _ => report.Rows <= rows,
        };
        findings.Unless(fits, $"{what}: tells of {report.Rows} of {rows} rows, which does not go with where it stands");
    }

    /// <summary>Each row that was new or changed left one trace; prices of one item leave one together.</summary>
    private static void Taken(
        Findings findings,
        string what,
        MovingKind kind,
        ImportReport report,
        List<ImportEffect> effects
    )
    {
        findings.Unless(
            effects.Select(e => (e.On, e.TargetId)).Distinct().Count() == effects.Count,
            $"{what}: touched one thing twice"
        );
        if (kind == MovingKind.Prices)
            return;
        findings.Unless(
            effects.Count(e => e.MadeNew) == report.New && effects.Count(e => !e.MadeNew) == report.Changed,
            $"{what}: did something else than it reported"
        );
    }

    private static bool Fits(MovingKind kind, EffectOn on) =>
        kind switch
        {
            MovingKind.Customers => on == EffectOn.Customer,
            MovingKind.Items => on == EffectOn.Item,
            MovingKind.Prices => on is EffectOn.Item or EffectOn.PriceList,
            MovingKind.ItemNumbers => on == EffectOn.ItemNumber,
            MovingKind.OpenItems => on == EffectOn.OpenItem,
            _ => on == EffectOn.Balance,
        };

    private static bool Reads(string before)
    {
        try
        {
            using var read = JsonDocument.Parse(before);
            return read.RootElement.TryGetProperty("Code", out _);
        }
        catch (JsonException)
        {
            return false;
        }
    }
}
