using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Standing;

/// <summary>How far a run of standing invoices is, for whoever wants to see.</summary>
public sealed class StandingProgress
{
    public int Total { get; private set; }

    public int Done { get; private set; }

    public bool Running { get; private set; }

    internal void Begin(int total) => (Total, Done, Running) = (total, 0, true);

    internal void Step() => Done++;

    internal void End() => Running = false;
}

/// <summary>
/// Makes the occurrences that have come, each once and each with its own date, also after the machine was off for a
/// month. An occurrence, its document and its issue are one transaction: whenever the program stops, all of it is there
/// or none.
/// </summary>
public sealed class StandingRun(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Drafts drafts,
    Pricing pricing,
    IssuingDesk issuing,
    Sending sending,
    StandingProgress progress
)
{
    /// <returns>How many documents were made.</returns>
    public async Task<int> RunAsync(DateOnly today, CancellationToken stop = default)
    {
        var open = await db.StandingInvoices.AsNoTracking().Where(s => !s.Paused).OrderBy(s => s.Id).ToListAsync(stop);
        var due = open.Select(s => (s.Id, Count: s.DueBy(today).Count)).Where(s => s.Count > 0).ToList();
        if (due.Count == 0)
            return 0;
        progress.Begin(due.Sum(d => d.Count));
        try
        {
            var made = 0;
            foreach (var (id, count) in due)
                for (var i = 0; i < count && await MakeNextAsync(id, today, stop); i++)
                    made++;
            return made;
        }
        finally
        {
            progress.End();
        }
    }

    /// <summary>
    /// Makes the next occurrence; where it cannot be issued it waits among the drafts, and where it cannot be made at
    /// all its standing invoice says why.
    /// </summary>
    private async Task<bool> MakeNextAsync(int id, DateOnly today, CancellationToken stop)
    {
        try
        {
            await TryAsync(id, today, null, stop);
        }
        catch (RefusalException refused) when (refused is not NotAllowedException)
        {
            if (!await WithoutIssuingAsync(id, today, refused.In((await head.BusinessAsync(stop)).Format), stop))
                return false;
        }

        progress.Step();
        db.ChangeTracker.Clear();
        return true;
    }

    private async Task<bool> WithoutIssuingAsync(int id, DateOnly today, string why, CancellationToken stop)
    {
        try
        {
            await TryAsync(id, today, why, stop);
            return true;
        }
        catch (RefusalException refused) when (refused is not NotAllowedException)
        {
            await writer.WriteAsync(
                Right.Draft,
                stop,
                async () =>
                {
                    (await db.StandingInvoices.SingleAsync(s => s.Id == id, stop)).HasTrouble(
                        refused.In((await head.BusinessAsync(stop)).Format)
                    );
                    return id;
                }
            );
            return false;
        }
    }

    /// <param name="notIssuedFor">Why it is put among the drafts instead of being issued; null to do what the standing
    /// invoice says.</param>
    private Task<int> TryAsync(int id, DateOnly today, string? notIssuedFor, CancellationToken stop) =>
        writer.WriteAsync(
            Right.Draft,
            stop,
            async () =>
            {
                var standing = await db.StandingInvoices.Include(s => s.Occurrences).SingleAsync(s => s.Id == id, stop);
                if (standing.DueBy(today) is not [var (index, day), ..])
                    return 0;
                var business = await head.BusinessAsync(stop);
                var content = PeriodFields.Fill(
                    standing.Content,
                    standing.Schedule,
                    index,
                    standing.Made + 1,
                    business.Format
                ) with
                {
                    CustomerId = standing.CustomerId,
                    Date = day,
                };
                if (standing.PricesOfTheDay)
                    content = (await pricing.AsOfTodayAsync(content, stop)).Content;
                var made = await drafts.MakeAsync(
                    DocumentKind.Invoice,
                    content,
                    null,
                    $"Made by the standing invoice {standing.Name} for {day:yyyy-MM-dd}",
                    stop
                );
                standing.Occur(made.Id);
                if (notIssuedFor is not null)
                    await writer.TrailAsync(
                        $"Not issued by itself, so it waits among the drafts: {notIssuedFor}",
                        null,
                        made.Id
                    );
                else if (standing.Way == StandingWay.IssueAndSend)
                    await sending.IssueAsync(made.Id, made.Version, stop);
                else if (standing.Way == StandingWay.Issue)
                    await issuing.IssueAsync(made.Id, made.Version, null, stop);
                return made.Id;
            }
        );
}
