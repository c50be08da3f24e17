using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A receipt in a list. Amounts are minor units.</summary>
public sealed record ReceiptRow(int Id, string Number, int CustomerId, string Customer, DateOnly Date, string Into, string Reference, Currency Currency, long Amount, long Open);

/// <summary>What a receipt or credit was set against.</summary>
public sealed record PlacedOn(int AllocationId, int? DocumentId, string Number, DateOnly Date, long Amount);

/// <summary>One receipt with what it was set against and what it could be.</summary>
public sealed record ReceiptView(
    ReceiptRow Receipt, AccountItem Item, IReadOnlyList<PlacedOn> Placed, IReadOnlyList<AccountItem> CouldPay, IReadOnlyList<ThreadEntry> Thread,
    IReadOnlyList<(string Account, long Debit, long Credit)> Booked);

/// <summary>Reads receipts and what is open for them.</summary>
public sealed class ReceiveScreens(BooksContext db)
{
    public Task<ListPage<ReceiptRow>> ListAsync(bool unplaced, string search, int page, CancellationToken stop = default)
    {
        var rows = Rows();
        if (unplaced) rows = rows.Where(r => r.Item.Open > 0);
        if (search.Trim().Length > 0)
        {
            var pattern = SearchText.Anywhere(search);
            rows = rows.Where(r => EF.Functions.Like(r.Receipt.Number, pattern, "\\") || EF.Functions.Like(r.Customer, pattern, "\\") || EF.Functions.Like(r.Receipt.Reference, pattern, "\\"));
        }

        return Shown(rows.OrderByDescending(r => r.Receipt.Date).ThenByDescending(r => r.Receipt.Id)).PageAsync(page, stop);
    }

    /// <returns>Null where there is no such receipt.</returns>
    public async Task<ReceiptView?> ReceiptAsync(int id, CancellationToken stop = default)
    {
        var row = await Shown(Rows().Where(r => r.Receipt.Id == id)).SingleOrDefaultAsync(stop);
        if (row is null) return null;
        var item = await db.AccountItems.AsNoTracking().SingleAsync(i => i.ReceiptId == id, stop);
        var placed = await db.Allocations.Where(a => a.LoweringId == item.Id).OrderBy(a => a.Date).ThenBy(a => a.Id)
            .Select(a => new PlacedOn(a.Id, a.Raising.DocumentId, a.Raising.Number, a.Date, a.Amount)).ToListAsync(stop);
        var thread = await db.Trail.Where(t => t.ReceiptId == id).OrderByDescending(t => t.Id).Take(40).Select(t => new ThreadEntry(t.Day, t.Who, t.Text)).ToListAsync(stop);
        var booked = await (from entry in db.Journal
                            where entry.ReceiptId == id
                            from line in entry.Lines
                            join account in db.LedgerAccounts on line.AccountId equals account.Id
                            select new { Account = account.Code + " " + account.Name, line.Debit, line.Credit }).ToListAsync(stop);
        return new ReceiptView(row, item, placed, item.Open > 0 ? await OpenAsync(row.CustomerId, stop) : [], thread, booked.ConvertAll(b => (b.Account, b.Debit, b.Credit)));
    }

    /// <summary>What a customer owes, oldest first.</summary>
    public async Task<IReadOnlyList<AccountItem>> OpenAsync(int customerId, CancellationToken stop = default) =>
        OldestFirst.Order(await db.AccountItems.AsNoTracking().Where(i => i.CustomerId == customerId && i.Open > 0 && i.Sign > 0).ToListAsync(stop)).ToList();

    /// <summary>Where money can come in.</summary>
    public async Task<IReadOnlyList<(int Id, string Name)>> MoneyAccountsAsync(CancellationToken stop = default) =>
        (await db.LedgerAccounts.Where(a => a.Role == AccountRole.Money && !a.Retired).OrderBy(a => a.Code).Select(a => new { a.Id, a.Name }).ToListAsync(stop)).ConvertAll(a => (a.Id, a.Name));

    private sealed class Row
    {
        public required Receipt Receipt { get; init; }

        public required AccountItem Item { get; init; }

        public required string Customer { get; init; }

        public required string Account { get; init; }
    }

    private IQueryable<Row> Rows() =>
        from receipt in db.Receipts.AsNoTracking()
        join item in db.AccountItems on receipt.Id equals item.ReceiptId
        join customer in db.Customers on receipt.CustomerId equals customer.Id
        join account in db.LedgerAccounts on receipt.MoneyAccountId equals account.Id
        select new Row { Receipt = receipt, Item = item, Customer = customer.Name, Account = account.Name };

    private static IQueryable<ReceiptRow> Shown(IQueryable<Row> rows) => rows.Select(r => new ReceiptRow(
        r.Receipt.Id, r.Receipt.Number, r.Receipt.CustomerId, r.Customer, r.Receipt.Date, r.Account, r.Receipt.Reference, r.Receipt.Currency, r.Receipt.Amount, r.Item.Open));
}
