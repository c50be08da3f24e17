using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>A promise as it was heard.</summary>
/// <param name="Amount">Minor units of the customer's currency; null for all that can be asked for of what it is for:
/// what is late of it, or all where nothing is.</param>
/// <param name="Items">What it is for; all that they owe where it names none.</param>
/// <param name="InPlace">Whether it takes the place of what was promised and has not passed yet.</param>
public sealed record PromiseHeard(long? Amount, DateOnly Until, IReadOnlyCollection<int> Items, bool InPlace = false);

/// <summary>A dispute as it was heard.</summary>
/// <param name="Amount">Minor units; null for all that is open of it.</param>
/// <param name="SeesToId">Who sees to it; null for nobody yet.</param>
public sealed record DisputeHeard(int ItemId, long? Amount, string Reason, int? SeesToId);

/// <summary>Notes what customers say about what they owe.</summary>
public sealed class Contacts(BooksContext db, BookWriter writer, BooksHead head, OwedBook owed, CollectingRules rules)
{
    /// <summary>
    /// Notes a contact with what came of it, all or nothing. Where no day to ask again is given, they come again when a
    /// promise would be broken, tomorrow where nobody answered, or after the days that the business sets.
    /// </summary>
    /// <returns>The note's id.</returns>
    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public Task<int> NoteAsync(
        int customerId,
        ContactSaid said,
        PromiseHeard? promise,
        DisputeHeard? dispute,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var customer = await FindAsync(customerId, stop);
                var today = await head.TodayAsync(stop);
                var settings = await rules.ReadAsync(stop);
                var note = new ContactNote(customerId, today, writer.Who, said);
                if (
                    said.Said.Trim().Length == 0
                    && said.Way != ContactWay.NoAnswer
                    && promise is null
                    && dispute is null
                )
                    throw new RefusalException(
                        "said",
                        "Say in a few words what they said, or give the day by which they will pay."
                    );
                db.ContactNotes.Add(note);
                if (dispute is not null)
                    await DisputeAsync(customer, today, note, dispute, stop);
                if (promise is not null)
                    await PromiseAsync(customer, today, note, promise, stop);
                customer.AskAgain(
                    said.AskAgainOn
                        ?? promise?.Until.AddDays(settings.Grace + 1)
                        ?? today.AddDays(said.Way == ContactWay.NoAnswer ? 1 : settings.Weights.IntervalDays)
                );
                await writer.TrailAsync(
                    $"Contact with {customer.Name} noted{(promise is null ? "" : ", with a promise")}{(dispute is null ? "" : ", with a dispute")}",
                    customerId
                );
                await writer.SaveAsync(stop);
                return note.Id;
            }
        );

    /// <summary>Takes a note back that was a mistake, with what came of it.</summary>
    /// <exception cref="RefusalException">When it is not there, or was taken back already.</exception>
    public Task<int> TakeBackAsync(int noteId, Once once = default) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var note =
                    await db.ContactNotes.SingleOrDefaultAsync(n => n.Id == noteId, stop)
                    ?? throw new RefusalException("", "This note is not there.");
                var customer = await FindAsync(note.CustomerId, stop);
                var today = await head.TodayAsync(stop);
                note.TakeBack();
                foreach (
                    var promise in await db
                        .Promises.Where(p => p.NoteId == noteId && p.EndedOn == null)
                        .ToListAsync(stop)
                )
                    promise.TakeBack(promise.Made);
                foreach (
                    var dispute in await db.Disputes.Where(d => d.NoteId == noteId && d.Until == null).ToListAsync(stop)
                )
                    dispute.End(dispute.From, DisputeOutcome.Mistake, "");
                if (!await db.ContactNotes.AnyAsync(n => n.CustomerId == note.CustomerId && n.Id > noteId, stop))
                    customer.AskAgain(null);
                await writer.TrailAsync($"Note of {note.Day} about {customer.Name} taken back on {today}", customer.Id);
                return noteId;
            }
        );

    /// <summary>Takes a promise back that holds no more.</summary>
    /// <exception cref="RefusalException">When it is not there, or was taken back already.</exception>
    public Task<int> EndPromiseAsync(int promiseId, Once once = default) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var promise =
                    await db.Promises.SingleOrDefaultAsync(p => p.Id == promiseId, stop)
                    ?? throw new RefusalException("", "This promise is not there.");
                promise.TakeBack(await head.TodayAsync(stop));
                await writer.TrailAsync(
                    $"Promise of {new Money(promise.Amount, promise.Currency)} {promise.Currency} for {promise.Until} taken back",
                    promise.CustomerId
                );
                return promiseId;
            }
        );

    /// <summary>Leaves a customer alone until a day, or no more.</summary>
    /// <exception cref="RefusalException">When the day has passed or is too far away.</exception>
    public Task<int> AskAgainAsync(int customerId, DateOnly? day, Once once = default) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var customer = await FindAsync(customerId, stop);
                var refusals = new Refusals();
                ContactNote.CheckAskAgain(refusals, day, await head.TodayAsync(stop));
                refusals.ThrowIfAny();
                customer.AskAgain(day);
                Phrase alone = $"{customer.Name} left alone until {day}";
                Phrase again = $"{customer.Name} may be asked again";
                await writer.TrailAsync(day is null ? again : alone, customerId);
                return customerId;
            }
        );

    /// <summary>Hands a customer to somebody else; null gives them back to whoever sells to them.</summary>
    /// <exception cref="RefusalException">When there is no such person.</exception>
    public Task<int> HandToAsync(int customerId, int? personId, Once once = default) =>
        writer.WriteAsync(
            Right.Collect,
            once,
            async stop =>
            {
                var customer = await FindAsync(customerId, stop);
                var name = personId is { } id
                    ? await db.Users.Where(u => u.Id == id).Select(u => u.FullName).SingleOrDefaultAsync(stop)
                        ?? throw new RefusalException("to", "There is nobody of that name here. Choose somebody else.")
                    : "whoever sells to them";
                customer.HandTo(personId);
                await writer.TrailAsync($"{customer.Name} handed to {name}, to collect from", customerId);
                return customerId;
            }
        );

    private async Task PromiseAsync(
        Customer customer,
        DateOnly today,
        ContactNote note,
        PromiseHeard heard,
        CancellationToken stop
    )
    {
        if (heard.InPlace)
            foreach (
                var earlier in await db
                    .Promises.Where(p => p.CustomerId == customer.Id && p.EndedOn == null && p.Until >= today)
                    .ToListAsync(stop)
            )
                earlier.TakeBack(today);
        // Seen with the dispute and without the promises that this one replaces.
        await writer.SaveAsync(stop);
        var owes = (await owed.OnAsync(today, customer.Id, stop))[0];
        var chosen = owes.Items.Where(i => heard.Items.Count == 0 || heard.Items.Contains(i.ItemId)).ToList();
        if (heard.Amount is not null && chosen.Select(i => i.Currency).Distinct().Count() > 1)
            throw new RefusalException(
                "amount",
                $"They owe in several currencies. Tick what the promised amount is for, all in one currency; or leave the amount empty for all that is late."
            );
        // A promise is in one currency: of what is owed in several it makes as many.
        var made = 0;
        foreach (var side in chosen.GroupBy(i => i.Currency).OrderBy(g => !g.Key.Equals(customer.Currency)))
            made += await PromiseAsync(customer, today, note, heard, owes, side.Key, [.. side], stop);
        if (heard.Items.Any(id => chosen.TrueForAll(i => i.ItemId != id)))
            throw new RefusalException("items", "Something that the promise is for is not open. Load the page again.");
        if (made == 0)
            throw new RefusalException(
                "until",
                chosen.Count == 0
                    ? $"{customer.Name} owes nothing, so there is nothing to promise."
                    : "All of it is promised, planned or in dispute already. Say that this takes the place of the earlier promise, or note only what they said."
            );
    }

    private async Task<int> PromiseAsync(
        Customer customer,
        DateOnly today,
        ContactNote note,
        PromiseHeard heard,
        CustomerOwes owes,
        Currency currency,
        List<OpenOnDay> items,
        CancellationToken stop
    )
    {
        var askable = items.Sum(i => owes.Askable(i.ItemId));
        var late = items.Where(i => i.Due < today).Sum(i => owes.Askable(i.ItemId));
        if (askable == 0)
            return 0;
        db.Promises.Add(
            new CustomerPromise(
                customer.Id,
                currency,
                new Promised(today, heard.Until, heard.Amount ?? (late > 0 ? late : askable)),
                [.. heard.Items.Where(id => items.Exists(i => i.ItemId == id))],
                askable,
                await LastAllocationAsync(stop),
                note
            )
        );
        return 1;
    }

    private async Task DisputeAsync(
        Customer customer,
        DateOnly today,
        ContactNote note,
        DisputeHeard heard,
        CancellationToken stop
    )
    {
        var owes = (await owed.OnAsync(today, customer.Id, stop))[0];
        var item =
            owes.Items.FirstOrDefault(i => i.ItemId == heard.ItemId)
            ?? throw new RefusalException("disputedItem", "Choose which open invoice they do not agree to.");
        if (heard.SeesToId is { } person && !await db.Users.AnyAsync(u => u.Id == person, stop))
            throw new RefusalException("seesTo", "There is nobody of that name here. Choose somebody else.");
        var free = item.Open - owes.Disputes.Where(d => d.ItemId == item.ItemId).Sum(d => d.Amount);
        db.Disputes.Add(
            new Dispute(
                customer.Id,
                item.ItemId,
                today,
                heard.Amount ?? free,
                new Money(Math.Max(0, free), item.Currency),
                heard.Reason,
                heard.SeesToId,
                note
            )
        );
    }

    internal async Task<int> LastAllocationAsync(CancellationToken stop) =>
        await db.Allocations.IgnoreQueryFilters().MaxAsync(a => (int?)a.Id, stop) ?? 0;

    private async Task<Customer> FindAsync(int id, CancellationToken stop) =>
        await db.Customers.SingleOrDefaultAsync(c => c.Id == id && c.MergedIntoId == null, stop)
        ?? throw new RefusalException("", "This customer is not there.");
}
