using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A late item in the overdue list.</summary>
public sealed record LateRow(
    int ItemId,
    int CustomerId,
    string Customer,
    string Email,
    string Phone,
    int? DocumentId,
    string Number,
    DateOnly Date,
    DateOnly Due,
    Currency Currency,
    long Amount,
    long Open,
    long HomeOpen
);

/// <summary>A customer who is late, with all that is late, oldest first.</summary>
public sealed record LateCustomer(int CustomerId, IReadOnlyList<LateRow> Rows);

/// <summary>When a customer was last reminded.</summary>
public sealed record LastReminded(int CustomerId, DateOnly Day, int Times);

/// <summary>What narrows the overdue list.</summary>
/// <param name="Sort">One of amount (in home currency, the most first where nothing is asked), customer,
/// oldest.</param>
public sealed record LateFilter(string Search, string Sort);

/// <summary>Reads who is late, with what.</summary>
public sealed class LateScreens(BooksContext db, BooksHead head, IAgreements agreements)
{
    /// <summary>The invoices that are late with the most money, and how many are late.</summary>
    public async Task<(IReadOnlyList<LateRow> Rows, int Count)> MostLateAsync(
        int most,
        CancellationToken stop = default
    )
    {
        var late = await LateAsync(stop);
        return (
            await Rows(late.OrderByDescending(i => i.HomeOpen).ThenBy(i => i.Id).Take(most)).ToListAsync(stop),
            await late.CountAsync(stop)
        );
    }

    /// <summary>Customers who are late, with all that each is late with.</summary>
    public async Task<Stretch<LateCustomer>> ListAsync(
        LateFilter filter,
        ListPlace place,
        CancellationToken stop = default
    )
    {
        var stretch = Stretch.Of(await IdsAsync(filter, stop), id => id, place);
        var rows = (
            await Rows((await NarrowAsync(filter, stop)).Where(i => stretch.Rows.Contains(i.CustomerId)))
                .ToListAsync(stop)
        )
            .OrderBy(r => r.Due)
            .ThenBy(r => r.ItemId)
            .ToLookup(r => r.CustomerId);
        return new Stretch<LateCustomer>(
            [.. stretch.Rows.Select(c => new LateCustomer(c, [.. rows[c]]))],
            stretch.Back,
            stretch.Further
        );
    }

    /// <summary>The customers who are late, in the order of the list.</summary>
    public async Task<IReadOnlyList<int>> IdsAsync(LateFilter filter, CancellationToken stop = default)
    {
        var late = await (await NarrowAsync(filter, stop))
            .GroupBy(i => i.CustomerId)
            .Select(g => new
            {
                Id = g.Key,
                Home = g.Sum(i => i.HomeOpen),
                Oldest = g.Min(i => i.Due),
                Name = db.Customers.Where(c => c.Id == g.Key).Select(c => c.Name).First(),
            })
            .ToListAsync(stop);
        var down = filter.Sort.StartsWith('-') || filter.Sort.Length == 0;
        var sorted = filter.Sort.TrimStart('-') switch
        {
            "customer" => late.OrderBy(c => c.Name, StringComparer.OrdinalIgnoreCase),
            "oldest" => late.OrderBy(c => c.Oldest),
            _ => late.OrderBy(c => c.Home),
        };
        var ids = sorted.ThenByDescending(c => c.Id).Select(c => c.Id).ToList();
        if (down)
            ids.Reverse();
        return ids;
    }

    /// <summary>How many customers are late, and with what in each currency.</summary>
    public async Task<ListTotals> TotalsAsync(LateFilter filter, CancellationToken stop = default)
    {
        var late = await NarrowAsync(filter, stop);
        var sums = await late.GroupBy(i => i.Currency)
            .Select(g => new
            {
                g.Key,
                Open = g.Sum(i => i.Open),
                Amount = g.Sum(i => i.Amount),
            })
            .ToListAsync(stop);
        return new ListTotals(
            await late.Select(i => i.CustomerId).Distinct().CountAsync(stop),
            [
                .. sums.OrderBy(s => s.Key.Code)
                    .Select(s => new ListSum(
                        s.Key,
                        new Dictionary<string, long> { ["amount"] = s.Amount, ["open"] = s.Open }
                    )),
            ]
        );
    }

