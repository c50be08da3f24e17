using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>What is to be charged because an item is late; minor units of its currency.</summary>
public sealed record ChargeDue(AskedItem Item, LateChargeKind Kind, long Amount, int DaysLate)
{
    /// <summary>What interest is reckoned from; nothing for other charges.</summary>
    public IReadOnlyList<InterestStretch> Basis { get; init; } = [];

    /// <summary>What of that was charged before.</summary>
    public long Before { get; init; }
}

/// <summary>
/// Interest, a fixed compensation and the fee of a letter: reckoned up to a day less what was charged before, and put
/// on a debit note.
/// </summary>
public sealed class LateCharges(
    BooksContext db,
    BooksHead head,
    CollectingRules rules,
    MastersLoader masters,
    Drafts drafts,
    IssuingDesk issuing
)
{
    private const string Reason = "Interest and costs of late payment";

    /// <summary>What a step charges on a day; nothing where it charges nothing.</summary>
    /// <param name="asked">What its letter asks for.</param>
    public async Task<IReadOnlyList<ChargeDue>> DueAsync(
        LetterStep step,
        IReadOnlyList<AskedItem> asked,
        DateOnly day,
        CancellationToken stop = default
    )
    {
        if (step is { Fee: 0, WithInterest: false })
            return [];
        var ids = asked.Where(a => a.Due < day).Select(a => a.ItemId).ToList();
        // Nothing is charged on what is itself such a charge.
        var notes = await db
            .AccountItems.Where(i => ids.Contains(i.Id) && db.LateCharges.Any(c => c.NoteId == i.DocumentId))
            .Select(i => i.Id)
            .ToListAsync(stop);
        var late = asked.Where(a => a.Due < day && !notes.Contains(a.ItemId)).ToList();
        // To whoever is inactive nothing is issued; they are written to all the same.
        if (
            late.Count == 0
            || await db.AccountItems.AnyAsync(
                i => i.Id == late[0].ItemId && db.Customers.Any(c => c.Id == i.CustomerId && c.Inactive),
                stop
            )
        )
            return [];
        var settings = await rules.ReadAsync(stop);
        var before = (
            await db
                .LateCharges.Where(c =>
                    ids.Contains(c.ItemId)
                    && db.Documents.Any(d => d.Id == c.NoteId && d.State != DocumentState.Cancelled)
                )
                .ToListAsync(stop)
        ).ToLookup(c => (c.ItemId, c.Kind), c => c.Amount);
        var due = new List<ChargeDue>();
        var byCurrency = new Dictionary<Currency, QuotedRate>();
        foreach (var currency in late.Select(a => a.Currency).Distinct())
            byCurrency[currency] = await masters.RateAsync(currency, day, stop);
        if (step.WithInterest)
        {
            var rates = await RatesAsync(stop);
            foreach (var item in late)
            {
                var basis = LateInterest.Stretches(
                    day,
                    item.Due,
                    await OpenOverTimeAsync(item.ItemId, stop),
                    rates,
                    []
                );
                var charged = before[(item.ItemId, LateChargeKind.Interest)].Sum();
                Add(item, LateChargeKind.Interest, LateInterest.Of(basis) - charged, basis, charged);
                if (!before[(item.ItemId, LateChargeKind.Compensation)].Any())
                    Add(
                        item,
                        LateChargeKind.Compensation,
                        await InTheirsAsync(settings.Compensation, item, byCurrency[item.Currency], stop)
                    );
            }
        }

        Add(late[0], LateChargeKind.Fee, await InTheirsAsync(step.Fee, late[0], byCurrency[late[0].Currency], stop));
        return due;

        void Add(
            AskedItem item,
            LateChargeKind kind,
            long amount,
            IReadOnlyList<InterestStretch>? basis = null,
            long charged = 0
        )
        {
            if (amount > 0)
                due.Add(
                    new ChargeDue(item, kind, amount, day.DayNumber - item.Due.DayNumber)
                    {
                        Basis = basis ?? [],
                        Before = charged,
                    }
                );
        }
    }

    /// <summary>An amount of home currency in that of an item, rounded half away from zero.</summary>
    private async Task<long> InTheirsAsync(long home, AskedItem item, QuotedRate rate, CancellationToken stop)
    {
        var own = (await head.BusinessAsync(stop)).HomeCurrency;
        return item.Currency.Equals(own) ? home : HomeAmount.Back(home, own, rate, item.Currency);
    }

    /// <summary>The rates by their days, the earliest first.</summary>
    public async Task<IReadOnlyList<InterestRate>> RatesAsync(CancellationToken stop = default) =>
        [
            .. (await db.LateRates.AsNoTracking().OrderBy(r => r.From).ToListAsync(stop)).Select(r => new InterestRate(
                r.From,
                r.Percent
            )),
        ];

    /// <summary>
    /// What was open of an item, and not in dispute, at the end of each day on which that changed; minor units.
    /// </summary>
    private async Task<IReadOnlyList<OpenFrom>> OpenOverTimeAsync(int itemId, CancellationToken stop)
    {
        var item = await db.AccountItems.AsNoTracking().SingleAsync(i => i.Id == itemId, stop);
        var set = await db
            .Allocations.IgnoreQueryFilters()
            .AsNoTracking()
            .Where(a => a.RaisingId == itemId)
            .Select(a => new
            {
                a.Date,
                a.Until,
                a.Amount,
            })
            .ToListAsync(stop);
        var disputes = await db.Disputes.AsNoTracking().Where(d => d.ItemId == itemId).ToListAsync(stop);
        var days = set.SelectMany(a => new[] { a.Date, a.Until ?? a.Date })
            .Concat(disputes.Select(d => d.From))
            .Concat(disputes.Where(d => d.Until is not null).Select(d => d.Until!.Value))
            .Append(item.Date)
            .Distinct()
            .Order();
        return
        [
            .. days.Select(day =>
            {
                var placed = set.Where(a => a.Date <= day && (a.Until is null || day < a.Until)).Sum(a => a.Amount);
                var disputed = disputes
                    .Where(d => d.From <= day && (d.Until is null || day < d.Until))
                    .Sum(d => d.Amount);
                return new OpenFrom(day, Math.Max(0, item.Amount - placed - disputed));
            }),
        ];
    }

    /// <summary>Issues the debit note of what is charged.</summary>
    /// <returns>The note's id.</returns>
    internal async Task<int> ChargeAsync(
        int customerId,
        IReadOnlyList<ChargeDue> due,
        DateOnly day,
        CancellationToken stop
    )
    {
        var settings = await rules.ReadAsync(stop);
        if (settings.ChargeTaxCodeId is not { } code || settings.ChargeAccountId is not { } account)
            throw new RefusalException(
                "",
                "Say under Setup, collecting, how interest and costs of late payment are taxed, and to which account they go."
            );
        var content = new DraftContent
        {
            CustomerId = customerId,
            Currency = due[0].Item.Currency.Code,
            Date = day,
            DueDate = day.AddDays(settings.DaysBetween),
            // Nobody gets a discount for paying early what they owe for paying late.
            TermsId = await db
                .Terms.Where(t => t.EarlyPercent == 0)
                .OrderBy(t => t.Id)
                .Select(t => (int?)t.Id)
                .FirstOrDefaultAsync(stop),
            Particulars = Particulars.None with { Reason = Reason },
            Lines =
            [
                .. due.Select(d => new DraftLine(
                    null,
                    Words(d),
                    1,
                    "C62",
                    new Money(d.Amount, d.Item.Currency).Units,
                    null,
                    null,
                    code,
                    account
                )),
            ],
        };
        var note = await drafts.MakeAsync(
            DocumentKind.DebitNote,
            content,
            null,
            $"Draft debit note made for what is late",
            stop
        );
        await issuing.IssueOurOwnAsync(note, stop);
        db.LateCharges.AddRange(
            due.Select(d =>
                new LateCharge(note.Id, d.Item.ItemId, d.Kind, d.Amount, day).ReckonedFrom(d.Basis, d.Before)
            )
        );
        return note.Id;
    }

    private static string Words(ChargeDue due) =>
        due.Kind switch
        {
            LateChargeKind.Interest => $"Interest on {due.Item.Number}, {MailComposing.Days(due.DaysLate)} late",
            LateChargeKind.Compensation => $"Compensation for late payment of {due.Item.Number}",
            _ => "Fee of the reminder",
        };
}
