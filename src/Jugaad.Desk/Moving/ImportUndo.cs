using System.Text.Json;
using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Takes an import back as one: what it made goes out of the books again, what it changed is as before. What is in use,
/// or was changed by somebody since, stays as it is and is named; the figures of what stays are nobody's to guess.
/// </summary>
public sealed class ImportUndo(BooksContext db, BookWriter writer, BooksHead head, ImportUses uses, SpokenOf spoken)
{
    /// <summary>How many things are gone through at once.</summary>
    private const int Piece = 500;

    /// <summary>What would become of it; nothing is changed.</summary>
    public async Task<TakenBackReport> OutlookAsync(int id, CancellationToken stop = default)
    {
        var run = await LoadAsync(id, stop);
        var report = run.TakenBack ?? new TakenBackReport(0, 0, []);
        db.ChangeTracker.AutoDetectChangesEnabled = false;
        try
        {
            await using var moment = await ReadMoment.BeginAsync(db, stop);
            for (var next = report; ; report = report.With(next))
                if ((next = await PieceAsync(run.Id, report.Through, onlyLooks: true, stop)).Through == 0)
                    return report;
        }
        finally
        {
            db.ChangeTracker.AutoDetectChangesEnabled = true;
            db.ChangeTracker.Clear();
        }
    }

    /// <summary>
    /// Takes it back by pieces, each written in a moment. What was in the books in part only, and is out of them whole
    /// again, may be taken anew.
    /// </summary>
    /// <param name="progress">Told how many of the things that it touched were gone through.</param>
    /// <param name="once">Its token ends the work after the piece that is being written; the rest is taken back when it
    /// is asked for again.</param>
    /// <exception cref="RefusalException">When it was not done, was taken back already, or nothing of it can
    /// be.</exception>
    public async Task<TakenBackReport> TakeBackAsync(int id, Once once = default, IProgress<int>? progress = null)
    {
        if (
            await db
                .ImportRuns.AsNoTracking()
                .SingleOrDefaultAsync(r => r.Id == id && r.State == ImportState.TakenBack, once.Stop) is
            { } done
        )
        {
            // The same form sent again gets its answer again; anybody else is refused.
            await writer.WriteAsync(
                Right.Masters,
                once,
                () => throw new RefusalException("", "This import was taken back already.")
            );
            return done.TakenBack!;
        }

        while (true)
        {
            var turn = new Turn();
            var (report, isLast, isNothing) = await TakePieceBackAsync(id, once);
            progress?.Report(report.Through);
            if (!isLast)
                await turn.EndAsync(once.Stop);
            else
                return isNothing ? throw NothingOf(report) : report;
        }
    }

    private static RefusalException NothingOf(TakenBackReport report)
    {
        if (report.Stays.Count == 0)
            return new RefusalException("", "This import changed nothing, so there is nothing to take back.");
        var stays = string.Join("; ", report.Stays.Take(3).Select(s => $"{s.Name} {s.Why}"));
        return new RefusalException("", $"Nothing of this can be taken back: {stays}.");
    }

    /// <returns>What became of it so far, whether that is all, and whether it was nothing, so that the import stands as
    /// before.</returns>
    private async Task<(TakenBackReport Report, bool IsLast, bool IsNothing)> TakePieceBackAsync(int id, Once once)
    {
        var (report, isLast, isNothing) = (new TakenBackReport(0, 0, []), false, false);
        await writer.WriteAsync(
            Right.Masters,
            once.Stop,
            async () =>
            {
                var run = await LoadAsync(id, once.Stop);
                report = run.TakenBack ?? report;
                report = report.With(await PieceAsync(id, report.Through, onlyLooks: false, once.Stop));
                await writer.SaveAsync(once.Stop);
                isLast = report.Through == await db.ImportEffects.CountAsync(e => e.RunId == id, once.Stop);
                (run.State, run.TakenBackText) = (ImportState.TakingBack, JsonSerializer.Serialize(report));
                if (!isLast)
                    return id;
                await EndAsync(run, report, once.Stop);
                isNothing = run.State == ImportState.Done;
                writer.Answer(once.Key, id);
                return id;
            }
        );
        return (report, isLast, isNothing);
    }

