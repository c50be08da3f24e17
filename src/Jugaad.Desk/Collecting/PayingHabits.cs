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

/// <summary>Reads how late customers pay.</summary>
public sealed class PayingHabits(BooksContext db)
{
    /// <param name="day">What was set against each other up to its end counts, and nothing that came later.</param>
    public async Task<HabitsOn> OnAsync(DateOnly day, CancellationToken stop = default)
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
