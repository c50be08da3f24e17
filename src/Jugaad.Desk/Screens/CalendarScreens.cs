using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Machine;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>
/// The days that a person keeps: promises, parts of plans, whom to ask again, quotes to ask about, tax returns. Who does not see
/// what customers owe gets the quotes only.
/// </summary>
public sealed class CalendarScreens(
    BooksContext db,
    BooksHead head,
    SaidScreens said,
    ReturnFiling filing,
    OutsideAddress outside
)
{
    public async Task<IReadOnlyList<CalendarEntry>> OfAsync(Person person, CancellationToken stop = default)
    {
        var site = await outside.NowAsync(stop);
        var today = await head.TodayAsync(stop);
        var format = (await head.BusinessAsync(stop)).Format;
        var entries = new List<CalendarEntry>();
        var quotes = await db
            .Documents.AsNoTracking()
            .Include(d => d.Customer)
            .Where(d => d.Kind == DocumentKind.Quote && d.State == DocumentState.Sent && d.Particulars.FollowUp != null)
            .OrderBy(d => d.Id)
            .ToListAsync(stop);
        entries.AddRange(
            quotes.Select(q => new CalendarEntry(
                $"quote-{q.Id}",
                q.Particulars.FollowUp!.Value,
                q.Date,
                $"Ask {q.Customer!.Name} about {q.Number}",
                $"{q.Policy.Title} {q.Number} of {format.Date(q.Date)}, {format.WithCode(q.Payable, q.Currency)}",
                $"{site}/papers/{q.Id}"
            ))
        );
        if (!person.Role.Has(Right.See))
            return entries;
        var all = await said.ReadAsync(stop);
        entries.AddRange(
            all.Promises.Where(p => p.Promise.Judged.Holds && p.Promise.Judged.Missing > 0)
                .Select(p => new CalendarEntry(
                    $"promise-{p.Promise.Promise.Id}",
                    p.Promise.Promise.Until,
                    p.Promise.Promise.Made,
                    $"{p.Customer} promised {format.WithCode(p.Promise.Judged.Missing, p.Promise.Promise.Currency)}",
                    $"Promised on {format.Date(p.Promise.Promise.Made)}",
                    $"{site}/collect/{p.CustomerId}"
                ))
        );
        foreach (var plan in all.Plans.Where(p => p.Plan.Plan.IsThereOn(today) && p.Plan.Stands.IsKept))
            entries.AddRange(
                plan.Plan.Stands.Parts.Select((part, i) => (part, i))
                    .Where(p => p.part.Open > 0)
                    .Select(p => new CalendarEntry(
                        $"plan-{plan.Plan.Plan.Id}-{p.i + 1}",
                        p.part.Day,
                        plan.Plan.Plan.Made,
                        $"{plan.Customer}: part {p.i + 1}, {format.WithCode(p.part.Open, plan.Plan.Plan.Currency)}",
                        $"As agreed on {format.Date(plan.Plan.Plan.Made)}",
                        $"{site}/collect/{plan.CustomerId}"
                    ))
            );
        var again = await db
            .Customers.AsNoTracking()
            .Where(c => c.AskAgainOn != null && !c.Inactive)
            .OrderBy(c => c.Id)
            .Select(c => new
            {
                c.Id,
                c.Name,
                Day = c.AskAgainOn!.Value,
            })
            .ToListAsync(stop);
        entries.AddRange(
            again.Select(c => new CalendarEntry(
                $"ask-{c.Id}-{c.Day:yyyyMMdd}",
                c.Day,
                c.Day,
                $"Ask {c.Name} for what they owe",
                "",
                $"{site}/collect/{c.Id}"
            ))
        );
        entries.AddRange(
            (await filing.DueAsync(stop)).Select(r => new CalendarEntry(
                $"return-{r.Authority.Id}-{r.From:yyyyMMdd}",
                r.Due,
                r.From,
                $"Tax return to {r.Authority.Name} is due",
                $"For {format.Date(r.From)} to {format.Date(r.To)}",
                $"{site}/reports/returns/{r.Authority.Id}/{r.From:yyyy-MM-dd}/{r.To:yyyy-MM-dd}"
            ))
        );
        return entries;
    }
}
