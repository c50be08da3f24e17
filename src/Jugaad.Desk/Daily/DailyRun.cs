using Jugaad.Core.Documents;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Paying;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;
using Jugaad.Desk.Standing;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Daily;

/// <summary>
/// What a new day brings. It may run any number of times on one day; only the first changes anything.
/// </summary>
public sealed class DailyRun(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    StandingRun standing,
    Disputes disputes,
    LadderRun ladder,
    StatementRun statements,
    CardMessages cards,
    KeptViews views,
    RatesDesk rates
)
{
    private static readonly SemaphoreSlim Turn = new(1, 1);

    /// <returns>How many things were done.</returns>
    public async Task<int> RunAsync(CancellationToken stop = default)
    {
        if (await head.FindBusinessAsync(stop) is null or { IsResting: true })
            return 0;
        var today = await head.TodayAsync(stop);
        // One run at a time: the second of two would only find what the first has done.
        await Turn.WaitAsync(stop);
        try
        {
            await rates.FetchDailyAsync(stop);
            var lapsed = await writer.WriteAsync(Right.Money, stop, () => LapseQuotesAsync(today, stop));
            var made = await standing.RunAsync(today, stop);
            await disputes.EndCreditedAsync(stop);
            var written = await ladder.RunDailyAsync(stop) + await statements.RunDailyAsync(stop);
            written += await cards.CatchUpAsync(stop) + await views.RunDailyAsync(stop);
            await Statistics.RefreshAsync(db, stop);
            return lapsed + made + written;
        }
        finally
        {
            Turn.Release();
        }
    }

    private async Task<int> LapseQuotesAsync(DateOnly today, CancellationToken stop)
    {
        var sent = await db
            .Documents.Where(d => d.Kind == DocumentKind.Quote && d.State == DocumentState.Sent && d.ValidUntil < today)
            .ToListAsync(stop);
        foreach (var quote in sent.Where(q => q.LapseAfter(today)))
            await writer.TrailAsync($"Quote {quote.Number} lapsed", quote.CustomerId, quote.Id);
        return sent.Count;
    }
}

/// <summary>The demo's calendar.</summary>
public sealed class Calendar(BookWriter writer, BooksHead head, DailyRun run, BankDays bank)
{
    /// <summary>Moves the pinned day forward and does what the new day brings.</summary>
    /// <exception cref="Core.RefusalException">When the books are not the demo's, or the step is not 1 to 400
    /// days.</exception>
    public async Task<DateOnly> ForwardAsync(int days, Once once = default)
    {
        await writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var business = await head.BusinessAsync(stop);
                if (business.PinnedDay is not { } day)
                    throw new Core.RefusalException("", "Only the demo's calendar can be moved.");
                if (days is < 1 or > 400)
                    throw new Core.RefusalException("days", "Move the calendar by 1 to 400 days.");
                business.PinDay(day.AddDays(days));
                return business.Id;
            }
        );
        await run.RunAsync(once.Stop);
        await bank.FetchAsync(once.Stop);
        return await head.TodayAsync(once.Stop);
    }
}
