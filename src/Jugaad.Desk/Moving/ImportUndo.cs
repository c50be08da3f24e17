using System.Text.Json;
using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Takes an import back as one: what it made goes out of the books again, what it changed is as before. What is in use, or was
/// changed by somebody since, stays as it is and is named; the figures of what stays are nobody's to guess.
/// </summary>
public sealed class ImportUndo(BooksContext db, BookWriter writer, BooksHead head, ImportUses uses)
{
    /// <summary>What would become of it; nothing is changed.</summary>
    public async Task<TakenBackReport> OutlookAsync(int id, CancellationToken stop = default)
    {
        var run = await LoadAsync(id, stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        try
        {
            return await WorkAsync(run, stop);
        }
        finally
        {
            await transaction.RollbackAsync(CancellationToken.None);
            db.ChangeTracker.Clear();
            head.Forget();
        }
    }

    /// <exception cref="RefusalException">When it was not done, was taken back already, or nothing of it can be.</exception>
    public async Task<TakenBackReport> TakeBackAsync(int id, string? formKey = null, CancellationToken stop = default)
    {
        await writer.WriteAsync(Right.Masters, formKey, async () =>
        {
            var run = await LoadAsync(id, stop);
            var report = await WorkAsync(run, stop);
            if (report.Undone == 0) throw new RefusalException("", $"Nothing of this can be taken back: {string.Join("; ", report.Stays.Take(3).Select(s => $"{s.Name} {s.Why}"))}.");
            (run.State, run.TakenBackText) = (ImportState.TakenBack, JsonSerializer.Serialize(report));
            var stays = report.Stays.Count == 0 ? "" : $", {report.Stays.Count} stay: {string.Join(", ", report.Stays.Take(20).Select(s => s.Name))}";
            await writer.TrailAsync($"{MovingFields.Words(run.Kind)} from {run.FileName} taken back: {report.Gone} out again, {report.AsBefore} as before{stays}");
            return id;
        }, stop);
        return (await db.ImportRuns.AsNoTracking().SingleAsync(r => r.Id == id, stop)).TakenBack!;
    }

    private async Task<ImportRun> LoadAsync(int id, CancellationToken stop)
    {
        var run = await db.ImportRuns.SingleOrDefaultAsync(r => r.Id == id, stop) ?? throw new RefusalException("", $"There is no import {id}.");
        writer.Must(Importing.RightFor(run.Kind));
        if (run.State == ImportState.TakenBack) throw new RefusalException("", "This import was taken back already.");
        if (run.State != ImportState.Done) throw new RefusalException("", "This file was never taken, so there is nothing to take back.");
        return run;
    }

    private async Task<TakenBackReport> WorkAsync(ImportRun run, CancellationToken stop)
    {
        var effects = await db.ImportEffects.AsNoTracking().Where(e => e.RunId == run.Id).OrderBy(e => e.Id).ToListAsync(stop);
        var tally = new Tally();
        foreach (var kind in effects.GroupBy(e => e.On).OrderBy(g => g.Key))
        {
            await (kind.Key switch
            {
                EffectOn.Customer => CustomersAsync(run.Id, [.. kind], tally, stop),
                EffectOn.Item => ItemsAsync(run.Id, [.. kind], tally, stop),
                EffectOn.PriceList => PriceListsAsync([.. kind], tally, stop),
                EffectOn.OpenItem => OpenItemsAsync([.. kind], tally, stop),
                _ => BalancesAsync([.. kind], tally, stop),
            });
            await writer.SaveAsync(stop);
        }

        return tally.Report;
    }

    private async Task CustomersAsync(int runId, IReadOnlyList<ImportEffect> effects, Tally tally, CancellationToken stop)
    {
        var there = await db.Customers.Include(c => c.Contacts).Include(c => c.Places).Include(c => c.Certificates)
            .Where(c => db.ImportEffects.Any(e => e.RunId == runId && e.On == EffectOn.Customer && e.TargetId == c.Id)).ToDictionaryAsync(c => c.Id, stop);
        var format = (await head.BusinessAsync(stop)).Format;
        var used = await uses.OfCustomersAsync(runId, stop);
        var earlier = await EarlierAsync(runId, EffectOn.Customer, stop);
        var lists = (await db.PriceLists.Select(l => l.Id).ToListAsync(stop)).ToHashSet();
        foreach (var effect in effects)
        {
            if (!there.TryGetValue(effect.TargetId, out var customer)) continue;
            string? CannotBe(CustomerDetails before) =>
                before.Currency != customer.Currency.Code && used.Contains(customer.Id) ? "has documents in its new currency"
                : before.PriceListId is { } list && !lists.Contains(list) ? "had a price list that is gone"
                : null;
            tally.Try(effect, $"{customer.Name} ({customer.Code})", () =>
            {
                if (customer.MergedIntoId is not null) return "was merged into another customer since";
                if (customer.Version != effect.VersionAfter) return "was changed since";
                if (effect.MadeNew && used.Contains(customer.Id)) return "is in use";
                if (effect.MadeNew) db.Customers.Remove(customer);
                else return Describe<CustomerDetails>(effect, format, CannotBe, before =>
                {
                    customer.Describe(before);
                    As(earlier, effect, 1, customer.Version);
                });
                return null;
            });
        }
    }

    private async Task ItemsAsync(int runId, IReadOnlyList<ImportEffect> effects, Tally tally, CancellationToken stop)
    {
        var there = await db.Items.Where(i => db.ImportEffects.Any(e => e.RunId == runId && e.On == EffectOn.Item && e.TargetId == i.Id)).ToDictionaryAsync(i => i.Id, stop);
        var format = (await head.BusinessAsync(stop)).Format;
        var used = await uses.OfItemsAsync(runId, stop);
        var earlier = await EarlierAsync(runId, EffectOn.Item, stop);
        foreach (var effect in effects)
        {
            if (!there.TryGetValue(effect.TargetId, out var item)) continue;
            tally.Try(effect, $"{item.Name} ({item.Code})", () =>
            {
                if (item.Version != effect.VersionAfter) return "was changed since";
                if (effect.MadeNew && used.Contains(item.Id)) return "is in use";
                if (effect.MadeNew) db.Items.Remove(item);
                else return Describe<ItemDetails>(effect, format, _ => null, before =>
                {
                    // An import of prices wrote the item once for each of its prices, any other once.
                    var prices = item.Details().Prices;
                    var times = prices.Count(p => !before.Prices.TryGetValue(p.Key, out var was) || was != p.Value);
                    item.Describe(before);
                    As(earlier, effect, Math.Max(times, 1), item.Version);
                });
                return null;
            });
        }
    }

    private async Task PriceListsAsync(IReadOnlyList<ImportEffect> effects, Tally tally, CancellationToken stop)
    {
        foreach (var effect in effects)
        {
            if (await db.PriceLists.FindAsync([effect.TargetId], stop) is not { } list) continue;
            var used = await db.Set<ItemPrice>().AnyAsync(p => p.PriceListId == list.Id, stop) || await db.Customers.AnyAsync(c => c.PriceListId == list.Id, stop);
            tally.Try(effect, $"the price list {list.Name}", () =>
            {
                if (used) return "is in use";
                db.PriceLists.Remove(list);
                return null;
            });
        }
    }

    private async Task OpenItemsAsync(IReadOnlyList<ImportEffect> effects, Tally tally, CancellationToken stop)
    {
        var closed = (await head.BusinessAsync(stop)).ClosedUpTo;
        foreach (var batch in effects.Chunk(500))
        {
            var ids = batch.Select(e => e.TargetId).ToList();
            var items = await db.AccountItems.Where(i => ids.Contains(i.Id)).ToDictionaryAsync(i => i.Id, stop);
            var entries = (await db.Journal.Include(e => e.Lines).Where(e => e.ItemId != null && ids.Contains(e.ItemId.Value) && !e.IsMirrored).ToListAsync(stop)).ToLookup(e => e.ItemId!.Value);
            var against = (await db.Allocations.IgnoreQueryFilters().Where(a => ids.Contains(a.RaisingId) || ids.Contains(a.LoweringId)).Select(a => new { a.RaisingId, a.LoweringId }).ToListAsync(stop))
                .SelectMany(a => new[] { a.RaisingId, a.LoweringId }).ToHashSet();
            foreach (var effect in batch)
            {
                if (!items.TryGetValue(effect.TargetId, out var item)) continue;
                tally.Try(effect, $"{item.Kind.Word()} {item.Number}", () =>
                {
                    if (against.Contains(item.Id)) return "has, or had, something set against it";
                    if (entries[item.Id].Any(e => e.Id != effect.VersionAfter)) return "was put right since";
                    if (item.Date <= closed) return "is in closed books";
                    foreach (var entry in entries[item.Id]) db.Journal.Add(entry.Mirror());
                    db.AccountItems.Remove(item);
                    return null;
                });
            }

            await writer.SaveAsync(stop);
        }
    }

    private async Task BalancesAsync(IReadOnlyList<ImportEffect> effects, Tally tally, CancellationToken stop)
    {
        var closed = (await head.BusinessAsync(stop)).ClosedUpTo;
        var ids = effects.Select(e => e.TargetId).ToList();
        var accounts = await db.LedgerAccounts.AsNoTracking().ToDictionaryAsync(a => a.Id, stop);
        var entries = await db.Journal.Include(e => e.Lines).Where(e => ids.Contains(e.Id) && !e.IsMirrored).ToDictionaryAsync(e => e.Id, stop);
        foreach (var effect in effects)
        {
            // What was put right since has another entry, and is no longer what the import made.
            if (!entries.TryGetValue(effect.TargetId, out var entry)) continue;
            var account = entry.Lines.Select(l => accounts[l.AccountId]).First(a => a.Role != AccountRole.OpeningBalances);
            tally.Try(effect, $"the opening balance of {account.Code} {account.Name}", () =>
            {
                if (entry.Date <= closed) return "is in closed books";
                db.Journal.Add(entry.Mirror());
                return null;
            });
        }
    }

    /// <summary>What imports before this one did to the same things, by the thing.</summary>
    private async Task<ILookup<int, ImportEffect>> EarlierAsync(int runId, EffectOn on, CancellationToken stop) =>
        (await db.ImportEffects.Where(e => e.RunId < runId && e.On == on && db.ImportEffects.Any(own => own.RunId == runId && own.On == on && own.TargetId == e.TargetId)).ToListAsync(stop)).ToLookup(e => e.TargetId);

    /// <summary>
    /// The thing is as the import before left it, if nothing came in between: then that one can be taken back too, and imports
    /// go out in the order against that in which they came.
    /// </summary>
    /// <param name="times">How often this import wrote the thing.</param>
    private static void As(ILookup<int, ImportEffect> earlier, ImportEffect effect, int times, int version)
    {
        var start = effect.VersionAfter - times;
        // All before it move along, so that what came between two of them still lies between.
        foreach (var one in earlier[effect.TargetId].Where(e => e.VersionAfter <= start)) one.VersionAfter += version - start;
    }

    private static string? Describe<T>(ImportEffect effect, DisplayFormat format, Func<T, string?> cannotBe, Action<T> describe)
    {
        var before = JsonSerializer.Deserialize<T>(effect.Before)!;
        if (cannotBe(before) is { } why) return why;
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
            if (work() is { } why) _stays.Add(new StaysThere(name, why));
            else if (effect.MadeNew) _gone++;
            else _asBefore++;
        }
    }
}
