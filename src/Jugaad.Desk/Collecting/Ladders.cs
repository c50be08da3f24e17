using Jugaad.Core;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>Sets by which steps customers are written to, when, and who is not.</summary>
public sealed class Ladders(BooksContext db, BookWriter writer, BooksHead head)
{
    /// <param name="id">Null for a new one.</param>
    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public Task<int> SaveAsync(int? id, string name, IReadOnlyList<StepDetails> steps, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                if (
                    steps.Any(s => s.Charges)
                    && !await db.CollectingSettings.AnyAsync(
                        s => s.ChargeTaxCodeId != null && s.ChargeAccountId != null,
                        stop
                    )
                )
                    throw new RefusalException(
                        "steps",
                        "Say below first how interest and costs of late payment are taxed, and to which account they go."
                    );
                LetterLadder ladder;
                if (id is { } there)
                {
                    ladder = await FindAsync(there, stop);
                    // Rows of steps have no id of their own: the old ones go before the new ones come.
                    db.RemoveRange(ladder.Steps);
                    await writer.SaveAsync(stop);
                    ladder.Describe(name, steps);
                    foreach (var step in ladder.Steps)
                        db.Add(step);
                }
                else
                {
                    db.Ladders.Add(ladder = new LetterLadder(name, steps));
                }

                await writer.TrailAsync($"Ladder {ladder.Name} set: {ladder.Steps.Count} steps");
                await writer.SaveAsync(stop);
                return ladder.Id;
            }
        );

    /// <summary>Says which ladder is the usual one, and when it runs.</summary>
    /// <inheritdoc cref="CollectingSettings.Climb"/>
    public Task<int> SetAsync(
        int? ladderId,
        bool byItself,
        long tolerance,
        int daysBetween,
        IEnumerable<int> weekdays,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                if (ladderId is { } id)
                    await FindAsync(id, stop);
                if (await db.CollectingSettings.SingleOrDefaultAsync(stop) is not { } settings)
                    db.CollectingSettings.Add(settings = new CollectingSettings());
                settings.Climb(ladderId, byItself, tolerance, daysBetween, weekdays);
                await writer.TrailAsync(
                    $"Letters by steps: {(ladderId is null ? "none" : byItself ? "by themselves each working day" : "when somebody has them written")}"
                );
                await writer.SaveAsync(stop);
                return settings.Id;
            }
        );

    /// <summary>The days on which nobody is written to, in place of those that were set.</summary>
    /// <exception cref="RefusalException">When a day is there twice, or they are too many.</exception>
    public Task<int> SetHolidaysAsync(IReadOnlyList<(DateOnly Day, string Name)> days, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                const int most = 400;
                var refusals = new Refusals();
                if (days.Count > most)
                    refusals.Add("holidays", $"Give at most {most} days.");
                if (days.GroupBy(d => d.Day).FirstOrDefault(g => g.Count() > 1) is { } twice)
                    refusals.Add("holidays", $"{twice.Key} is there twice. Leave one out.");
                foreach (var (_, name) in days)
                    Texts.Short(refusals, "holidays", name, 60);
                refusals.ThrowIfAny();
                db.Holidays.RemoveRange(await db.Holidays.ToListAsync(stop));
                await writer.SaveAsync(stop);
                db.Holidays.AddRange(days.Select(d => new Holiday { Day = d.Day, Name = d.Name.Trim() }));
                await writer.TrailAsync($"Holidays set: {days.Count} days on which nobody is written to");
                return days.Count;
            }
        );

    /// <summary>Has a customer written to by other steps than usual, by the usual ones, or by none.</summary>
    /// <exception cref="RefusalException">When there is no such customer or ladder.</exception>
    public Task<int> ChooseAsync(int customerId, int? ladderId, bool none, Once once = default) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var customer =
                    await db.Customers.SingleOrDefaultAsync(c => c.Id == customerId, stop)
                    ?? throw new RefusalException("", "This customer is not there.");
                var name =
                    ladderId is { } id && !none ? (await FindAsync(id, stop)).Name
                    : none ? "none"
                    : "the usual one";
                customer.Climb(ladderId, none);
                await writer.TrailAsync($"Ladder of {customer.Name}: {name}", customerId);
                return customerId;
            }
        );

    /// <summary>Leaves a customer, or one thing that they owe, out of all letters until a day.</summary>
    /// <exception cref="RefusalException">Without a reason, or with a day that has passed.</exception>
    public Task<int> LeaveOutAsync(int customerId, int? itemId, DateOnly? until, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var today = await head.TodayAsync(stop);
                var refusals = new Refusals();
                Texts.Required(refusals, "leftReason", reason, 200, "Say in a few words why they are left out.");
                if (until < today)
                    refusals.Add("leftUntil", "The day has passed. Give today or a later one, or none.");
                refusals.ThrowIfAny();
                if (
                    itemId is { } item
                    && !await db.AccountItems.AnyAsync(i => i.Id == item && i.CustomerId == customerId, stop)
                )
                    throw new RefusalException("leftItem", "That is not open with this customer. Load the page again.");
                var left = new LeftOut
                {
                    CustomerId = customerId,
                    ItemId = itemId,
                    Until = until,
                    Reason = reason.Trim(),
                    By = writer.Who,
                };
                db.LeftOut.Add(left);
                await writer.TrailAsync($"Left out of letters: {left.Reason}", customerId);
                await writer.SaveAsync(stop);
                return left.Id;
            }
        );

    /// <summary>Writes again to whoever was left out.</summary>
    /// <exception cref="RefusalException">When that has ended already.</exception>
    public Task<int> TakeInAgainAsync(int leftId, Once once = default) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var left = await db.LeftOut.SingleOrDefaultAsync(l => l.Id == leftId && l.EndedOn == null, stop);
                if (left is null)
                    throw new RefusalException("", "This has ended already.");
                left.EndedOn = await head.TodayAsync(stop);
                await writer.TrailAsync($"Written to again, after: {left.Reason}", left.CustomerId);
                return leftId;
            }
        );

    private async Task<LetterLadder> FindAsync(int id, CancellationToken stop) =>
        await db.Ladders.Include(l => l.Steps).SingleOrDefaultAsync(l => l.Id == id, stop)
        ?? throw new RefusalException("ladder", "This ladder is not there. Choose another.");
}
