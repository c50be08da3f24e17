using System.Linq.Expressions;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Reports;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A document in a list. Amounts are minor units of its currency.</summary>
/// <param name="Open">What is open on it; null where it does not take part in the balance.</param>
public sealed record DocumentRow(
    int Id,
    DocumentKind Kind,
    DocumentState State,
    string? Number,
    DateOnly Date,
    DateOnly? Due,
    DateOnly? ValidUntil,
    int CustomerId,
    string Customer,
    Currency Currency,
    long Payable,
    long? Open,
    string PurchaseOrder
);

/// <summary>What narrows the list of documents; it stands in the address, so that a view can be kept.</summary>
/// <param name="Show">One of drafts, waiting, accepted, unfinished, open, late, settled; empty for all.</param>
/// <param name="Sort">One of date, number, customer, due, amount; a minus before it turns it round.</param>
public sealed record DocumentFilter(DocumentKind? Kind, string Show, string Search, string Sort);

/// <summary>What became of quotes that were answered or ran out.</summary>
public sealed record QuoteOutcome(int Won, int Lapsed, IReadOnlyList<(LossReason Why, int Count)> Lost)
{
    public int All => Won + Lapsed + Lost.Sum(l => l.Count);

    /// <summary>
    /// Such as <c>24 of 36 quotes won (67 %). 7 were declined: 3 too dear, 4 another reason. 5 lapsed.</c>
    /// </summary>
    public string Words
    {
        get
        {
            if (All == 0)
                return "";
            var lost = Lost.Sum(l => l.Count);
            var why =
                lost == 0
                    ? ""
                    : $" {lost} {(lost == 1 ? "was" : "were")} declined: {string.Join(", ", Lost.Select(l => $"{l.Count} {l.Why.Word()}"))}.";
            return $"{Won} of {All} quotes won ({Math.Round(100m * Won / All, 0, MidpointRounding.AwayFromZero)} %).{why}{(Lapsed > 0 ? $" {Lapsed} lapsed." : "")}";
        }
    }
}

/// <summary>Something that happened to a document.</summary>
public sealed record ThreadEntry(DateOnly Day, string Who, string Text);

/// <summary>A debt given up, with what of it did not come back; minor units.</summary>
/// <param name="TaxStays">Whether there is tax in it that stays owed.</param>
public sealed record GivenUpDebt(int SettlementId, long Amount, bool TaxStays);

/// <summary>A receipt or credit that is set against a document.</summary>
/// <param name="Until">From when it counts no more; null while it counts.</param>
public sealed record PaidBy(
    int AllocationId,
    int LoweringId,
    int? ReceiptId,
    string Number,
    DateOnly Date,
    long Amount,
    AccountItemKind Kind,
    int? DocumentId,
    DateOnly? Until
);

/// <summary>What stands in the margin beside a paper.</summary>
public sealed record MarginView(
    Document Document,
    string Customer,
    string CustomerEmail,
    AccountItem? Item,
    IReadOnlyList<PaidBy> PaidBy,
    long CustomerCredit,
    IReadOnlyList<ThreadEntry> Thread,
    IReadOnlyList<PostItem> Post,
    IReadOnlyList<(int Id, string Title)> From,
    IReadOnlyList<(int Id, string Title, DocumentState State)> Into,
    IReadOnlyList<EntrySide> Booked
)
{
    /// <summary>How much is delivered and billed; null where nothing is made from it.</summary>
    public Progress? Progress { get; init; }

    /// <summary>All issues of a quote, the first one first; empty where there is only one.</summary>
    public IReadOnlyList<(int Id, string Title, int Revision)> Revisions { get; init; } = [];

    public DocumentLink? Link { get; init; }

    public IReadOnlyList<(int Id, string Name, bool GoesAlong)> Files { get; init; } = [];

    /// <summary>What was done with money on it, newest first.</summary>
    public IReadOnlyList<DoneRow> Done { get; init; } = [];

    /// <summary>Debts given up on it.</summary>
    public IReadOnlyList<GivenUpDebt> GivenUp { get; init; } = [];

    /// <summary>The standing invoice that gave it, if any.</summary>
    public (int Id, string Name)? Standing { get; init; }
}