    /// <summary>All invoices that are late, for a file.</summary>
    /// <param name="only">The customers who were picked; null for all.</param>
    public async Task<Report> ReportAsync(
        LateFilter filter,
        IReadOnlyCollection<int>? only = null,
        CancellationToken stop = default
    )
    {
        var today = await head.TodayAsync(stop);
        var order = (await IdsAsync(filter, stop)).Index().ToDictionary(c => c.Item, c => c.Index);
        var rows = (await Rows(await NarrowAsync(filter, stop)).ToListAsync(stop))
            .Where(r => only?.Contains(r.CustomerId) != false)
            .OrderBy(r => order[r.CustomerId])
            .ThenBy(r => r.Due)
            .ThenBy(r => r.ItemId);
        return new Report(
            "overdue",
            "Overdue",
            "",
            [
                new("customer", "Customer"),
                new("email", "Mail"),
                new("phone", "Telephone"),
                new("invoice", "Invoice"),
                new("date", "Date"),
                new("due", "Due"),
                new("days", "Days late", true),
                new("currency", "Currency"),
                new("amount", "Amount", true),
                new("open", "Open", true),
            ],
            [
                .. rows.Select(r => new ReportRow([
                    r.Customer,
                    r.Email,
                    r.Phone,
                    r.Number,
                    r.Date,
                    r.Due,
                    (decimal)(today.DayNumber - r.Due.DayNumber),
                    r.Currency.Code,
                    new Money(r.Amount, r.Currency),
                    new Money(r.Open, r.Currency),
                ])),
            ]
        );
    }

    public async Task<IReadOnlyDictionary<int, LastReminded>> RemindedAsync(CancellationToken stop = default) =>
        (
            await db
                .Post.Where(p => p.Kind == PostKind.Reminder && p.CustomerId != null && p.State != PostState.Withdrawn)
                .GroupBy(p => p.CustomerId!.Value)
                .Select(g => new
                {
                    g.Key,
                    Day = g.Max(p => p.Day),
                    Times = g.Count(),
                })
                .ToListAsync(stop)
        ).ToDictionary(g => g.Key, g => new LastReminded(g.Key, g.Day, g.Times));

    private async Task<IQueryable<AccountItem>> NarrowAsync(LateFilter filter, CancellationToken stop)
    {
        var late = await LateAsync(stop);
        if (filter.Search.Trim().Length == 0)
            return late;
        var of = (await CustomerFinder.FittingAsync(db, db.Customers.AsNoTracking(), filter.Search, stop)).Select(c =>
            c.Id
        );
        return late.Where(i => of.Contains(i.CustomerId));
    }

    /// <summary>What is past its due day, less what a plan that is kept puts on a later one.</summary>
    internal async Task<IQueryable<AccountItem>> LateAsync(CancellationToken stop)
    {
        var today = await head.TodayAsync(stop);
        var notLate = (await agreements.OnAsync(today, null, stop)).NotLate;
        return db
            .AccountItems.AsNoTracking()
            .Where(i => i.Open > 0 && i.Due < today && i.Sign > 0 && !notLate.Contains(i.Id));
    }

    private IQueryable<LateRow> Rows(IQueryable<AccountItem> late) =>
        from item in late
        join customer in db.Customers on item.CustomerId equals customer.Id
        select new LateRow(
            item.Id,
            customer.Id,
            customer.Name,
            customer.Email,
            customer.Phone != "" ? customer.Phone : customer.Mobile,
            item.DocumentId,
            item.Number,
            item.Date,
            item.Due,
            item.Currency,
            item.Amount,
            item.Open,
            item.HomeOpen
        );
}
