using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Making;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>The strip at the foot of every page.</summary>
/// <param name="OverdueHome">All that is late, in minor units of the home currency.</param>
public sealed record Tally(
    int Drafts,
    int PostWaiting,
    int PostFailed,
    int PostUnknown,
    int PostLate,
    long CreditHome,
    long OverdueHome,
    int OverdueCount,
    DateOnly Today,
    bool CalendarMoves,
    int BankLines,
    ReturnDue? Return
)
{
    /// <summary>What of the post needs somebody, in words.</summary>
    public IReadOnlyList<string> PostTrouble =>
        [
            .. new[] { (PostUnknown, "in doubt"), (PostFailed, "came back"), (PostLate, "late") }
                .Where(t => t.Item1 > 0)
                .Select(t => $"{t.Item1} {t.Item2}"),
        ];
}

/// <summary>A document to be dealt with.</summary>
public sealed record ToDo(
    int Id,
    DocumentKind Kind,
    string? Number,
    string Customer,
    int CustomerId,
    DateOnly Date,
    DateOnly? Until,
    Currency Currency,
    long Payable
);

/// <summary>Money that came in and is not set against anything in full.</summary>
public sealed record UnplacedRow(
    int ReceiptId,
    int CustomerId,
    string Customer,
    string Number,
    DateOnly Date,
    Currency Currency,
    long Open
);

/// <summary>A customer's delivery notes that wait to be billed together.</summary>
/// <param name="Net">In minor units of the currency.</param>
public sealed record DeliveryPile(int CustomerId, string Customer, int Notes, long Net, Currency Currency);

/// <summary>A standing invoice that is about to come, has just come, or could not be made.</summary>
public sealed record StandingNotice(int Id, string Name, string Customer, DateOnly Day, bool HasCome, string Problem);

/// <summary>What there is to do today.</summary>
public sealed record DayView(
    DateOnly Today,
    IReadOnlyList<ToDo> Accepted,
    IReadOnlyList<ToDo> Drafts,
    IReadOnlyList<ToDo> Waiting,
    IReadOnlyList<UnplacedRow> Unplaced,
    IReadOnlyList<LateRow> Late,
    IReadOnlyList<PostItem> Post
)
{
    /// <summary>
    /// What was delivered and is not billed, by customer: how many notes, and what they come to in minor units.
    /// </summary>
    public IReadOnlyList<DeliveryPile> Deliveries { get; init; } = [];

    /// <summary>What is billed in stages and has something left; the newest few.</summary>
    public IReadOnlyList<StagedRow> Staged { get; init; } = [];

    /// <summary>Standing invoices that are about to come or have just come, as each wants it told.</summary>
    public IReadOnlyList<StandingNotice> Standing { get; init; } = [];

    /// <summary>Quotes to ask about by today.</summary>
    public IReadOnlyList<ToDo> FollowUps { get; init; } = [];

    public int OnShelf { get; init; }

    /// <summary>How many items are late in all.</summary>
    public int LateCount { get; init; }

    /// <summary>
    /// Bank lines that are to be placed, and what came in with them, in minor units of the home currency.
    /// </summary>
    public (int Lines, long In) BankLines { get; init; }
}

/// <summary>Where the jump box leads.</summary>
/// <param name="Code">The short code, where it has one beside its title.</param>
public sealed record JumpTarget(string Kind, string Title, string Detail, string Address, string Code = "")
{
    /// <summary>Whether its title or code is just what was typed.</summary>
    public bool Exact { get; private init; }

    /// <summary>What is named just so comes first; the rest stays in its order.</summary>
    public static IReadOnlyList<JumpTarget> ExactFirst(IEnumerable<JumpTarget> targets, string typed)
    {
        var text = typed.Trim();
        bool IsExact(JumpTarget t) =>
            t.Title.Equals(text, StringComparison.OrdinalIgnoreCase)
            || (t.Code.Length > 0 && t.Code.Equals(text, StringComparison.OrdinalIgnoreCase));
        return [.. targets.Select(t => t with { Exact = IsExact(t) }).OrderBy(t => t.Exact ? 0 : 1)];
    }
}

