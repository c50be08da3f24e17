using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>Promises, disputes and plans are about what their customer owes, and could have been made so.</summary>
internal sealed class CollectingProof(BooksContext db) : IProof
{
    /// <summary>What is known of an item that something was said about.</summary>
    private sealed record About(int CustomerId, DateOnly Date, Currency Currency, long Amount, int Sign);

    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var promises = await db.Promises.Include(p => p.Items).Include(p => p.Note).ToListAsync(stop);
        var disputes = await db.Disputes.Include(d => d.Note).ToListAsync(stop);
        var plans = await db.Plans.Include(p => p.Items).Include(p => p.Parts).ToListAsync(stop);
        var ids = promises
            .SelectMany(p => p.Items.Select(i => i.ItemId))
            .Concat(disputes.Select(d => d.ItemId))
            .Concat(plans.SelectMany(p => p.Items.Select(i => i.ItemId)))
            .Distinct()
            .ToList();
        var items = (
            await db
                .AccountItems.Where(i => ids.Contains(i.Id))
                .Select(i => new
                {
                    i.Id,
                    i.CustomerId,
                    i.Date,
                    i.Currency,
                    i.Amount,
                    i.Sign,
                    TakenOver = i.DocumentId == null && i.ReceiptId == null && i.BookingId == null,
                })
                .ToListAsync(stop)
        ).ToDictionary(
            i => i.Id,
            // What other books said of it may have been put right after something was said about it here.
            i => new About(
                i.CustomerId,
                i.TakenOver ? DateOnly.MinValue : i.Date,
                i.Currency,
                i.TakenOver ? Limits.AmountMinor : i.Amount,
                i.Sign
            )
        );
        foreach (var promise in promises)
            Prove(findings, promise, [.. promise.Items.Select(i => items[i.ItemId])]);
        foreach (var dispute in disputes)
            Prove(findings, dispute, items[dispute.ItemId]);
        foreach (var plan in plans)
            Prove(findings, plan, [.. plan.Items.Select(i => items[i.ItemId])]);
        await NotesAsync(findings, stop);
        await PassesAsync(findings, stop);
        await ChargesAsync(findings, stop);
        await LettersAsync(findings, stop);
        findings.Count("promises", promises.Count);
        findings.Count("disputes", disputes.Count);
        findings.Count("plans", plans.Count);
    }

    /// <summary>What was charged for late payment is what its debit note says, of what its customer owes.</summary>
    private async Task ChargesAsync(Findings findings, CancellationToken stop)
    {
        var charges = await (
            from charge in db.LateCharges
            join note in db.Documents on charge.NoteId equals note.Id
            join item in db.AccountItems on charge.ItemId equals item.Id
            select new
            {
                charge,
                note.Kind,
                note.Date,
                Stands = note.State != DocumentState.Cancelled,
                Owner = note.CustomerId,
                InOne = note.Currency == item.Currency,
                item.CustomerId,
                item.Due,
                Whole = item.Amount,
            }
        ).ToListAsync(stop);
        foreach (var c in charges)
            findings.Unless(
                c.charge.Amount > 0
                    && c.charge.Before >= 0
                    && (c.charge.Kind == LateChargeKind.Interest || c.charge is { Basis.Count: 0, Before: 0 })
                    && Enum.IsDefined(c.charge.Kind)
                    && c.Kind == DocumentKind.DebitNote
                    && c.Owner == c.CustomerId
                    && c.InOne
                    && c.charge.UpTo == c.Date
                    && c.charge.UpTo > c.Due,
                $"Charge {c.charge.Id} for late payment: is not what its debit note is for"
            );
        foreach (var c in charges.Where(c => c.charge.Basis.Count > 0))
        {
            var earlier = charges
                .Where(e =>
                    e.charge.ItemId == c.charge.ItemId
                    && e.charge.Kind == LateChargeKind.Interest
                    && e.charge.Id < c.charge.Id
                )
                .ToList();
            // A note that was cancelled may have stood then.
            var stood = earlier.Where(e => e.Stands).Sum(e => e.charge.Amount);
            findings.Unless(
                c.charge.Basis[0].From > c.Due
                    && c.charge.Basis.All(s => s.Amount <= c.Whole)
                    && LateInterest.Covers(c.charge.Basis, c.charge.Basis[0].From.AddDays(-1), c.charge.UpTo)
                    && LateInterest.Of(c.charge.Basis) - c.charge.Before == c.charge.Amount
                    && c.charge.Before >= stood
                    && c.charge.Before <= earlier.Sum(e => e.charge.Amount),
                $"Charge {c.charge.Id} for late payment: is not the interest of what it was reckoned from"
            );
        }

        var notes = charges.Select(c => c.charge.NoteId).Distinct().ToList();
        var lines = (
            await db.Set<DocumentLine>()
                .Where(l => notes.Contains(l.DocumentId))
                .Select(l => new { l.DocumentId, l.Base })
                .ToListAsync(stop)
        ).ToLookup(l => l.DocumentId, l => l.Base);
        foreach (var note in charges.GroupBy(c => c.charge.NoteId))
            findings.Unless(
                note.Sum(c => c.charge.Amount) == lines[note.Key].Sum(),
                $"Debit note {note.Key}: its charges for late payment do not come to it"
            );
        findings.Unless(
            charges
                .Where(c => c.charge.Kind == LateChargeKind.Compensation && c.Stands)
                .GroupBy(c => c.charge.ItemId)
                .All(g => g.Count() == 1),
            "Charges for late payment: a compensation was charged twice for one bill"
        );
    }

    /// <summary>Whoever let a document pass a limit said why, of a document that can pass one.</summary>
    private async Task PassesAsync(Findings findings, CancellationToken stop)
    {
        var passes = await (
            from pass in db.CreditPasses
            join document in db.Documents on pass.DocumentId equals document.Id
            select new { pass, document.Kind }
        ).ToListAsync(stop);
        foreach (var (pass, kind) in passes.Select(p => (p.pass, p.Kind)))
            findings.Unless(
                pass.UpTo > 0
                    && pass.Reason.Length > 0
                    && pass.By.Length > 0
                    && kind is DocumentKind.Order or DocumentKind.DeliveryNote or DocumentKind.Invoice,
                $"Credit pass {pass.Id}: nobody, or nothing, or no reason is named"
            );
    }

    private static void Prove(Findings findings, CustomerPromise promise, List<About> items)
    {
        var what = $"Promise {promise.Id} of {promise.Made:yyyy-MM-dd}";
        findings.Unless(promise.Amount > 0, $"{what}: promises nothing");
        findings.Unless(promise.Until >= promise.Made, $"{what}: is for a day before it was made");
        findings.Unless(
            promise.EndedOn is null || promise.EndedOn >= promise.Made,
            $"{what}: ended before it was made"
        );
        findings.Unless(
            promise.Note is null || (promise.Note.CustomerId == promise.CustomerId && promise.Note.Day == promise.Made),
            $"{what}: was noted with another customer, or on another day"
        );
        findings.Unless(
            promise.Note is not { TakenBack: true } || promise.EndedOn is not null,
            $"{what}: holds although its note was taken back"
        );
        findings.Unless(
            items.Count == 0 || promise.Amount <= items.Sum(i => i.Amount),
            $"{what}: promises more than what it is for ever came to"
        );
        Prove(findings, what, items, promise.CustomerId, promise.Currency, promise.Made, promise.After);
    }

    private static void Prove(Findings findings, Dispute dispute, About item)
    {
        var what = $"Dispute {dispute.Id} of {dispute.From:yyyy-MM-dd}";
        findings.Unless(
            dispute.Amount > 0 && dispute.Amount <= item.Amount,
            $"{what}: is about more than the invoice, or about nothing"
        );
        findings.Unless(dispute.Until is null || dispute.Until >= dispute.From, $"{what}: ended before it began");
        findings.Unless(
            dispute.Until is null == (dispute.Outcome == DisputeOutcome.Open),
            $"{what}: has ended and not said how, or the other way round"
        );
        findings.Unless(
            dispute.Note is null || (dispute.Note.CustomerId == dispute.CustomerId && dispute.Note.Day == dispute.From),
            $"{what}: was noted with another customer, or on another day"
        );
        Prove(findings, what, [item], dispute.CustomerId, item.Currency, dispute.From, 0);
    }

    private static void Prove(Findings findings, AgreedPlan plan, List<About> items)
    {
        var what = $"Plan {plan.Id} of {plan.Made:yyyy-MM-dd}";
        var parts = plan.Parts.OrderBy(p => p.Position).ToList();
        findings.Unless(
            parts.Select(p => p.Position).SequenceEqual(Enumerable.Range(1, parts.Count)) && parts.Count > 0,
            $"{what}: a part is missing, or there twice"
        );
        findings.Unless(
            parts.Sum(p => p.Amount) == plan.Amount,
            $"{what}: its parts come to {Findings.Text(parts.Sum(p => p.Amount), plan.Currency)}, not to {Findings.Text(plan.Amount, plan.Currency)}"
        );
        findings.Unless(
            parts.TrueForAll(p => p.Amount > 0 && p.Day >= plan.Made)
                && parts.Zip(parts.Skip(1)).All(p => p.First.Day < p.Second.Day),
            $"{what}: its parts are out of order"
        );
        findings.Unless(plan.EndedOn is null || plan.EndedOn >= plan.Made, $"{what}: ended before it was made");
        findings.Unless(
            items.Count > 0 && plan.Amount <= items.Sum(i => i.Amount),
            $"{what}: divides more than what it is for ever came to"
        );
        Prove(findings, what, items, plan.CustomerId, plan.Currency, plan.Made, plan.After);
    }

    private static void Prove(
        Findings findings,
        string what,
        List<About> items,
        int customerId,
        Currency currency,
        DateOnly day,
        int after
    )
    {
        findings.Unless(
            items.TrueForAll(i => i.CustomerId == customerId),
            $"{what}: is about something of another customer"
        );
        findings.Unless(
            items.TrueForAll(i => i.Sign > 0 && i.Currency.Equals(currency)),
            $"{what}: is about what is not owed, or is owed in another currency"
        );
        findings.Unless(items.TrueForAll(i => i.Date <= day), $"{what}: is about something that came later");
        findings.Unless(after >= 0, $"{what}: does not say what came before it");
    }

    private async Task NotesAsync(Findings findings, CancellationToken stop)
    {
        var wrong = await db
            .ContactNotes.Where(n => n.AskAgainOn != null && n.AskAgainOn <= n.Day)
            .Select(n => n.Id)
            .ToListAsync(stop);
        findings.AddRange(wrong.Select(id => $"Contact note {id}: wants to ask again before it was written"));
        var nobody = await db
            .Customers.Where(c => c.CollectorId != null && !db.Users.Any(u => u.Id == c.CollectorId))
            .Select(c => c.Name)
            .ToListAsync(stop);
        findings.AddRange(nobody.Select(n => $"{n}: is looked after by somebody who is not there"));
        findings.Count("contacts", await db.ContactNotes.LongCountAsync(stop));
    }

    /// <summary>Nobody got two letters on a day, and nothing had a step twice.</summary>
    private async Task LettersAsync(Findings findings, CancellationToken stop)
    {
        var letters = await db.ChaseLetters.Include(l => l.Items).ToListAsync(stop);
        var posts = await db
            .Post.Where(p => db.ChaseLetters.Any(l => l.PostItemId == p.Id))
            .Select(p => new
            {
                p.Id,
                p.CustomerId,
                p.State,
            })
            .ToDictionaryAsync(p => p.Id, stop);
        var names = await db
            .Customers.Select(c => new { c.Id, c.Name })
            .ToDictionaryAsync(c => c.Id, c => c.Name, stop);
        var ids = letters.SelectMany(l => l.Items.Select(i => i.ItemId)).Distinct().ToList();
        var items = await db
            .AccountItems.Where(i => ids.Contains(i.Id))
            .Select(i => new
            {
                i.Id,
                i.CustomerId,
                Amount = i.DocumentId == null && i.ReceiptId == null && i.BookingId == null
                    ? Limits.AmountMinor
                    : i.Amount,
                i.Number,
            })
            .ToDictionaryAsync(i => i.Id, stop);
        var counting = letters
            .Where(l => l.PostItemId is not { } post || posts[post].State != PostState.Withdrawn)
            .ToList();
        findings.AddRange(
            counting
                .Where(l => l.Way != StepWay.Call)
                .GroupBy(l => (l.CustomerId, l.Day))
                // Two customers that became one may each have had theirs; about the same things nobody has two.
                .Where(g => g.SelectMany(l => l.Items).GroupBy(i => i.ItemId).Any(i => i.Count() > 1))
                .Select(g => $"{names[g.Key.CustomerId]}: got {g.Count()} letters on {g.Key.Day:yyyy-MM-dd}")
        );
        findings.AddRange(
            counting
                .SelectMany(l => l.Items)
                .Where(i => i.Step > 0)
                .GroupBy(i => (i.ItemId, i.Step))
                .Where(g => g.Count() > 1)
                .Select(g => $"{items[g.Key.ItemId].Number}: had step {g.Key.Step} {g.Count()} times")
        );
        foreach (var letter in letters)
        {
            var what = $"Letter {letter.Id} of {letter.Day:yyyy-MM-dd}";
            findings.Unless(
                letter.Items.All(i => items[i.ItemId].CustomerId == letter.CustomerId)
                    && (letter.PostItemId is not { } post || posts[post].CustomerId == letter.CustomerId),
                $"{what}: is about something of another customer, or went to one"
            );
            findings.Unless(
                letter.Items.Count > 0 && letter.Items.All(i => i.Asked > 0 && i.Asked <= items[i.ItemId].Amount),
                $"{what}: asks for nothing, or for more than there ever was"
            );
            findings.Unless(
                letter.Items.All(i => i.Step >= 0 && i.Step <= letter.Step) && letter.Items.Any(i => i.Step > 0),
                $"{what}: nothing in it has reached its step"
            );
            findings.Unless(
                letter.PostItemId is null == (letter.Way == StepWay.Call),
                $"{what}: is a letter that did not go into the post, or a call that did"
            );
        }

        findings.AddRange(
            await (
                from left in db.LeftOut
                join item in db.AccountItems on left.ItemId equals item.Id
                where item.CustomerId != left.CustomerId
                select $"{item.Number}: is left out of letters to another customer"
            ).ToListAsync(stop)
        );
        findings.Count("letters by steps", letters.Count);
    }
}
