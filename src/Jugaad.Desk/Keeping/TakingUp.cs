using Jugaad.Core;
using Jugaad.Core.Numbering;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Keeping;

/// <summary>A series, and what is to be known of it before resting books are used again.</summary>
/// <param name="Last">The last number that these books gave in the newest year; empty where they gave none.</param>
public sealed record SeriesToTake(int Id, string Name, string Last);

/// <summary>A standing invoice that fell due since the books come from.</summary>
public sealed record StandingToTake(int Id, string Name, int Count, DateOnly First);

/// <summary>What a person looks over before saying that resting books are the ones now.</summary>
public sealed record ToTakeUp(
    DateTime Since,
    string Because,
    IReadOnlyList<SeriesToTake> Series,
    IReadOnlyList<StandingToTake> Standing,
    int Post
);

/// <summary>Lets resting books be used again, such that nothing is numbered, billed or mailed twice.</summary>
public sealed class TakingUp(BooksContext db, BookWriter writer, BooksHead head, PostBell bell)
{
    /// <returns>Null where the books do not rest.</returns>
    public async Task<ToTakeUp?> FindAsync(CancellationToken stop = default)
    {
        if (await head.FindBusinessAsync(stop) is not { RestsSince: { } since } business)
            return null;
        var today = await head.TodayAsync(stop);
        var series = (
            await db.Series.AsNoTracking().Where(s => !s.Retired).OrderBy(s => s.Id).ToListAsync(stop)
        ).ConvertAll(s => new SeriesToTake(s.Id, s.Name, LastOf(s, today, business.YearBegins)));
        return new ToTakeUp(
            since,
            business.RestsBecause,
            series,
            await DueAsync(today, stop),
            await db.Post.CountAsync(
                p => (p.State == PostState.Waiting || p.State == PostState.OnItsWay) && p.Way != PostWay.Print,
                stop
            )
        );
    }

    /// <summary>From now on these are the books.</summary>
    /// <param name="last">The last number that was sent, by series; asked of each that has given any.</param>
    /// <param name="skipsStanding">Whether standing invoices that fell due meanwhile went out from the books that were
    /// lost; null where none did.</param>
    /// <exception cref="RefusalException">With all that is missing or cannot be.</exception>
    public Task<int> TakeUpAsync(IReadOnlyDictionary<int, string> last, bool? skipsStanding, Once once = default) =>
        writer.WriteAsync(
            Right.Keep,
            once,
            async stop =>
            {
                var business = await head.BusinessAsync(stop);
                if (!business.IsResting)
                    throw new RefusalException("", "These are the books already.");
                var today = await head.TodayAsync(stop);
                var refusals = new Refusals();
                var from = DateOnly.FromDateTime(business.RestsSince!.Value).AddYears(-1);
                foreach (var series in await db.Series.Where(s => !s.Retired).OrderBy(s => s.Id).ToListAsync(stop))
                {
                    var (field, typed, own) = (
                        $"last{series.Id}",
                        last.GetValueOrDefault(series.Id, "").Trim(),
                        LastOf(series, today, business.YearBegins)
                    );
                    if (typed.Length > 0)
                        await StepOverAsync(refusals, field, series, typed, from, today, business.YearBegins);
                    else if (own.Length > 0)
                        refusals.Add(
                            field,
                            $"{series.Name}: give the last number that was sent; {own}, if nothing was sent after it."
                        );
                }

                var due = await DueAsync(today, stop);
                if (due.Count > 0 && skipsStanding is null)
                    refusals.Add("standing", "Say what becomes of the standing invoices that fell due meanwhile.");
                refusals.ThrowIfAny();
                if (skipsStanding == true)
                    await SkipAsync(due, today, stop);
                foreach (
                    var item in await db
                        .Post.Include(p => p.History)
                        .Where(p =>
                            (p.State == PostState.Waiting || p.State == PostState.OnItsWay) && p.Way != PostWay.Print
                        )
                        .ToListAsync(stop)
                )
                    item.Lose($"It waited in {business.RestsBecause}; it may have gone since.");
                await writer.TrailAsync($"{RestingProof.TakenUp}; they come from {business.RestsBecause}");
                business.EndRest();
                writer.AfterCommit(bell.Ring);
                return business.Id;
            }
        );

    private static string LastOf(Series series, DateOnly today, int yearBegins)
    {
        var newest = series.Counters.Where(c => !c.IsFresh).MaxBy(c => c.Year);
        if (newest is null)
            return "";
        var day =
            newest.Year == 0 || newest.Year == series.YearOf(today, yearBegins)
                ? today
                : new DateOnly(newest.Year, 12, 1);
        return series.Write(day, newest.Next - 1, yearBegins);
    }

    private async Task StepOverAsync(
        Refusals refusals,
        string field,
        Series series,
        string typed,
        DateOnly from,
        DateOnly today,
        int yearBegins
    )
    {
        try
        {
            if (
                series.GoOnAfter(
                    typed,
                    from,
                    today,
                    "Given in books that were lost after their last backup",
                    yearBegins
                )
                is not { } gap
            )
                return;
            db.NumberGaps.Add(gap);
            await writer.TrailAsync(
                $"{series.Name}: {gap.To - gap.From + 1} numbers up to {typed} were given elsewhere ({gap.Words})"
            );
        }
        catch (RefusalException refused)
        {
            refusals.AddRange(refused.Refusals.Select(r => r with { Field = field }));
        }
    }

    private async Task<IReadOnlyList<StandingToTake>> DueAsync(DateOnly today, CancellationToken stop) =>
        [
            .. (await db.StandingInvoices.AsNoTracking().Where(s => !s.Paused).OrderBy(s => s.Name).ToListAsync(stop))
                .Select(s => (Standing: s, Due: s.DueBy(today)))
                .Where(s => s.Due.Count > 0)
                .Select(s => new StandingToTake(s.Standing.Id, s.Standing.Name, s.Due.Count, s.Due[0].Day)),
        ];

    private async Task SkipAsync(IReadOnlyList<StandingToTake> due, DateOnly today, CancellationToken stop)
    {
        foreach (var one in due)
        {
            var standing = await db.StandingInvoices.Include(s => s.Occurrences).SingleAsync(s => s.Id == one.Id, stop);
            for (var i = 0; i < one.Count && standing.DueBy(today).Count > 0; i++)
                await writer.TrailAsync(
                    $"Standing invoice {standing.Name}: {standing.Occur(null).Day:yyyy-MM-dd} went out from the books that were lost",
                    standing.CustomerId
                );
        }
    }
}