/// <summary>Reads the day sheet, the tally and the jump box.</summary>
public sealed class DayScreens(
    BooksContext db,
    BooksHead head,
    LateScreens late,
    Deliveries deliveries,
    ProgressScreens progress,
    BankScreens bank,
    ReturnFiling filing,
    TimeProvider clock
)
{
    public async Task<Tally> TallyAsync(CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var today = await head.TodayAsync(stop);
        var lateSince = clock.GetUtcNow().UtcDateTime - PostItem.LateAfter;
        var overdue = await late.LateAsync(stop);
        return new Tally(
            await db.Documents.CountAsync(d => d.State == DocumentState.Draft, stop),
            await db.Post.CountAsync(p => p.State == PostState.Waiting || p.State == PostState.OnItsWay, stop),
            await db.Post.CountAsync(p => p.State == PostState.Failed, stop),
            await db.Post.CountAsync(p => p.State == PostState.Unknown, stop),
            await db.Post.CountAsync(
                p => p.State == PostState.Waiting && p.Way != PostWay.Print && (p.Since == null || p.Since < lateSince),
                stop
            ),
            await db
                .AccountItems.Where(i => i.Open > 0 && i.Kind == AccountItemKind.Receipt)
                .SumAsync(i => i.HomeOpen, stop),
            await overdue.SumAsync(i => i.HomeOpen, stop),
            await overdue.CountAsync(stop),
            today,
            business.PinnedDay is not null,
            await db.BankLines.CountAsync(l => l.Placed != l.Amount, stop),
            (await filing.DueAsync(stop)).FirstOrDefault(d => d.HasEnded)
        );
    }

    public async Task<DayView> DayAsync(CancellationToken stop = default)
    {
        var accepted = db.Documents.Where(d =>
            d.Kind == DocumentKind.Quote
            && d.State == DocumentState.Accepted
            && !db.Documents.Any(m => m.FromDocumentId == d.Id && m.State != DocumentState.Cancelled)
        );
        var unplaced =
            from item in db.AccountItems
            where item.Open > 0 && item.Kind == AccountItemKind.Receipt
            join customer in db.Customers on item.CustomerId equals customer.Id
            orderby item.Date
            select new UnplacedRow(
                item.ReceiptId!.Value,
                customer.Id,
                customer.Name,
                item.Number,
                item.Date,
                item.Currency,
                item.Open
            );
        var today = await head.TodayAsync(stop);
        var mostLate = await late.MostLateAsync(8, stop);
        return new DayView(
            today,
            await ToDosAsync(accepted, stop),
            await ToDosAsync(db.Documents.Where(d => d.State == DocumentState.Draft), stop),
            await ToDosAsync(
                db.Documents.Where(d => d.Kind == DocumentKind.Quote && d.State == DocumentState.Sent),
                stop
            ),
            await unplaced.Take(8).ToListAsync(stop),
            mostLate.Rows,
            await db
                .Post.AsNoTracking()
                .Where(p => p.State != PostState.Sent && p.State != PostState.Withdrawn)
                .OrderBy(p => p.State == PostState.Unknown || p.State == PostState.Failed ? 0 : 1)
                .ThenBy(p => p.Id)
                .Take(8)
                .ToListAsync(stop)
        )
        {
            Deliveries = (await deliveries.ToBillAsync(new DeliveryFilter(), stop))
                .Where(d => d.Drafted is null)
                .GroupBy(d => (d.CustomerId, d.Customer, d.Currency))
                .Select(g => new DeliveryPile(
                    g.Key.CustomerId,
                    g.Key.Customer,
                    g.Count(),
                    g.Sum(d => d.Net),
                    g.Key.Currency
                ))
                .ToList(),
            Staged = (await progress.StagedAsync(stop)).Take(8).ToList(),
            Standing = await StandingAsync(today, stop),
            FollowUps = await ToDosAsync(
                db.Documents.Where(d =>
                    d.Kind == DocumentKind.Quote
                    && d.State == DocumentState.Sent
                    && d.Particulars.FollowUp != null
                    && d.Particulars.FollowUp <= today
                ),
                stop
            ),
            BankLines = await bank.ToPlaceAsync(stop),
            LateCount = mostLate.Count,
            OnShelf = await db.Shelf.CountAsync(s => s.OnShelf, stop),
        };
    }

    private async Task<IReadOnlyList<StandingNotice>> StandingAsync(DateOnly today, CancellationToken stop)
    {
        var all = await db
            .StandingInvoices.AsNoTracking()
            .Where(s => s.Problem != "" || s.TellBefore > 0 || s.TellAfter > 0)
            .ToListAsync(stop);
        var names = await db
            .Customers.Where(c => db.StandingInvoices.Any(s => s.CustomerId == c.Id))
            .ToDictionaryAsync(c => c.Id, c => c.Name, stop);
        var told = new List<StandingNotice>();
        foreach (var standing in all)
        {
            if (
                standing.NextDay is { } next
                && (standing.Problem.Length > 0 || next <= today.AddDays(standing.TellBefore))
            )
                told.Add(new(standing.Id, standing.Name, names[standing.CustomerId], next, false, standing.Problem));
            if (
                standing.TellAfter > 0
                && standing.Next > 0
                && standing.Schedule.DayOf(standing.Next - 1) is var last
                && last <= today
                && last.AddDays(standing.TellAfter) >= today
            )
                told.Add(new(standing.Id, standing.Name, names[standing.CustomerId], last, true, ""));
        }

        return told.OrderBy(t => t.Day).Take(12).ToList();
    }

    /// <summary>Customers, documents by number or amount, and items that match a text.</summary>
    public async Task<IReadOnlyList<JumpTarget>> JumpAsync(string text, CancellationToken stop = default)
    {
        if (text.Trim().Length == 0)
            return [];
        var business = await head.BusinessAsync(stop);
        var exact = SearchText.Exactly(text);
        var named = (await WordSearch.CustomersAsync(db, text, stop)).Ids;
        var found = new List<JumpTarget>();
        var customers = await db
            .Customers.Where(c => named.Contains(c.Id))
            .OrderBy(c => EF.Functions.Like(c.Code, exact, "\\") || EF.Functions.Like(c.Name, exact, "\\") ? 0 : 1)
            .ThenBy(c => c.Name)
            .Take(6)
            .Select(c => new
            {
                c.Id,
                c.Name,
                c.Code,
                c.Address.City,
            })
            .ToListAsync(stop);
        found.AddRange(
            customers.Select(c => new JumpTarget(
                "customer",
                c.Name,
                $"{c.Code} {c.City}".Trim(),
                $"/customers/{c.Id}",
                c.Code
            ))
        );
        var amounts = WordSearch.AmountsOf(text, business.Format);
        var numbered = await WordSearch.DocumentsAsync(db, text, stop);
        var there = db.Documents.AsNoTracking().Include(d => d.Customer).Where(d => d.State != DocumentState.Cancelled);
        var newest = await NewestAsync(
            there.Where(numbered.AmongNewest<Document>(d => d.Id)).Select(d => new Dated { Id = d.Id, Date = d.Date }),
            there.Where(d => amounts.Contains(d.Payable)).Select(d => new Dated { Id = d.Id, Date = d.Date }),
            amounts,
            stop
        );
        var documents = await there
            .Where(d => EF.Functions.Like(d.Number!, exact, "\\"))
            .OrderByDescending(d => d.Id)
            .Take(2)
            .ToListAsync(stop);
        documents.AddRange(
            (await there.Where(d => newest.Contains(d.Id)).ToListAsync(stop)).OrderBy(d => newest.IndexOf(d.Id))
        );
        documents = documents.DistinctBy(d => d.Id).Take(8).ToList();
        found.AddRange(
            documents.Select(d => new JumpTarget(
                d.Policy.Word,
                d.Number ?? d.Title,
                $"{d.Customer!.Name}, {business.Format.WithCode(d.Payable, d.Currency)}",
                $"/papers/{d.Id}"
            ))
        );
        var receipted = await WordSearch.ReceiptsAsync(db, text, stop);
        var came = await NewestAsync(
            db.Receipts.Where(receipted.AmongNewest<Receipt>(r => r.Id))
                .Select(r => new Dated { Id = r.Id, Date = r.Date }),
            db.Receipts.Where(r => amounts.Contains(r.Amount)).Select(r => new Dated { Id = r.Id, Date = r.Date }),
            amounts,
            stop
        );
        var receipts = await db
            .Receipts.Where(r => came.Contains(r.Id))
            .OrderByDescending(r => r.Date)
            .ThenByDescending(r => r.Id)
            .Take(4)
            .Join(
                db.Customers,
                r => r.CustomerId,
                c => c.Id,
                (r, c) =>
                    new
                    {
                        r.Id,
                        r.Number,
                        r.Amount,
                        r.Currency,
                        c.Name,
                    }
            )
            .ToListAsync(stop);
        found.AddRange(
            receipts.Select(r => new JumpTarget(
                "receipt",
                r.Number,
                $"{r.Name}, {business.Format.WithCode(r.Amount, r.Currency)}",
                $"/receive/{r.Id}"
            ))
        );
        var fitting = (await WordSearch.ItemsAsync(db, text, stop)).Ids;
        var items = await db
            .Items.Where(i => fitting.Contains(i.Id))
            .OrderBy(i => EF.Functions.Like(i.Code, exact, "\\") || EF.Functions.Like(i.Name, exact, "\\") ? 0 : 1)
            .ThenBy(i => i.Name)
            .Take(5)
            .Select(i => new
            {
                i.Id,
                i.Name,
                i.Code,
            })
            .ToListAsync(stop);
        found.AddRange(items.Select(i => new JumpTarget("item", i.Name, i.Code, $"/items/{i.Id}", i.Code)));
        return found;
    }

    private sealed record Dated
    {
        public int Id { get; init; }

        public DateOnly Date { get; init; }
    }

    /// <summary>
    /// The eight newest of what words and an amount find. Each is asked for by itself: put together, the file would be
    /// read by date until eight of them are met.
    /// </summary>
    private static async Task<List<int>> NewestAsync(
        IQueryable<Dated> byWords,
        IQueryable<Dated> byAmount,
        IReadOnlyList<long> amounts,
        CancellationToken stop
    )
    {
        var all = await byWords.ToListAsync(stop);
        if (amounts.Count > 0)
            all.AddRange(
                await byAmount.OrderByDescending(d => d.Date).ThenByDescending(d => d.Id).Take(8).ToListAsync(stop)
            );
        return all.Distinct()
            .OrderByDescending(d => d.Date)
            .ThenByDescending(d => d.Id)
            .Take(8)
            .Select(d => d.Id)
            .ToList();
    }

    private static async Task<IReadOnlyList<ToDo>> ToDosAsync(IQueryable<Document> documents, CancellationToken stop) =>
        await documents
            .OrderBy(d => d.Date)
            .ThenBy(d => d.Id)
            .Take(12)
            .Select(d => new ToDo(
                d.Id,
                d.Kind,
                d.Number,
                d.Customer!.Name,
                d.CustomerId,
                d.Date,
                d.ValidUntil ?? d.DueDate,
                d.Currency,
                d.Payable
            ))
            .ToListAsync(stop);

    /// <summary>Exchange rates, newest first.</summary>
    /// <param name="only">One currency; null for all.</param>
    public Task<ListPage<Core.Exchange.ExchangeRate>> RatesAsync(
        int page,
        Core.Amounts.Currency? only = null,
        CancellationToken stop = default
    ) =>
        db
            .ExchangeRates.AsNoTracking()
            .Where(r => only == null || r.Currency == only)
            .OrderByDescending(r => r.From)
            .ThenBy(r => r.Currency)
            .PageAsync(page, stop, 24);

    public Task<Core.Exchange.ExchangeRate?> RateAsync(int id, CancellationToken stop = default) =>
        db.ExchangeRates.AsNoTracking().FirstOrDefaultAsync(r => r.Id == id, stop);
}
