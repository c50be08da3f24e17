using System.Linq.Expressions;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A bank line in the list; minor units, money out is negative.</summary>
public sealed record BankLineRow(
    int Id,
    int StatementId,
    DateOnly Date,
    string Into,
    string Name,
    string Account,
    string Wrote,
    Currency Currency,
    long Amount,
    long Left,
    string PlacedTo
);

/// <summary>What narrows the list of bank lines.</summary>
/// <param name="Show">One of to-place, placed, in, out; empty for all.</param>
/// <param name="Sort">One of date, name, amount; a minus before it turns it round.</param>
public sealed record BankLineFilter(string Show, string Search, string Sort);

/// <summary>Reads all bank lines that were ever taken in.</summary>
public sealed class BankLineScreens(BooksContext db, BooksHead head)
{
    private static readonly ListOrders<Row> Orders = new ListOrders<Row>(r => r.Line.Id, "-date")
        .By("date", r => r.Line.Date)
        .By("name", r => r.Line.Name)
        .By("amount", r => r.Line.Amount);

    private static readonly Expression<Func<Row, BankLineRow>> Shown = r => new BankLineRow(
        r.Line.Id,
        r.Line.StatementId,
        r.Line.Date,
        r.Into,
        r.Line.Name,
        r.Line.Account,
        (r.Line.Reference + " " + r.Line.Text).Trim(),
        r.Line.Currency,
        r.Line.Amount,
        r.Line.Amount - r.Line.Placed,
        string.Join(", ", r.Line.Placements.Select(p => p.Words))
    );

    public async Task<Stretch<BankLineRow>> ListAsync(
        BankLineFilter filter,
        ListPlace place,
        CancellationToken stop = default
    ) => await Orders.ReadAsync(await RowsAsync(filter, stop), filter.Sort, Shown, place, stop);

    /// <inheritdoc cref="ListOrders{TRow}.IdsAsync"/>
    public async Task<IReadOnlyList<int>> IdsAsync(BankLineFilter filter, int most, CancellationToken stop = default) =>
        await Orders.IdsAsync(await RowsAsync(filter, stop), filter.Sort, most, stop);

    /// <summary>What lines are called: their name and day.</summary>
    public async Task<IReadOnlyDictionary<int, string>> NamesAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop = default
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        return await db
            .BankLines.Where(l => ids.Contains(l.Id))
            .ToDictionaryAsync(l => l.Id, l => $"{l.Name} {format.Date(l.Date)}".TrimStart(), stop);
    }

    /// <summary>What came in and went out, and what is left to place of it.</summary>
    public async Task<ListTotals> TotalsAsync(BankLineFilter filter, CancellationToken stop = default)
    {
        var sums = await (await NarrowAsync(filter, stop))
            .GroupBy(l => l.Currency)
            .Select(g => new
            {
                g.Key,
                Count = g.Count(),
                Amount = g.Sum(l => l.Amount),
                Placed = g.Sum(l => l.Placed),
            })
            .ToListAsync(stop);
        return new ListTotals(
            sums.Sum(s => s.Count),
            [
                .. sums.OrderBy(s => s.Key.Code)
                    .Select(s => new ListSum(
                        s.Key,
                        new Dictionary<string, long> { ["amount"] = s.Amount, ["left"] = s.Amount - s.Placed }
                    )),
            ]
        );
    }

    /// <summary>All that the filter lets through, for a file.</summary>
    /// <param name="only">The rows that were picked; null for all.</param>
    public async Task<Report> ReportAsync(
        BankLineFilter filter,
        IReadOnlyCollection<int>? only = null,
        CancellationToken stop = default
    )
    {
        var rows = await Orders
            .Sorted(await RowsAsync(filter, stop), filter.Sort, only)
            .Select(Shown)
            .ToListAsync(stop);
        return new Report(
            "bank-lines",
            "Bank lines",
            "",
            [
                new("date", "Date"),
                new("into", "Our account"),
                new("name", "Name"),
                new("account", "Their account"),
                new("wrote", "What they wrote"),
                new("currency", "Currency"),
                new("amount", "Amount", true),
                new("left", "To place", true),
                new("placed", "Placed to"),
            ],
            rows.ConvertAll(r => new ReportRow([
                r.Date,
                r.Into,
                r.Name,
                r.Account,
                r.Wrote,
                r.Currency.Code,
                new Money(r.Amount, r.Currency),
                new Money(r.Left, r.Currency),
                r.PlacedTo,
            ]))
        );
    }

    private async Task<IQueryable<Row>> RowsAsync(BankLineFilter filter, CancellationToken stop) =>
        from line in await NarrowAsync(filter, stop)
        join account in db.LedgerAccounts on line.AccountId equals account.Id
        select new Row { Line = line, Into = account.Name };

    private async Task<IQueryable<BankLine>> NarrowAsync(BankLineFilter filter, CancellationToken stop)
    {
        var lines = db.BankLines.AsNoTracking();
        lines = filter.Show switch
        {
            "to-place" => lines.Where(l => l.Placed != l.Amount),
            "placed" => lines.Where(l => l.Placed == l.Amount),
            "in" => lines.Where(l => l.Amount > 0),
            "out" => lines.Where(l => l.Amount < 0),
            _ => lines,
        };
        if (filter.Search.Trim().Length == 0)
            return lines;
        var format = (await head.BusinessAsync(stop)).Format;
        var text = SearchText.Anywhere(filter.Search);
        var amounts = WordSearch.AmountsOf(filter.Search, format).SelectMany(a => new[] { a, -a }).ToList();
        return lines.Where(l =>
            EF.Functions.Like(l.Name, text, "\\")
            || EF.Functions.Like(l.Text, text, "\\")
            || EF.Functions.Like(l.Reference, text, "\\")
            || EF.Functions.Like(l.Account, text, "\\")
            || amounts.Contains(l.Amount)
        );
    }

    private sealed class Row
    {
        public required BankLine Line { get; init; }

        public required string Into { get; init; }
    }
}