    /// <summary>Says where it stands now that all of it was gone through.</summary>
    private async Task EndAsync(ImportRun run, TakenBackReport report, CancellationToken stop)
    {
        var (taken, stays) = (run.Report!, report.Stays);
        var wasWhole = taken.Rows == run.Rows;
        if (wasWhole && report.Undone == 0)
        {
            (run.State, run.TakenBackText) = (ImportState.Done, "");
            return;
        }

        if (!wasWhole && stays.Count == 0)
        {
            await db.ImportEffects.Where(e => e.RunId == run.Id).ExecuteDeleteAsync(stop);
            (run.State, run.ReportText, run.TakenBackText) = (ImportState.Begun, "", "");
        }
        else
        {
            run.State = ImportState.TakenBack;
        }

        var after = wasWhole ? "" : $", broken off after {taken.Rows} of {run.Rows} rows,";
        var staying =
            stays.Count == 0 ? "" : $", {stays.Count} stay: {string.Join(", ", stays.Take(20).Select(s => s.Name))}";
        await writer.TrailAsync(
            $"{MovingFields.Words(run.Kind)} from {run.FileName}{after} taken back: {report.Gone} out again, {report.AsBefore} as before{staying}"
        );
    }

    /// <exception cref="RefusalException">When there is nothing to take back.</exception>
    private async Task<ImportRun> LoadAsync(int id, CancellationToken stop)
    {
        var run =
            await db.ImportRuns.SingleOrDefaultAsync(r => r.Id == id, stop)
            ?? throw new RefusalException("", $"There is no import {id}.");
        writer.Must(Importing.RightFor(run.Kind));
        return run.State switch
        {
            ImportState.Begun => throw new RefusalException(
                "",
                "This file was never taken, so there is nothing to take back."
            ),
            ImportState.TakenBack => throw new RefusalException("", "This import was taken back already."),
            _ => run,
        };
    }

    /// <summary>Takes the next things back, without saving; nothing where all were gone through.</summary>
    private async Task<TakenBackReport> PieceAsync(int id, int through, bool onlyLooks, CancellationToken stop)
    {
        var effects = await db
            .ImportEffects.AsNoTracking()
            .Where(e => e.RunId == id)
            .OrderBy(e => e.On)
            .ThenBy(e => e.Id)
            .Skip(through)
            .Take(Piece)
            .ToListAsync(stop);
        var tally = new Tally();
        foreach (var kind in effects.GroupBy(e => e.On))
        {
            var piece = new Effects(id, kind.Key, [.. kind]);
            await (
                kind.Key switch
                {
                    EffectOn.Customer => CustomersAsync(piece, tally, stop),
                    EffectOn.Item => ItemsAsync(piece, tally, stop),
                    EffectOn.ItemNumber => ItemNumbersAsync(piece, tally, stop),
                    EffectOn.PriceList => PriceListsAsync(piece, tally, onlyLooks, stop),
                    EffectOn.OpenItem => OpenItemsAsync(piece, tally, stop),
                    _ => BalancesAsync(piece, tally, stop),
                }
            );
        }

        return tally.Report with
        {
            Through = effects.Count,
        };
    }

    /// <summary>What an import did to things of one kind, a piece of it.</summary>
    private sealed record Effects(int RunId, EffectOn On, IReadOnlyList<ImportEffect> All)
    {
        internal List<int> Targets { get; } = [.. All.Select(e => e.TargetId)];
    }

    private async Task CustomersAsync(Effects effects, Tally tally, CancellationToken stop)
    {
        var there = await db
            .Customers.Include(c => c.Contacts)
            .Include(c => c.Places)
            .Include(c => c.Certificates)
            .Where(c => effects.Targets.Contains(c.Id))
            .ToDictionaryAsync(c => c.Id, stop);
        var format = (await head.BusinessAsync(stop)).Format;
        var used = await uses.OfCustomersAsync(effects.Targets, stop);
        var earlier = await EarlierAsync(effects, stop);
        var lists = (await db.PriceLists.Select(l => l.Id).ToListAsync(stop)).ToHashSet();
        foreach (var effect in effects.All)
        {
            if (!there.TryGetValue(effect.TargetId, out var customer))
                continue;
            string? CannotBe(CustomerDetails before) =>
                (before.Currency != customer.Currency.Code || before.AlsoIn != customer.AlsoIn)
                && used.Contains(customer.Id)
                    ? "has documents in its new currency"
                : before.PriceListId is { } list && !lists.Contains(list) ? "had a price list that is gone"
                : null;
            tally.Try(
                effect,
                $"{customer.Name} ({customer.Code})",
                () =>
                {
                    if (customer.MergedIntoId is not null)
                        return "was merged into another customer since";
                    if (customer.Version != effect.VersionAfter)
                        return "was changed since";
                    if (effect.MadeNew && used.Contains(customer.Id))
                        return "is in use";
                    if (effect.MadeNew)
                        db.Customers.Remove(customer);
                    else
                        return Describe<CustomerDetails>(
                            effect,
                            format,
                            CannotBe,
                            before =>
                            {
                                customer.Describe(before);
                                As(earlier, effect, 1, customer.Version);
                            }
                        );
                    return null;
                }
            );
        }
    }