/// <summary>Reads what the screens of Sell show.</summary>
public sealed class SellScreens(BooksContext db, BooksHead head, ProgressScreens progress, IAgreements agreements)
{
    private static readonly ListOrders<Row> Orders = new ListOrders<Row>(r => r.Document.Id, "-date")
        .By("date", r => r.Document.Date)
        .By("number", r => r.Document.Number ?? "")
        .By("customer", r => r.Document.Customer!.Name)
        .By("due", r => r.Document.DueDate ?? r.Document.ValidUntil ?? EF.Constant(DateOnly.MinValue))
        .By("amount", r => r.Document.Payable);

    private static readonly Expression<Func<Row, DocumentRow>> Shown = r => new DocumentRow(
        r.Document.Id,
        r.Document.Kind,
        r.Document.State,
        r.Document.Number,
        r.Document.Date,
        r.Document.DueDate,
        r.Document.ValidUntil,
        r.Document.CustomerId,
        r.Document.Customer!.Name,
        r.Document.Currency,
        r.Document.Payable,
        r.Item == null ? null : r.Item.Open,
        r.Document.PurchaseOrder
    );

    public async Task<Stretch<DocumentRow>> ListAsync(
        DocumentFilter filter,
        ListPlace place,
        CancellationToken stop = default
    )
    {
        var agreed = await agreements.OnAsync(await head.TodayAsync(stop), null, stop);
        var rows = Narrow(filter, agreed, null);
        return await SearchAsync(filter.Search, stop) is { } search
            ? await Orders.ReadFoundAsync(
                rows,
                near => Narrow(filter, agreed, search.Condition(near)),
                search.Words,
                filter.Sort,
                Shown,
                place,
                stop
            )
            : await Orders.ReadAsync(rows, filter.Sort, Shown, place, stop);
    }

    /// <summary>All that the filter lets through, for a file.</summary>
    /// <param name="only">The rows that were picked; null for all.</param>
    public async Task<Report> ReportAsync(
        DocumentFilter filter,
        IReadOnlyCollection<int>? only = null,
        CancellationToken stop = default
    )
    {
        var rows = await Orders
            .Sorted(await NarrowAsync(filter, stop), filter.Sort, only)
            .Select(Shown)
            .ToListAsync(stop);
        return new Report(
            "sold",
            "Quotes and invoices",
            "",
            [
                new("number", "Number"),
                new("kind", "Kind"),
                new("state", "State"),
                new("customer", "Customer"),
                new("purchaseOrder", "Their order"),
                new("date", "Date"),
                new("until", "Until"),
                new("currency", "Currency"),
                new("amount", "Amount", true),
                new("open", "Open", true),
            ],
            rows.ConvertAll(r => new ReportRow([
                r.Number,
                KindPolicy.Of(r.Kind).Word,
                r.State.ToString().ToLowerInvariant(),
                r.Customer,
                r.PurchaseOrder,
                r.Date,
                r.Due ?? r.ValidUntil,
                r.Currency.Code,
                new Money(r.Payable, r.Currency),
                r.Open is { } open ? new Money(open, r.Currency) : null,
            ]))
        );
    }

    /// <inheritdoc cref="ListOrders{TRow}.IdsAsync"/>
    public async Task<IReadOnlyList<int>> IdsAsync(DocumentFilter filter, int most, CancellationToken stop = default) =>
        await Orders.IdsAsync(await NarrowAsync(filter, stop), filter.Sort, most, stop);

