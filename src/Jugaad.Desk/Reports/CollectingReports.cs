using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>What a step of a ladder brought within seven days. Amounts are minor units of the home currency.</summary>
/// <param name="Taken">How often it was taken, seven days ago or earlier.</param>
public sealed record StepBrought(string Ladder, int Step, StepWay Way, int Taken, long Asked, long Came)
{
    /// <summary>In whole percent, rounded half away from zero.</summary>
    public int Percent => Asked == 0 ? 0 : (int)Rounding.Divide((Int128)Came * 100, Asked);
}

/// <summary>How promises went that were to be kept within the twelve months.</summary>
public sealed record PromisesWent(int Kept, int InPart, int Broken)
{
    public int All => Kept + InPart + Broken;
}

/// <summary>How collecting goes: twelve months as far as the books go back, the earliest first, and what steps and promises brought.</summary>
public sealed record CollectingGoes(
    Currency Home,
    IReadOnlyList<CollectingMonth> Months,
    IReadOnlyList<StepBrought> Steps,
    PromisesWent Promises
);

/// <summary>Tells how collecting goes.</summary>
public sealed class CollectingReports(BooksContext db, BooksHead head, OwedBook owed)
{
    private const int Months = 12;
    private const int DaysAfterStep = 7;

    public async Task<CollectingGoes> GoesAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var last = new DateOnly(today.Year, today.Month, 1);
        var first = last.AddMonths(1 - Months);
        return new CollectingGoes(
            home,
            await MonthsAsync(first, stop),
            await StepsAsync(first, today, stop),
            await PromisesAsync(first, today, stop)
        );
    }

    private async Task<IReadOnlyList<CollectingMonth>> MonthsAsync(DateOnly first, CancellationToken stop)
    {
        var receivables = db.LedgerAccounts.Where(a => a.Role == AccountRole.Receivables).Select(a => a.Id);
        var posted = await (
            from entry in db.Journal
            join line in db.Set<JournalLine>() on entry.Id equals line.EntryId
            where receivables.Contains(line.AccountId)
            group line.Debit - line.Credit by new { entry.Date.Year, entry.Date.Month } into month
            select new { month.Key, Sum = month.Sum() }
        ).ToListAsync(stop);
        if (await db.Journal.MinAsync(e => (DateOnly?)e.Date, stop) is not { } begun)
            return [];
        var since = first.AddMonths(-2);
        var billed = await db
            .AccountItems.Where(i =>
                i.Date >= since
                && (
                    i.Kind == AccountItemKind.Invoice
                    || i.Kind == AccountItemKind.DebitNote
                    || i.Kind == AccountItemKind.CreditNote
                )
            )
            .GroupBy(i => new { i.Date.Year, i.Date.Month })
            .Select(g => new { g.Key, Sum = g.Sum(i => i.Sign * i.HomeAmount) })
            .ToListAsync(stop);
        var paid = (
            await db
                .Allocations.AsNoTracking()
                .Where(a =>
                    a.Date >= first
                    && (a.Lowering.Kind == AccountItemKind.Receipt || a.Lowering.Kind == AccountItemKind.MovedIn)
                    && (a.Raising.Kind == AccountItemKind.Invoice || a.Raising.Kind == AccountItemKind.DebitNote)
                )
                .Select(a => new
                {
                    a.Raising.Due,
                    Came = a.Lowering.Date,
                    Billed = a.Raising.Date,
                    a.HomeRaising,
                })
                .ToListAsync(stop)
        ).ConvertAll(p => new PaidPart(p.Due, p.Came > p.Billed ? p.Came : p.Billed, p.HomeRaising));
        return
        [
            .. Enumerable
                .Range(0, Months)
                .Select(m => first.AddMonths(m))
                .Where(m => m.AddMonths(1) > begun)
                .Select(m =>
                    CollectingMonth.Of(
                        m,
                        posted.Where(p => new DateOnly(p.Key.Year, p.Key.Month, 1) <= m).Sum(p => p.Sum),
                        billed
                            .Where(b =>
                                new DateOnly(b.Key.Year, b.Key.Month, 1) is var at && at <= m && at > m.AddMonths(-3)
                            )
                            .Sum(b => b.Sum),
                        paid,
                        begun
                    )
                ),
        ];
    }

    private async Task<IReadOnlyList<StepBrought>> StepsAsync(DateOnly first, DateOnly today, CancellationToken stop)
    {
        var until = today.AddDays(-DaysAfterStep);
        var letters = await db
            .ChaseLetters.AsNoTracking()
            .Include(l => l.Items)
            .Where(l =>
                l.Day >= first
                && l.Day <= until
                && (l.PostItemId == null || db.Post.Any(p => p.Id == l.PostItemId && p.State != PostState.Withdrawn))
            )
            .ToListAsync(stop);
        var names = await db.Ladders.ToDictionaryAsync(l => l.Id, l => l.Name, stop);
        var ids = letters.SelectMany(l => l.Items.Select(i => i.ItemId)).Distinct().ToList();
        var rates = (
            await db
                .AccountItems.Where(i => ids.Contains(i.Id))
                .Select(i => new
                {
                    i.Id,
                    i.Amount,
                    i.HomeAmount,
                })
                .ToListAsync(stop)
        ).ToDictionary(i => i.Id);
        var came = (
            await db
                .Allocations.AsNoTracking()
                .Where(a =>
                    ids.Contains(a.RaisingId)
                    && (a.Lowering.Kind == AccountItemKind.Receipt || a.Lowering.Kind == AccountItemKind.MovedIn)
                )
                .Select(a => new
                {
                    a.RaisingId,
                    a.Date,
                    a.HomeRaising,
                })
                .ToListAsync(stop)
        ).ToLookup(a => a.RaisingId);
        return
        [
            .. letters
                .GroupBy(l => (l.LadderId, l.Step, l.Way))
                .OrderBy(g => names[g.Key.LadderId], StringComparer.OrdinalIgnoreCase)
                .ThenBy(g => g.Key.Step)
                .ThenBy(g => g.Key.Way)
                .Select(g => new StepBrought(
                    names[g.Key.LadderId],
                    g.Key.Step,
                    g.Key.Way,
                    g.Count(),
                    g.SelectMany(l => l.Items)
                        .Sum(i => Rounding.Share(rates[i.ItemId].HomeAmount, i.Asked, rates[i.ItemId].Amount)),
                    g.Sum(l =>
                        l.Items.Sum(i =>
                            came[i.ItemId]
                                .Where(c => c.Date > l.Day && c.Date <= l.Day.AddDays(DaysAfterStep))
                                .Sum(c => c.HomeRaising)
                        )
                    )
                )),
        ];
    }

    private async Task<PromisesWent> PromisesAsync(DateOnly first, DateOnly today, CancellationToken stop)
    {
        var customers = await db
            .Promises.Where(p => p.Until >= first && p.EndedOn == null)
            .Select(p => p.CustomerId)
            .Distinct()
            .ToListAsync(stop);
        var states = (await owed.OfAsync(today, customers, stop))
            .SelectMany(o => o.Promises)
            .Where(p => p.Promise.Until >= first && !p.Judged.Holds)
            .CountBy(p => p.Judged.State)
            .ToDictionary();
        return new PromisesWent(
            states.GetValueOrDefault(PromiseState.Kept),
            states.GetValueOrDefault(PromiseState.InPart),
            states.GetValueOrDefault(PromiseState.Broken)
        );
    }

    /// <summary>The months, for a file.</summary>
    public static Report File(CollectingGoes goes) =>
        new(
            "how-collecting-goes",
            "How collecting goes",
            "",
            [
                new("month", "Month"),
                new("owed", $"Owed at its end, {goes.Home.Code}", true),
                new("billed", $"Billed in three months, {goes.Home.Code}", true),
                new("daysOutstanding", "Days sales outstanding", true),
                new("paid", $"Paid, {goes.Home.Code}", true),
                new("daysLate", "Days late", true),
                new("percentOnTime", "Percent in time", true),
            ],
            [
                .. goes.Months.Select(m => new ReportRow([
                    m.First,
                    new Money(m.Owed, goes.Home),
                    new Money(m.Billed, goes.Home),
                    m.DaysOutstanding,
                    new Money(m.Paid, goes.Home),
                    m.DaysLate,
                    m.PercentOnTime,
                ])),
            ]
        );
}