    private async Task ItemsAsync(Effects effects, Tally tally, CancellationToken stop)
    {
        var there = await db.Items.Where(i => effects.Targets.Contains(i.Id)).ToDictionaryAsync(i => i.Id, stop);
        var format = (await head.BusinessAsync(stop)).Format;
        var used = await uses.OfItemsAsync(effects.Targets, stop);
        var earlier = await EarlierAsync(effects, stop);
        foreach (var effect in effects.All)
        {
            if (!there.TryGetValue(effect.TargetId, out var item))
                continue;
            tally.Try(
                effect,
                $"{item.Name} ({item.Code})",
                () =>
                {
                    if (item.Version != effect.VersionAfter)
                        return "was changed since";
                    if (effect.MadeNew && used.Contains(item.Id))
                        return "is in use";
                    if (effect.MadeNew)
                        db.Items.Remove(item);
                    else
                        return Describe<ItemDetails>(
                            effect,
                            format,
                            _ => null,
                            before =>
                            {
                                // An import of prices wrote the item once for each of its prices, any other once.
                                var prices = item.Details().Prices;
                                var times = prices.Count(p =>
                                    !before.Prices.TryGetValue(p.Key, out var was) || was != p.Value
                                );
                                item.Describe(before);
                                As(earlier, effect, Math.Max(times, 1), item.Version);
                            }
                        );
                    return null;
                }
            );
        }
    }

    private async Task ItemNumbersAsync(Effects effects, Tally tally, CancellationToken stop)
    {
        var there = await db.ItemNumbers.Where(n => effects.Targets.Contains(n.Id)).ToDictionaryAsync(n => n.Id, stop);
        var format = (await head.BusinessAsync(stop)).Format;
        var earlier = await EarlierAsync(effects, stop);
        foreach (var effect in effects.All)
        {
            if (!there.TryGetValue(effect.TargetId, out var number))
                continue;
            tally.Try(
                effect,
                $"the number {number.Number}",
                () =>
                {
                    if (number.Version != effect.VersionAfter)
                        return "was changed since";
                    if (effect.MadeNew)
                        db.ItemNumbers.Remove(number);
                    else
                        return Describe<NumberBefore>(
                            effect,
                            format,
                            _ => null,
                            before =>
                            {
                                number.Write(before.Code);
                                As(earlier, effect, 1, number.Version);
                            }
                        );
                    return null;
                }
            );
        }
    }

    private async Task PriceListsAsync(Effects effects, Tally tally, bool onlyLooks, CancellationToken stop)
    {
        foreach (var effect in effects.All)
        {
            if (await db.PriceLists.FindAsync([effect.TargetId], stop) is not { } list)
                continue;
            // Where one only looks, prices that would be gone by then are there still.
            var priced = await db
                .Items.Where(i => i.Prices.Any(p => p.PriceListId == list.Id))
                .Select(i => i.Id)
                .ToListAsync(stop);
            var used =
                priced
                    .Except(db.Items.Local.Where(i => i.Prices.All(p => p.PriceListId != list.Id)).Select(i => i.Id))
                    .Any() || await db.Customers.AnyAsync(c => c.PriceListId == list.Id, stop);
            tally.Try(
                effect,
                $"the price list {list.Name}",
                () =>
                {
                    if (used)
                        return "is in use";
                    if (!onlyLooks)
                        db.PriceLists.Remove(list);
                    return null;
                }
            );
        }
    }

