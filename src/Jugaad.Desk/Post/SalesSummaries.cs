using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Post;

/// <summary>A sale at the counter, or what came back of one, that cannot be told in a summary yet.</summary>
public sealed record SaleLeftOut(int DocumentId, string Number, DateOnly Date, Phrase Why);

/// <summary>What gathering would make.</summary>
/// <param name="ToMake">Oldest first.</param>
public sealed record SummaryPlan(IReadOnlyList<SummaryToMake> ToMake, IReadOnlyList<SaleLeftOut> LeftOut)
{
    public int Sales => ToMake.Sum(m => m.Documents.Count);
}

/// <summary>
/// Gathers sales at the counter to nobody in particular into summaries, one for a day or a month, and sends those. Each
/// sale is told once, by itself or in one summary that stands.
/// </summary>
public sealed class SalesSummaries(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Numbers numbers,
    PaperRoom papers,
    SummaryEInvoices einvoices,
    PostTray tray,
    IAccessPoint network
)
{
    /// <summary>What gathering some days would make; nothing is kept.</summary>
    public async Task<SummaryPlan> PlanAsync(
        DateOnly from,
        DateOnly until,
        SummaryPeriod period,
        CancellationToken stop = default
    )
    {
        if ((await head.BusinessAsync(stop)).CounterCustomerId is not { } counter)
            return new SummaryPlan([], []);
        var live = db.Post.OnNetwork();
        var found = await db
            .Documents.AsNoTracking()
            .Include(d => d.Taxes)
            .Where(d =>
                d.CustomerId == counter
                && d.Number != null
                && d.Date >= from
                && d.Date <= until
                && ((d.Kind == DocumentKind.Invoice && d.PaidWords != "") || d.Kind == DocumentKind.CreditNote)
                && !db.SummarySales.Any(s => s.DocumentId == d.Id && s.Counts)
                && !live.Any(p => p.Attachments.Any(a => a.DocumentId == d.Id))
            )
            .OrderBy(d => d.Date)
            .ThenBy(d => d.Id)
            .ToListAsync(stop);
        var (told, left) = (new List<Document>(), new List<SaleLeftOut>());
        foreach (var document in found.OrderBy(d => d.Kind == DocumentKind.CreditNote))
        {
            var why =
                SummaryCut.ProblemOf(document)
                ?? (
                    document.FromDocumentId is { } sale
                    && document.Kind == DocumentKind.CreditNote
                    && told.TrueForAll(t => t.Id != sale)
                    && !await IsToldAsync(sale, stop)
                        ? (Phrase)$"The sale that it is on is not told yet. Gather that one first."
                        : null
                );
            if (why is null)
                told.Add(document);
            else
                left.Add(new SaleLeftOut(document.Id, document.Number!, document.Date, why));
        }

        return new SummaryPlan(SummaryCut.Of(told, period), left);
    }

    /// <summary>Whether a document was told, by itself or in a summary that stands.</summary>
    private async Task<bool> IsToldAsync(int documentId, CancellationToken stop) =>
        await db.SummarySales.AnyAsync(s => s.DocumentId == documentId && s.Counts, stop)
        || await db.Post.OnNetwork().AnyAsync(p => p.Attachments.Any(a => a.DocumentId == documentId), stop);

    /// <summary>Makes the summaries that <see cref="PlanAsync"/> tells of.</summary>
    /// <returns>How many were made.</returns>
    /// <exception cref="RefusalException">When there is nothing to gather, a day is still to come, or one would break a
    /// rule of the standard; nothing is made then.</exception>
    public Task<int> GatherAsync(DateOnly from, DateOnly until, SummaryPeriod period, Once once = default) =>
        writer.WriteAsync(
            Right.Issue,
            once,
            async stop =>
            {
                var today = await head.TodayAsync(stop);
                if (until > today || from > until)
                    throw new RefusalException(
                        "until",
                        until > today
                            ? "Sales of days to come cannot be gathered. Choose today or an earlier day."
                            : "The last day is before the first. Exchange them."
                    );
                var plan = await PlanAsync(from, until, period, stop);
                if (plan.ToMake.Count == 0)
                    throw new RefusalException("", "No sale of these days waits to be gathered.");
                var business = await head.BusinessAsync(stop);
                var counter = await db.Customers.SingleAsync(c => c.Id == business.CounterCustomerId, stop);
                // Each is numbered on the day when it is made, or the series would run against the days.
                foreach (var one in plan.ToMake)
                {
                    var (series, number) = await numbers.GiveSummaryAsync(today, stop);
                    var made = new SalesSummary(
                        series,
                        number,
                        today,
                        one,
                        await papers.SenderAsync(one.Until, null, counter.Language, null, stop),
                        Parties.AddresseeOf(counter, business)
                    );
                    db.SalesSummaries.Add(made);
                    await writer.SaveAsync(stop);
                    if ((await einvoices.OfAsync(made, stop)).Breaches is [var breach, ..])
                        throw new RefusalException("", $"It would break {breach.Rule}: {breach.Problem}");
                    await writer.TrailAsync(
                        $"{Many(one.Documents.Count, made.IsReturns ? "credit" : "sale")} of {one.From} to {one.Until} told in {number}",
                        counter.Id
                    );
                }

                return plan.ToMake.Count;
            }
        );

    /// <summary>Takes a summary back that no receiver has, or that one refused. Its sales can be gathered anew.</summary>
    /// <exception cref="RefusalException">When it is on its way or was taken, or credits name it.</exception>
    public Task<int> DissolveAsync(int id, string because, Once once = default) =>
        writer.WriteAsync(
            Right.Issue,
            once,
            async stop =>
            {
                var summary = await FindAsync(id, stop);
                if (await LiveAsync(id, stop) && !await WasRefusedAsync(id, stop))
                    throw new RefusalException(
                        "",
                        $"{summary.Number} is on its way or with its receiver. Only one that was not sent, or was refused, can be taken back."
                    );
                var sales = summary.Sales.Select(s => s.DocumentId).ToList();
                var named = await (
                    from credit in db.Documents
                    join told in db.SummarySales on credit.Id equals told.DocumentId
                    join other in db.SalesSummaries on told.SummaryId equals other.Id
                    where told.Counts && other.Id != id && sales.Contains(credit.FromDocumentId ?? 0)
                    select other.Number
                ).FirstOrDefaultAsync(stop);
                if (named is not null)
                    throw new RefusalException(
                        "",
                        $"{named} tells what came back of its sales. Take that one back first."
                    );
                summary.Dissolve(await head.TodayAsync(stop), because);
                await writer.TrailAsync(
                    $"{summary.Number} taken back: {summary.DissolvedBecause}",
                    (await head.BusinessAsync(stop)).CounterCustomerId
                );
                return id;
            }
        );

    /// <summary>Looks the receiver up in the directory, and checks the e-invoice by every rule.</summary>
    public async Task<EInvoiceRoute> RouteAsync(int id, CancellationToken stop = default)
    {
        var summary = await FindAsync(id, stop);
        var business = await head.BusinessAsync(stop);
        var counter = await db.Customers.AsNoTracking().SingleAsync(c => c.Id == business.CounterCustomerId, stop);
        var to = counter.Electronic.ToString();
        if (!summary.Stands)
            return new(to, "", $"{summary.Number} was taken back.");
        if (!counter.Electronic.IsGiven)
            return new(
                "",
                "",
                $"{counter.Name} has no electronic address. Give the customer that stands for all without a name the address to which summaries go."
            );
        if (await network.FindAsync(counter.Electronic.Scheme, counter.Electronic.Value, stop) is not { } receiver)
            return new(to, "", $"The directory of the network has no receiver {to}. Compare the number.");
        if (await LiveAsync(id, stop))
            return new(to, receiver.Name, $"It went to {receiver.Name} as an e-invoice already.");
        var made = await einvoices.OfAsync(id, stop);
        return new(
            to,
            receiver.Name,
            made.Breaches is [var breach, ..] ? (Phrase)$"It breaks {breach.Rule}: {breach.Problem}" : null
        );
    }

    /// <summary>Puts a summary into the tray as an e-invoice.</summary>
    /// <exception cref="RefusalException">With why it cannot go; nothing is put there then.</exception>
    public async Task<int> SendAsync(int id, Once once = default)
    {
        // The directory is asked before the books are held.
        var route = await RouteAsync(id);
        return await writer.WriteAsync(
            Right.Mail,
            once,
            async stop =>
            {
                if (route.Problem is { } problem)
                    throw new RefusalException("", problem);
                var summary = await FindAsync(id, stop);
                if (!summary.Stands || await LiveAsync(id, stop))
                    throw new RefusalException("", $"{summary.Number} was sent or taken back in the meantime.");
                return await tray.AddOurOwnAsync(
                    new MailToSend(
                        route.To,
                        $"Summary {summary.Number}",
                        $"E-invoice of summary {summary.Number} to {route.Receiver}, by EN 16931."
                    )
                    {
                        Kind = PostKind.Document,
                        Way = PostWay.Network,
                        CustomerId = (await head.BusinessAsync(stop)).CounterCustomerId,
                        SummaryId = id,
                    },
                    stop
                );
            }
        );
    }

    private static string Many(int count, string what) => count == 1 ? $"One {what}" : $"{count} {what}s";

    private Task<bool> LiveAsync(int id, CancellationToken stop) =>
        db.Post.OnNetwork().AnyAsync(p => p.SummaryId == id, stop);

    private async Task<bool> WasRefusedAsync(int id, CancellationToken stop) =>
        await db
            .Post.Where(p => p.SummaryId == id && p.State == PostState.Sent)
            .Select(p =>
                db.NetworkAnswers.Where(a => a.PostItemId == p.Id && a.Counts)
                    .OrderByDescending(a => a.Id)
                    .Select(a => (AnswerKind?)a.Kind)
                    .FirstOrDefault()
            )
            .ToListAsync(stop)
            is { Count: > 0 } answers
        && answers.TrueForAll(a => a == AnswerKind.Refused);

    private async Task<SalesSummary> FindAsync(int id, CancellationToken stop) =>
        await db.SalesSummaries.Include(s => s.Sales).SingleOrDefaultAsync(s => s.Id == id, stop)
        ?? throw new RefusalException("", $"There is no summary {id}. Look for it under Post.");
}
