using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>The strip at the foot of every page.</summary>
/// <param name="OverdueHome">All that is late, in minor units of the home currency.</param>
public sealed record Tally(int Drafts, int PostWaiting, int PostFailed, long CreditHome, long OverdueHome, int OverdueCount, DateOnly Today, bool CalendarMoves);

/// <summary>A document to be dealt with.</summary>
public sealed record ToDo(int Id, DocumentKind Kind, string? Number, string Customer, int CustomerId, DateOnly Date, DateOnly? Until, Currency Currency, long Payable);

/// <summary>Money that came in and is not set against anything in full.</summary>
public sealed record UnplacedRow(int ReceiptId, int CustomerId, string Customer, string Number, DateOnly Date, Currency Currency, long Open);

/// <summary>What there is to do today.</summary>
public sealed record DayView(
    DateOnly Today, IReadOnlyList<ToDo> Accepted, IReadOnlyList<ToDo> Drafts, IReadOnlyList<ToDo> Waiting,
    IReadOnlyList<UnplacedRow> Unplaced, IReadOnlyList<LateRow> Late, IReadOnlyList<PostItem> Post);

/// <summary>Where the jump box leads.</summary>
public sealed record JumpTarget(string Kind, string Title, string Detail, string Address);

/// <summary>Reads the day sheet, the tally and the jump box.</summary>
public sealed class DayScreens(BooksContext db, BooksHead head, AccountScreens accounts)
{
    public async Task<Tally> TallyAsync(CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var today = await head.TodayAsync(stop);
        var late = db.AccountItems.Where(i => i.Open > 0 && i.Due < today && i.Sign > 0);
        return new Tally(
            await db.Documents.CountAsync(d => d.State == DocumentState.Draft, stop),
            await db.Post.CountAsync(p => p.State == PostState.Waiting || p.State == PostState.OnItsWay, stop),
            await db.Post.CountAsync(p => p.State == PostState.Failed, stop),
            await db.AccountItems.Where(i => i.Open > 0 && i.Kind == AccountItemKind.Receipt).SumAsync(i => i.HomeOpen, stop),
            await late.SumAsync(i => i.HomeOpen, stop), await late.CountAsync(stop), today, business.PinnedDay is not null);
    }

    public async Task<DayView> DayAsync(CancellationToken stop = default)
    {
        var accepted = db.Documents.Where(d => d.Kind == DocumentKind.Quote && d.State == DocumentState.Accepted && !db.Documents.Any(m => m.FromDocumentId == d.Id && m.State != DocumentState.Cancelled));
        var unplaced = from item in db.AccountItems
                       where item.Open > 0 && item.Kind == AccountItemKind.Receipt
                       join customer in db.Customers on item.CustomerId equals customer.Id
                       orderby item.Date
                       select new UnplacedRow(item.ReceiptId!.Value, customer.Id, customer.Name, item.Number, item.Date, item.Currency, item.Open);
        return new DayView(
            await head.TodayAsync(stop),
            await ToDosAsync(accepted, stop),
            await ToDosAsync(db.Documents.Where(d => d.State == DocumentState.Draft), stop),
            await ToDosAsync(db.Documents.Where(d => d.Kind == DocumentKind.Quote && d.State == DocumentState.Sent), stop),
            await unplaced.Take(8).ToListAsync(stop),
            await accounts.LateAsync(stop),
            await db.Post.AsNoTracking().Where(p => p.State == PostState.Failed || p.State == PostState.Waiting || p.State == PostState.OnItsWay).OrderBy(p => p.Id).Take(8).ToListAsync(stop));
    }

    /// <summary>Customers, documents by number or amount, and items that match a text.</summary>
    public async Task<IReadOnlyList<JumpTarget>> JumpAsync(string text, CancellationToken stop = default)
    {
        if (text.Trim().Length == 0) return [];
        var business = await head.BusinessAsync(stop);
        var pattern = SearchText.Anywhere(text);
        var found = new List<JumpTarget>();
        var customers = await db.Customers.Where(c => EF.Functions.Like(c.Name, pattern, "\\") || EF.Functions.Like(c.Code, pattern, "\\")).OrderBy(c => c.Name).Take(6).Select(c => new { c.Id, c.Name, c.Code, c.Address.City }).ToListAsync(stop);
        found.AddRange(customers.Select(c => new JumpTarget("customer", c.Name, $"{c.Code} {c.City}".Trim(), $"/customers/{c.Id}")));
        var amounts = AmountsOf(text, business.Format);
        var documents = await db.Documents.AsNoTracking().Include(d => d.Customer)
            .Where(d => d.State != DocumentState.Cancelled && (EF.Functions.Like(d.Number!, pattern, "\\") || EF.Functions.Like(d.PurchaseOrder, pattern, "\\") || amounts.Contains(d.Payable)))
            .OrderByDescending(d => d.Date).ThenByDescending(d => d.Id).Take(8).ToListAsync(stop);
        found.AddRange(documents.Select(d => new JumpTarget(d.Policy.Word, d.Number ?? d.Title, $"{d.Customer!.Name}, {business.Format.WithCode(d.Payable, d.Currency)}", $"/papers/{d.Id}")));
        var receipts = await db.Receipts.Where(r => EF.Functions.Like(r.Number, pattern, "\\") || amounts.Contains(r.Amount)).OrderByDescending(r => r.Id).Take(4)
            .Join(db.Customers, r => r.CustomerId, c => c.Id, (r, c) => new { r.Id, r.Number, r.Amount, r.Currency, c.Name }).ToListAsync(stop);
        found.AddRange(receipts.Select(r => new JumpTarget("receipt", r.Number, $"{r.Name}, {business.Format.WithCode(r.Amount, r.Currency)}", $"/receive/{r.Id}")));
        var items = await db.Items.Where(i => EF.Functions.Like(i.Name, pattern, "\\") || EF.Functions.Like(i.Code, pattern, "\\") || i.Barcode == text.Trim()).OrderBy(i => i.Name).Take(5).Select(i => new { i.Id, i.Name, i.Code }).ToListAsync(stop);
        found.AddRange(items.Select(i => new JumpTarget("item", i.Name, i.Code, $"/items/{i.Id}")));
        return found;
    }

    private static async Task<IReadOnlyList<ToDo>> ToDosAsync(IQueryable<Document> documents, CancellationToken stop) =>
        await documents.OrderBy(d => d.Date).ThenBy(d => d.Id).Take(12)
            .Select(d => new ToDo(d.Id, d.Kind, d.Number, d.Customer!.Name, d.CustomerId, d.Date, d.ValidUntil ?? d.DueDate, d.Currency, d.Payable)).ToListAsync(stop);

    private static readonly int[] MinorFactors = [1, 100, 1000];

    /// <summary>What a typed figure may mean in minor units of currencies with 0, 2 and 3 decimals.</summary>
    private static List<long> AmountsOf(string text, DisplayFormat format)
    {
        try
        {
            var value = Math.Abs(format.Read(text, 4, ""));
            return value > Limits.Figure ? [] : MinorFactors.Select(f => value * f).Where(m => m == decimal.Truncate(m)).Select(m => (long)m).ToList();
        }
        catch (Core.RefusalException)
        {
            return [];
        }
    }

    /// <summary>Exchange rates, newest first.</summary>
    public Task<ListPage<Core.Exchange.ExchangeRate>> RatesAsync(int page, CancellationToken stop = default) =>
        db.ExchangeRates.AsNoTracking().OrderByDescending(r => r.From).ThenBy(r => r.Currency).PageAsync(page, stop, 24);
}