    private async Task OpenItemsAsync(Effects effects, Tally tally, CancellationToken stop)
    {
        var closed = (await head.BusinessAsync(stop)).ClosedUpTo;
        var items = await db.AccountItems.Where(i => effects.Targets.Contains(i.Id)).ToDictionaryAsync(i => i.Id, stop);
        var entries = (
            await db
                .Journal.Include(e => e.Lines)
                .Where(e => e.ItemId != null && effects.Targets.Contains(e.ItemId.Value) && !e.IsMirrored)
                .ToListAsync(stop)
        ).ToLookup(e => e.ItemId!.Value);
        var against = (
            await db
                .Allocations.IgnoreQueryFilters()
                .Where(a => effects.Targets.Contains(a.RaisingId) || effects.Targets.Contains(a.LoweringId))
                .Select(a => new { a.RaisingId, a.LoweringId })
                .ToListAsync(stop)
        )
            .SelectMany(a => new[] { a.RaisingId, a.LoweringId })
            .ToHashSet();
        var about = await spoken.AmongAsync(items.Keys, stop);
        foreach (var effect in effects.All)
        {
            if (!items.TryGetValue(effect.TargetId, out var item))
                continue;
            tally.Try(
                effect,
                $"{item.Kind.Word()} {item.Number}",
                () =>
                {
                    if (against.Contains(item.Id))
                        return "has, or had, something set against it";
                    if (about.Contains(item.Id))
                        return SpokenOf.Why;
                    if (entries[item.Id].Any(e => e.Id != effect.VersionAfter && e.Event != JournalEvent.TaxMoved))
                        return "was put right since";
                    if (item.Date <= closed)
                        return "is in closed books";
                    foreach (var entry in entries[item.Id])
                        db.Journal.Add(entry.Mirror());
                    db.AccountItems.Remove(item);
                    return null;
                }
            );
        }
    }

    private async Task BalancesAsync(Effects effects, Tally tally, CancellationToken stop)
    {
        var closed = (await head.BusinessAsync(stop)).ClosedUpTo;
        var accounts = await db.LedgerAccounts.AsNoTracking().ToDictionaryAsync(a => a.Id, stop);
        var entries = await db
            .Journal.Include(e => e.Lines)
            .Where(e => effects.Targets.Contains(e.Id) && !e.IsMirrored)
            .ToDictionaryAsync(e => e.Id, stop);
        foreach (var effect in effects.All)
        {
            // What was put right since has another entry, and is no longer what the import made.
            if (!entries.TryGetValue(effect.TargetId, out var entry))
                continue;
            var account = entry
                .Lines.Select(l => accounts[l.AccountId])
                .First(a => a.Role != AccountRole.OpeningBalances);
            tally.Try(
                effect,
                $"the opening balance of {account.Code} {account.Name}",
                () =>
                {
                    if (entry.Date <= closed)
                        return "is in closed books";
                    db.Journal.Add(entry.Mirror());
                    return null;
                }
            );
        }
    }

    /// <summary>What imports before this one did to the same things, by the thing.</summary>
    private async Task<ILookup<int, ImportEffect>> EarlierAsync(Effects effects, CancellationToken stop) =>
        (
            await db
                .ImportEffects.Where(e =>
                    e.RunId < effects.RunId && e.On == effects.On && effects.Targets.Contains(e.TargetId)
                )
                .ToListAsync(stop)
        ).ToLookup(e => e.TargetId);

    /// <summary>
    /// The thing is as the import before left it, if nothing came in between: then that one can be taken back too, and
    /// imports go out in the order against that in which they came.
    /// </summary>
    /// <param name="times">How often this import wrote the thing.</param>
    private static void As(ILookup<int, ImportEffect> earlier, ImportEffect effect, int times, int version)
    {
        var start = effect.VersionAfter - times;
        // All before it move along, so that what came between two of them still lies between.
        foreach (var one in earlier[effect.TargetId].Where(e => e.VersionAfter <= start))
            one.VersionAfter += version - start;
    }

    private static string? Describe<T>(
        ImportEffect effect,
        DisplayFormat format,
        Func<T, string?> cannotBe,
        Action<T> describe
    )
    {
        var before = JsonSerializer.Deserialize<T>(effect.Before)!;
        if (cannotBe(before) is { } why)
            return why;
        try
        {
            describe(before);
            return null;
        }
        catch (RefusalException refused)
        {
            return $"cannot be as before: {refused.In(format)}";
        }
    }

    private sealed class Tally
    {
        private readonly List<StaysThere> _stays = [];
        private int _gone;
        private int _asBefore;

        internal TakenBackReport Report => new(_gone, _asBefore, _stays);

        /// <param name="work">Takes it back, or says why it stays.</param>
        internal void Try(ImportEffect effect, string name, Func<string?> work)
        {
            if (work() is { } why)
                _stays.Add(new StaysThere(name, why));
            else if (effect.MadeNew)
                _gone++;
            else
                _asBefore++;
        }
    }
}
