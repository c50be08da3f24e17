using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Making;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>A point to look at before a period is closed.</summary>
/// <param name="Key">By which it is remembered.</param>
/// <param name="Left">What of it is left to do; 0 for nothing, null where only a person can tell.</param>
/// <param name="Address">Where it is done.</param>
/// <param name="Tick">Who found it done, and when; null for nobody.</param>
public sealed record ClosingPoint(string Key, string Words, int? Left, string Address, ClosingTick? Tick)
{
    public bool IsDone => Tick is not null || Left == 0;
}

/// <summary>What to look at before the books are closed up to a day.</summary>
/// <param name="IsYear">Whether a financial year ends with it.</param>
/// <param name="IsClosed">Whether they are closed up to it already.</param>
public sealed record ClosingList(DateOnly UpTo, bool IsYear, bool IsClosed, IReadOnlyList<ClosingPoint> Points)
{
    public int Open => Points.Count(p => !p.IsDone);
}

/// <summary>Month's end and year's end as a list that is ticked off and remembered, with closing at its foot.</summary>
public sealed class ClosingDesk(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Deliveries deliveries,
    ReturnFiling filing,
    Periods periods
)
{
    /// <summary>The last day of the month that comes to be closed next: the one after what is closed, or the last.</summary>
    public async Task<DateOnly> NextAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var ended = new DateOnly(today.Year, today.Month, 1).AddDays(-1);
        if ((await head.BusinessAsync(stop)).ClosedUpTo is not { } closed)
            return ended;
        var next = closed.AddDays(1);
        var end = new DateOnly(next.Year, next.Month, 1).AddMonths(1).AddDays(-1);
        return end > ended ? ended : end;
    }

    public async Task<ClosingList> ListAsync(DateOnly upTo, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var isYear = business.YearOf(upTo.AddDays(1)) == upTo.AddDays(1);
        var ticks = await db
            .ClosingTicks.AsNoTracking()
            .Where(t => t.UpTo == upTo)
            .ToDictionaryAsync(t => t.Point, stop);
        ClosingPoint Point(string key, string words, int? left, string address) =>
            new(key, words, left, address, ticks.GetValueOrDefault(key));
        var drafts = await db.Documents.CountAsync(
            d =>
                d.State == DocumentState.Draft
                && (
                    d.Kind == DocumentKind.Invoice
                    || d.Kind == DocumentKind.CreditNote
                    || d.Kind == DocumentKind.DebitNote
                )
                && d.Date <= upTo,
            stop
        );
        var due = (await filing.DueAsync(stop)).Count(d => d.To <= upTo);
        var points = new List<ClosingPoint>
        {
            Point(
                "bank",
                "The bank is matched: every line up to that day has its place",
                await db.BankLines.CountAsync(l => l.Date <= upTo && l.Amount != l.Placed, stop),
                "/bank"
            ),
            Point(
                "statement",
                "The last balance of each bank statement is that of its account",
                null,
                "/reports/trial-balance"
            ),
            Point(
                "drafts",
                "No draft of an invoice or credit note is dated up to that day",
                drafts,
                "/sell?show=drafts"
            ),
            Point(
                "deliveries",
                "What was delivered is billed",
                (await deliveries.ToBillAsync(new DeliveryFilter(null, null, upTo), stop)).Count,
                "/reports/delivered-not-billed"
            ),
            Point(
                "unallocated",
                "Money and credits are set against what they pay",
                await db.AccountItems.CountAsync(i => i.Sign < 0 && i.Open > 0 && i.Date <= upTo, stop),
                "/reports/open-items"
            ),
            Point(
                "valuation",
                "Other currencies are valued, where the business wants that",
                null,
                "/reports/valuations"
            ),
            Point("return", "Tax returns of what ended by then are filed", due, "/reports/returns"),
            Point("cash", "The cash box was counted", null, "/reports/takings"),
        };
        if (isYear)
            points.AddRange([
                Point("stock", "What is in store was counted", null, "/reports/stock"),
                Point(
                    "doubtful",
                    "Old debts were looked at, and given up where nothing will come",
                    null,
                    "/reports/aged"
                ),
                Point("balances", "Each account of the trial balance was looked at", null, "/reports/trial-balance"),
                Point("handover", "The accountant has the year's books", null, "/reports/handover"),
                Point("backup", "A backup lies in another place", null, "/setup/backups"),
            ]);
        return new ClosingList(upTo, isYear, business.ClosedUpTo >= upTo, points);
    }

    /// <summary>Remembers that a point was looked at and found done, or that it was not.</summary>
    public Task<int> TickAsync(DateOnly upTo, string point, bool done, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var list = await ListAsync(upTo, stop);
                var about =
                    list.Points.FirstOrDefault(p => p.Key == point)
                    ?? throw new RefusalException("", "There is no such point. Load the page again.");
                var tick = await db.ClosingTicks.SingleOrDefaultAsync(t => t.UpTo == upTo && t.Point == point, stop);
                if (done && tick is null)
                    db.ClosingTicks.Add(new ClosingTick(upTo, point, writer.Who, await head.TodayAsync(stop)));
                else if (!done && tick is not null)
                    db.ClosingTicks.Remove(tick);
                await writer.TrailAsync(
                    $"Before closing up to {upTo:yyyy-MM-dd}: {about.Words}{(done ? "" : ", not done after all")}"
                );
                return 1;
            }
        );

    /// <summary>Closes the books up to the day, once every point is done or ticked.</summary>
    /// <exception cref="RefusalException">When a point is left, with which.</exception>
    public async Task CloseAsync(DateOnly upTo, Once once = default)
    {
        var list = await ListAsync(upTo, once.Stop);
        if (list.Points.FirstOrDefault(p => !p.IsDone) is { } left)
            throw new RefusalException("", $"Not yet: {left.Words}. Do it, or tick it off if it does not matter.");
        await periods.CloseUpToAsync(upTo, once);
    }
}
