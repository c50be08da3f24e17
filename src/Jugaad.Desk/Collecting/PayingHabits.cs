using Jugaad.Core.Accounts;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>How late customers paid in the twelve months up to a day.</summary>
/// <param name="Own">Of those of whom something can be said, by customer.</param>
/// <param name="Business">Of all together; it serves for the others.</param>
public sealed record HabitsOn(IReadOnlyDictionary<int, PayingHabit> Own, PayingHabit Business)
{
    public PayingHabit Of(int customerId) => Own.GetValueOrDefault(customerId, Business);
}

/// <summary>
/// Remembers how late customers pay until something is posted or changed, since every list of whom to ask needs it and
/// it is read from a year of payments.
/// </summary>
public sealed class HabitsMemory
{
    /// <summary>What the books had come to when it was read.</summary>
    internal sealed record Stamp(DateOnly Day, int Set, int Noted, DateTime NotedAt);

    private sealed record Kept(Stamp Stamp, HabitsOn Habits);

    /// <summary>Replaced as a whole, so that two who ask at once never see half of it.</summary>
    private volatile Kept? _kept;

    internal HabitsOn? Of(Stamp stamp) => _kept is { } kept && kept.Stamp == stamp ? kept.Habits : null;

    internal void Keep(Stamp stamp, HabitsOn habits) => _kept = new Kept(stamp, habits);
}

/// <summary>Reads how late customers pay.</summary>
public sealed class PayingHabits(BooksContext db, HabitsMemory memory)
{
    /// <inheritdoc cref="ReadAsync"/>
    public async Task<HabitsOn> OnAsync(DateOnly day, CancellationToken stop = default)
    {
        // Whatever changes the books leaves a trail, so that the last of it tells whether anything did.
        var noted = await db
            .Trail.OrderByDescending(t => t.Id)
            .Select(t => new { t.Id, t.At })
            .FirstOrDefaultAsync(stop);
        var stamp = new HabitsMemory.Stamp(
            day,
            await db.Allocations.IgnoreQueryFilters().MaxAsync(a => (int?)a.Id, stop) ?? 0,
            noted?.Id ?? 0,
            noted?.At ?? default
        );
        if (memory.Of(stamp) is { } known)
            return known;
        var read = await ReadAsync(day, stop);
        memory.Keep(stamp, read);
        return read;
    }

    /// <param name="day">What was set against each other up to its end counts, and nothing that came later.</param>
    private async Task<HabitsOn> ReadAsync(DateOnly day, CancellationToken stop)
    {
        var since = day.AddYears(-1);
        var paid = (
            await db
                .Allocations.IgnoreQueryFilters()
                .AsNoTracking()
                .Where(a =>
                    a.Date > since
                    && a.Date <= day
                    && (a.Until == null || a.Until > day)
                    && (a.Lowering.Kind == AccountItemKind.Receipt || a.Lowering.Kind == AccountItemKind.MovedIn)
                    && (a.Raising.Kind == AccountItemKind.Invoice || a.Raising.Kind == AccountItemKind.DebitNote)
                )
                .Select(a => new
                {
                    a.Raising.CustomerId,
                    a.Raising.Due,
                    a.Lowering.Date,
                    Billed = a.Raising.Date,
                    Home = a.HomeRaising,
                })
                .ToListAsync(stop)
        )
        // Money that was there before the invoice paid it on the day it was billed.
        .ConvertAll(p => (p.CustomerId, Part: new PaidPart(p.Due, p.Date > p.Billed ? p.Date : p.Billed, p.Home)));
        var own = new Dictionary<int, PayingHabit>();
        foreach (var customer in paid.GroupBy(p => p.CustomerId))
            if (PayingHabit.On(day, customer.Select(p => p.Part)) is { } habit)
                own[customer.Key] = habit;
        return new HabitsOn(own, PayingHabit.On(day, paid.Select(p => p.Part)) ?? PayingHabit.OnTime);
    }
}
