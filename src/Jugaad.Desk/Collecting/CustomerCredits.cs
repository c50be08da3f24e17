using Jugaad.Core.Accounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>A draft that passes the limit. Minor units.</summary>
public sealed record PassingDraft(int Id, string Title, long Payable, PassedLimit Passed);

/// <summary>A document that somebody let pass.</summary>
public sealed record PassRow(CreditPass Pass, string Title);

/// <summary>How much credit a customer uses, and what speaks for it and against. Minor units of their currency.</summary>
/// <param name="Paid">What they paid in twelve months.</param>
/// <param name="DaysToPay">From the day of the bill, weighted by amount; null where they paid nothing.</param>
/// <param name="DaysLate">Beyond the due day, weighted likewise.</param>
/// <param name="Kept">Promises of twelve months that were kept.</param>
/// <param name="Broken">Promises of twelve months that were not.</param>
/// <param name="LateNow">By so many days is the oldest late that can be asked for; 0 for none.</param>
/// <param name="Proposed">A limit that follows from what they paid; 0 where they paid nothing.</param>
/// <param name="Passing">Drafts that would pass the limit, where that stops them.</param>
public sealed record CustomerCredit(
    Customer Customer,
    CreditUse Use,
    long Paid,
    int? DaysToPay,
    int? DaysLate,
    int Kept,
    int Broken,
    int LateNow,
    long Proposed,
    CollectingSettings Settings,
    IReadOnlyList<PassingDraft> Passing,
    IReadOnlyList<PassRow> Passes
)
{
    public bool TooLate => Settings.NoMoreAfterDays > 0 && LateNow >= Settings.NoMoreAfterDays;

    public bool TooOftenBroken => Settings.NoMoreAfterBroken > 0 && Broken >= Settings.NoMoreAfterBroken;

    /// <summary>Whether nothing more on account is proposed.</summary>
    public bool NoMoreIsProposed => !Customer.NoMoreOnAccount && (TooLate || TooOftenBroken);
}

/// <summary>Reads how a customer's credit stands.</summary>
public sealed class CustomerCredits(
    BooksContext db,
    BooksHead head,
    CreditStanding standing,
    OwedBook owed,
    CollectingRules rules
)
{
    private const int MostPasses = 20;

    /// <returns>Null where there is no such customer.</returns>
    public async Task<CustomerCredit?> OfAsync(int customerId, CancellationToken stop = default)
    {
        if (await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == customerId, stop) is not { } customer)
            return null;
        var today = await head.TodayAsync(stop);
        var since = today.AddYears(-1);
        var rows = await db
            .Allocations.AsNoTracking()
            .Where(a =>
                a.Raising.CustomerId == customerId
                && a.Date > since
                && a.Date <= today
                && (a.Lowering.Kind == AccountItemKind.Receipt || a.Lowering.Kind == AccountItemKind.MovedIn)
                && (a.Raising.Kind == AccountItemKind.Invoice || a.Raising.Kind == AccountItemKind.DebitNote)
            )
            .Select(a => new
            {
                a.Amount,
                a.HomeRaising,
                a.Raising.Currency,
                a.Date,
                Billed = a.Raising.Date,
                a.Raising.Due,
            })
            .ToListAsync(stop);
        var into = await standing.IntoAsync(customer, stop);
        var paid = rows.ConvertAll(r =>
            (Amount: into.Of(r.Amount, r.Currency, r.HomeRaising), r.Date, r.Billed, r.Due)
        );
        var whole = paid.Sum(p => p.Amount);
        int? Weighted(Func<DateOnly, DateOnly, DateOnly, int> days) =>
            whole == 0
                ? null
                : (int)Math.Round(paid.Sum(p => (decimal)p.Amount * days(p.Date, p.Billed, p.Due)) / whole);
        var daysToPay = Weighted((on, billed, _) => Math.Max(0, on.DayNumber - billed.DayNumber));
        var owes = (await owed.OnAsync(today, customerId, stop))[0];
        var promises = owes.Promises.Where(p => p.Promise.Made > since && p.Promise.EndedOn is null).ToList();
        var late = owes.Items.Where(i => i.Due < today && owes.Askable(i.ItemId) > 0).Select(i => i.Due).ToList();
        return new CustomerCredit(
            customer,
            await standing.OfAsync(customerId, null, stop),
            whole,
            daysToPay,
            Weighted((on, billed, due) => (on > billed ? on : billed).DayNumber - due.DayNumber),
            promises.Count(p => p.Judged.State == PromiseState.Kept),
            promises.Count(p => p.Judged.IsBroken),
            late.Count == 0 ? 0 : today.DayNumber - late.Min().DayNumber,
            ProposedLimit.Of(whole, daysToPay ?? 0),
            await rules.ReadAsync(stop),
            await PassingAsync(customerId, stop),
            await PassesAsync(customerId, stop)
        );
    }

    private async Task<List<PassingDraft>> PassingAsync(int customerId, CancellationToken stop)
    {
        var drafts = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Where(d => d.CustomerId == customerId && d.State == DocumentState.Draft && d.Kind != DocumentKind.Quote)
            .OrderBy(d => d.Id)
            .ToListAsync(stop);
        var passing = new List<PassingDraft>();
        foreach (var draft in drafts)
            if (await standing.PassedByAsync(draft, draft.Id, stop) is { Stops: true } passed)
                passing.Add(new PassingDraft(draft.Id, $"Draft {draft.Policy.Word}", draft.Payable, passed));
        return passing;
    }

    private async Task<List<PassRow>> PassesAsync(int customerId, CancellationToken stop)
    {
        var rows = await (
            from pass in db.CreditPasses.AsNoTracking()
            join document in db.Documents on pass.DocumentId equals document.Id
            where document.CustomerId == customerId
            orderby pass.Id descending
            select new { pass, document }
        )
            .Take(MostPasses)
            .ToListAsync(stop);
        return rows.ConvertAll(r => new PassRow(r.pass, r.document.Title));
    }
}