    /// <summary>What documents are called.</summary>
    public async Task<IReadOnlyDictionary<int, string>> TitlesAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop = default
    ) =>
        await db
            .Documents.AsNoTracking()
            .Where(d => ids.Contains(d.Id))
            .ToDictionaryAsync(d => d.Id, d => d.Title, stop);

    public async Task<ListTotals> TotalsAsync(DocumentFilter filter, CancellationToken stop = default)
    {
        var narrowed = await NarrowAsync(filter, stop);
        var sums = await narrowed
            .GroupBy(r => r.Document.Currency)
            .Select(g => new
            {
                g.Key,
                Count = g.Count(),
                Payable = g.Sum(r => r.Document.Payable),
            })
            .ToListAsync(stop);
        // By itself, since it begins at the few that are open; with the others it would look each of them up.
        var open = await narrowed
            .Where(r => r.Item != null && r.Item.Open > 0)
            .GroupBy(r => r.Document.Currency)
            .Select(g => new { g.Key, Open = g.Sum(r => r.Item!.Open) })
            .ToDictionaryAsync(g => g.Key, g => g.Open, stop);
        return new ListTotals(
            sums.Sum(s => s.Count),
            [
                .. sums.OrderBy(s => s.Key.Code)
                    .Select(s => new ListSum(
                        s.Key,
                        new Dictionary<string, long>
                        {
                            ["amount"] = s.Payable,
                            ["open"] = open.GetValueOrDefault(s.Key),
                        }
                    )),
            ]
        );
    }

    /// <summary>
    /// How many quotes were won, and why others were lost; revisions that were replaced do not count.
    /// </summary>
    public async Task<QuoteOutcome> OutcomeAsync(CancellationToken stop = default)
    {
        var counted = await db
            .Documents.Where(d =>
                d.Kind == DocumentKind.Quote
                && !d.IsReplaced
                && (
                    d.State == DocumentState.Accepted
                    || d.State == DocumentState.Declined
                    || d.State == DocumentState.Lapsed
                )
            )
            .GroupBy(d => new { d.State, d.LostBy })
            .Select(g => new
            {
                g.Key.State,
                g.Key.LostBy,
                Count = g.Count(),
            })
            .ToListAsync(stop);
        int Of(DocumentState state) => counted.Where(c => c.State == state).Sum(c => c.Count);
        return new QuoteOutcome(
            Of(DocumentState.Accepted),
            Of(DocumentState.Lapsed),
            counted
                .Where(c => c.State == DocumentState.Declined)
                .GroupBy(c => c.LostBy ?? LossReason.Other)
                .Select(g => (g.Key, g.Sum(c => c.Count)))
                .OrderByDescending(r => r.Item2)
                .ThenBy(r => r.Key)
                .ToList()
        );
    }

    /// <summary>The reasons for credit and debit notes that are offered.</summary>
    public async Task<IReadOnlyList<string>> ReasonsAsync(CancellationToken stop = default) =>
        await db.NoteReasons.Where(r => !r.Retired).OrderBy(r => r.Text).Select(r => r.Text).ToListAsync(stop);

    /// <summary>
    /// Where one goes on once a document is issued: its paper, or for a credit the question what shall become of it.
    /// </summary>
    public async Task<string> AfterIssueAsync(int id, CancellationToken stop = default) =>
        await db
            .AccountItems.Where(i => i.DocumentId == id && i.Sign < 0 && i.Open > 0)
            .Select(i => (int?)i.Id)
            .SingleOrDefaultAsync(stop)
            is { } credit
            ? $"/receive/place/{credit}"
            : $"/papers/{id}";

    /// <returns>Null where there is no such document.</returns>
    public async Task<MarginView?> MarginAsync(int id, CancellationToken stop = default)
    {
        var document = await db
            .Documents.AsNoTracking()
            .Include(d => d.Customer)
            .Include(d => d.Lines)
            .Include(d => d.Taxes)
            .SingleOrDefaultAsync(d => d.Id == id, stop);
        if (document is null)
            return null;
        var item = await db.AccountItems.AsNoTracking().SingleOrDefaultAsync(i => i.DocumentId == id, stop);
        var paid = item is null
            ? []
            : await db
                .Allocations.IgnoreQueryFilters()
                .Where(a => a.RaisingId == item.Id && (a.Until == null || a.Until > a.Date))
                .OrderBy(a => a.Date)
                .ThenBy(a => a.Id)
                .Select(a => new PaidBy(
                    a.Id,
                    a.LoweringId,
                    a.Lowering.ReceiptId,
                    a.Lowering.Number,
                    a.Date,
                    a.Amount,
                    a.Lowering.Kind,
                    a.Lowering.DocumentId,
                    a.Until
                ))
                .ToListAsync(stop);
        var bookings = item is null
            ? []
            : await db
                .Allocations.IgnoreQueryFilters()
                .Where(a => a.RaisingId == item.Id || a.LoweringId == item.Id)
                .Select(a => new { a.BookingId, a.EndedById })
                .ToListAsync(stop);
        var ofItem = bookings.SelectMany(b => new[] { b.BookingId, b.EndedById }).OfType<int>().ToHashSet();
        var done = await db
            .Bookings.Where(b => ofItem.Contains(b.Id))
            .OrderByDescending(b => b.Id)
            .Take(12)
            .Select(b => new DoneRow(b.Id, b.Kind, b.Date, b.Words, b.By, b.UndoneOn != null))
            .ToListAsync(stop);
        var given = await db
            .Settlements.Where(s =>
                s.DocumentId == id && s.Kind == SettlementKind.BadDebt && s.Booking!.UndoneOn == null
            )
            .OrderBy(s => s.Id)
            .Select(s => new
            {
                s.Id,
                s.Amount,
                TaxStays = !s.Taxes.Any(),
                Back = db
                    .Settlements.Where(b => b.RecoversId == s.Id && b.Booking!.UndoneOn == null)
                    .Sum(b => b.Amount),
            })
            .ToListAsync(stop);
        var credit = await db
            .AccountItems.Where(i => i.CustomerId == document.CustomerId && i.Open > 0 && i.Sign < 0)
            .SumAsync(i => i.Open, stop);
        var thread = await db
            .Trail.Where(t => t.DocumentId == id)
            .OrderByDescending(t => t.Id)
            .Take(60)
            .Select(t => new ThreadEntry(t.Day, t.Who, t.Text))
            .ToListAsync(stop);
        var post = await db
            .Post.AsNoTracking()
            .Where(p => p.Attachments.Any(a => a.DocumentId == id))
            .OrderByDescending(p => p.Id)
            .Take(10)
            .ToListAsync(stop);
        var from = await SourcesAsync(document, stop);
        var into = await MadeFromAsync(document, stop);
        var booked = await (
            from entry in db.Journal
            where entry.DocumentId == id
            from line in entry.Lines
            join account in db.LedgerAccounts on line.AccountId equals account.Id
            orderby line.Id
            select new { Account = account.Code + " " + account.Name, Line = line }
        )
            .AsNoTracking()
            .ToListAsync(stop);
        return new MarginView(
            document,
            document.Customer!.Name,
            document.Customer.Email,
            item,
            paid,
            credit,
            thread,
            post,
            from.ConvertAll(d => (d.Id, d.Title)),
            into.ConvertAll(d => (d.Id, d.Title, d.State)),
            booked.ConvertAll(b => new EntrySide(b.Account, b.Line.Debit, b.Line.Credit, b.Line.Original))
        )
        {
            Progress = document.CanBeMadeFrom ? (await progress.OfAsync([id], stop)).GetValueOrDefault(id) : null,
            Done = done,
            GivenUp = given
                .Where(g => g.Amount > g.Back)
                .Select(g => new GivenUpDebt(g.Id, g.Amount - g.Back, g.TaxStays && document.Tax != 0))
                .ToList(),
            Revisions = await RevisionsAsync(document, stop),
            Link = await db.DocumentLinks.AsNoTracking().SingleOrDefaultAsync(l => l.DocumentId == id, stop),
            Files = (
                await db
                    .DocumentFiles.Where(f => f.DocumentId == id)
                    .OrderBy(f => f.Id)
                    .Select(f => new
                    {
                        f.Id,
                        f.Name,
                        f.GoesAlong,
                    })
                    .ToListAsync(stop)
            ).ConvertAll(f => (f.Id, f.Name, f.GoesAlong)),
            Standing = await db
                .StandingInvoices.Where(s => s.Occurrences.Any(o => o.DocumentId == id))
                .Select(s => new ValueTuple<int, string>(s.Id, s.Name))
                .FirstOrDefaultAsync(stop)
                is { Item1: > 0 } standing
                ? standing
                : null,
        };
    }

    /// <summary>What it was made from: the document as a whole, and those that its lines came from.</summary>
    private async Task<List<Document>> SourcesAsync(Document document, CancellationToken stop)
    {
        var lines = document.Lines.Select(l => l.FromLineId).OfType<int>().ToList();
        var ids = await db.Set<DocumentLine>()
            .Where(l => lines.Contains(l.Id))
            .Select(l => l.DocumentId)
            .Distinct()
            .ToListAsync(stop);
        if (document.FromDocumentId is { } whole)
            ids.Add(whole);
        return await db.Documents.AsNoTracking().Where(d => ids.Contains(d.Id)).OrderBy(d => d.Id).ToListAsync(stop);
    }

    /// <summary>What was made from it: as a whole, and from its lines.</summary>
    private async Task<List<Document>> MadeFromAsync(Document document, CancellationToken stop)
    {
        var lines = document.Lines.Select(l => l.Id).ToList();
        var ids = await db.Set<DocumentLine>()
            .Where(l => l.FromLineId != null && lines.Contains(l.FromLineId.Value))
            .Select(l => l.DocumentId)
            .Distinct()
            .ToListAsync(stop);
        ids.AddRange(
            await db.Documents.Where(d => d.FromDocumentId == document.Id).Select(d => d.Id).ToListAsync(stop)
        );
        return await db
            .Documents.AsNoTracking()
            .Where(d => ids.Contains(d.Id) && d.State != DocumentState.Cancelled)
            .OrderBy(d => d.Id)
            .ToListAsync(stop);
    }

    private async Task<IReadOnlyList<(int, string, int)>> RevisionsAsync(Document document, CancellationToken stop)
    {
        if (document.Kind != DocumentKind.Quote)
            return [];
        var all = new List<Document> { document };
        while (all[0].RevisesId is { } earlier)
            all.Insert(0, await db.Documents.AsNoTracking().SingleAsync(d => d.Id == earlier, stop));
        while (await NextAsync(all[^1].Id) is { } later)
            all.Add(later);
        return all.Count == 1 ? [] : all.ConvertAll(d => (d.Id, d.Title, d.Revision));

        Task<Document?> NextAsync(int id) =>
            db
                .Documents.AsNoTracking()
                .Where(d => d.RevisesId == id && d.State != DocumentState.Cancelled)
                .OrderBy(d => d.Id)
                .FirstOrDefaultAsync(stop);
    }

    private sealed class Row
    {
        public required Document Document { get; init; }

        public AccountItem? Item { get; init; }
    }

    private async Task<IQueryable<Row>> NarrowAsync(DocumentFilter filter, CancellationToken stop) =>
        Narrow(
            filter,
            await agreements.OnAsync(await head.TodayAsync(stop), null, stop),
            (await SearchAsync(filter.Search, stop))?.Condition(null)
        );

    /// <summary>What a search means: words of the document, words of its customer, or its amount.</summary>
    private sealed record Search(Found Words, Found Customers, IReadOnlyList<long> Amounts)
    {
        internal Expression<Func<Document, bool>> Condition(IReadOnlyCollection<int>? near) =>
            Found.Either(
                Words.Among<Document>(d => d.Id, near),
                Customers.Among<Document>(d => d.CustomerId),
                d => Amounts.Contains(d.Payable)
            );
    }

    /// <returns>Null where nothing is searched.</returns>
    private async Task<Search?> SearchAsync(string typed, CancellationToken stop) =>
        typed.Trim().Length == 0
            ? null
            : new Search(
                await WordSearch.DocumentsAsync(db, typed, stop),
                await WordSearch.CustomersAsync(db, typed, stop),
                WordSearch.AmountsOf(typed, (await head.BusinessAsync(stop)).Format)
            );

    private IQueryable<Row> Narrow(DocumentFilter filter, Agreed agreed, Expression<Func<Document, bool>>? search)
    {
        var documents = db.Documents.AsNoTracking().Where(d => d.State != DocumentState.Cancelled);
        if (filter.Kind is { } kind)
            documents = documents.Where(d => d.Kind == kind);
        documents = filter.Show switch
        {
            "drafts" => documents.Where(d => d.State == DocumentState.Draft),
            "waiting" => documents.Where(d => d.State == DocumentState.Sent),
            "accepted" => documents.Where(d => d.State == DocumentState.Accepted),
            "unfinished" => documents.Where(d => d.State == DocumentState.Issued && d.ClosedOn == null),
            "settled" => documents.Where(d => d.State == DocumentState.Settled),
            _ => documents,
        };
        if (search is not null)
            documents = documents.Where(search);
        var rows = documents.LeftJoin(
            db.AccountItems,
            d => d.Id,
            i => i.DocumentId,
            (d, i) => new Row { Document = d, Item = i }
        );
        return filter.Show switch
        {
            "open" => rows.Where(r => r.Item!.Open > 0),
            "late" => rows.Where(r =>
                r.Item!.Open > 0 && r.Item.Due < agreed.Day && !agreed.NotLate.Contains(r.Item.Id)
            ),
            _ => rows,
        };
    }
}
