using Jugaad.Core.Accounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Paying;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Banking;

/// <summary>
/// Fetches the statements of new days from a bank, where one is connected, and goes on from the last that was taken in.
/// </summary>
public sealed class BankDays(
    BooksContext db,
    BooksHead head,
    Statements statements,
    IEnumerable<IBank> banks,
    CardPayouts payouts
)
{
    /// <returns>How many new lines came.</returns>
    public async Task<int> FetchAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var lines = 0;
        foreach (var bank in banks)
        {
            foreach (
                var account in await db
                    .LedgerAccounts.AsNoTracking()
                    .Where(a => a.Iban != "" && !a.Retired)
                    .ToListAsync(stop)
            )
            {
                var last = await db
                    .BankStatements.Where(s => s.AccountId == account.Id && s.Closing != null)
                    .OrderByDescending(s => s.Until)
                    .ThenByDescending(s => s.Id)
                    .FirstOrDefaultAsync(stop);
                if (last is null || last.Until >= today.AddDays(-1))
                    continue;
                var (from, until) = (last.Until.AddDays(1), today.AddDays(-1));
                var bills = (
                    await (
                        from item in db.AccountItems
                        where
                            item.Open > 0
                            && item.Kind == AccountItemKind.Invoice
                            && item.Currency == home
                            && item.Date <= until
                        join customer in db.Customers on item.CustomerId equals customer.Id
                        select new
                        {
                            item.Number,
                            customer.Id,
                            customer.Name,
                            item.Open,
                            item.Due,
                        }
                    ).ToListAsync(stop)
                ).ConvertAll(b => new OpenBill(b.Number, b.Id, b.Name, b.Open, b.Due));
                // What came already and waits to be placed is not paid again.
                var waiting = await db
                    .BankLines.Where(l => l.Placed != l.Amount && l.Amount > 0)
                    .Select(l => l.Amount)
                    .ToListAsync(stop);
                var file = await bank.StatementAsync(
                    new StatementAsked(
                        account.Iban,
                        home,
                        from,
                        until,
                        last.Closing!.Value,
                        [.. bills.Where(b => !waiting.Contains(b.Open))]
                    )
                    {
                        Payouts =
                        [
                            .. (await payouts.OnTheWayAsync(stop))
                                .Where(p => p.Net > 0 && !waiting.Contains(p.Net))
                                .Select(p => new PlayedPayout(p.Reference, p.Day, p.Net)),
                        ],
                    },
                    stop
                );
                if (file is not null)
                    lines += (
                        await statements.ReadInAsync(file, $"statement-{until:yyyy-MM-dd}.xml", account.Id, null, stop)
                    ).Taken;
            }
        }

        return lines;
    }
}
