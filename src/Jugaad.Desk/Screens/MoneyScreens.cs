using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>
/// One of our accounts, as the books and as the bank see it. Amounts are minor units of the account's currency.
/// </summary>
/// <param name="Books">What the books say.</param>
/// <param name="AtHome">What that is kept at, in minor units of home.</param>
/// <param name="Bank">What the last statement ended with; null where there is none that says.</param>
/// <param name="BankOn">The day of that.</param>
/// <param name="Lines">Bank lines that are to be placed.</param>
/// <param name="ToPlace">What they come to: at the bank, and not in the books yet.</param>
/// <param name="Reconciled">The end of the last statement that was placed in full and agreed with the books.</param>
/// <param name="Counted">The day on which a cash box was counted last.</param>
public sealed record OwnAccount(
    int Id,
    string Name,
    MoneyKind Kind,
    Currency Currency,
    long Books,
    long AtHome,
    long? Bank,
    DateOnly? BankOn,
    int Lines,
    long ToPlace,
    DateOnly? Reconciled,
    DateOnly? Counted
)
{
    /// <summary>
    /// What is in the books and was seen on no statement: entered by hand, or later than the last one.
    /// </summary>
    public long? Unseen => Bank is { } bank ? Books + ToPlace - bank : null;
}

/// <summary>Reads what there is on our own accounts.</summary>
public sealed class MoneyScreens(BooksContext db)
{
    private const int MostStatements = 36;

    public async Task<IReadOnlyList<OwnAccount>> AccountsAsync(CancellationToken stop = default)
    {
        var list = new List<OwnAccount>();
        var home = await db.Businesses.Select(b => b.HomeCurrency).FirstAsync(stop);
        foreach (
            var account in await db
                .LedgerAccounts.AsNoTracking()
                .Where(a => a.Role == AccountRole.Money)
                .OrderBy(a => a.Code)
                .ToListAsync(stop)
        )
        {
            var lines = db.Set<JournalLine>().Where(l => l.AccountId == account.Id);
            var atHome = await lines.SumAsync(l => l.Debit - l.Credit, stop);
            var books = account.Currency is null ? atHome : await lines.SumAsync(l => l.OriginalAmount ?? 0, stop);
            if (account.Retired && books == 0)
                continue;
            var last = await db
                .BankStatements.Where(s => s.AccountId == account.Id && s.Closing != null)
                .OrderByDescending(s => s.Until)
                .ThenByDescending(s => s.Id)
                .Select(s => new { s.Until, s.Closing })
                .FirstOrDefaultAsync(stop);
            var open = db.BankLines.Where(l => l.AccountId == account.Id && l.Placed != l.Amount);
            list.Add(
                new OwnAccount(
                    account.Id,
                    account.Name,
                    account.Kind,
                    account.Currency ?? home,
                    books,
                    atHome,
                    last?.Closing,
                    last?.Until,
                    await open.CountAsync(stop),
                    await open.SumAsync(l => l.Amount - l.Placed, stop),
                    await ReconciledAsync(account, stop),
                    await db.TillCounts.Where(c => c.AccountId == account.Id).MaxAsync(c => (DateOnly?)c.Date, stop)
                )
            );
        }

        return list;
    }

    private async Task<DateOnly?> ReconciledAsync(LedgerAccount account, CancellationToken stop)
    {
        var isForeign = account.Currency is not null;
        var ends = await db
            .BankStatements.Where(s =>
                s.AccountId == account.Id && s.Closing != null && s.Lines.All(l => l.Placed == l.Amount)
            )
            .OrderByDescending(s => s.Until)
            .ThenByDescending(s => s.Id)
            .Select(s => new { s.Until, s.Closing })
            .Take(MostStatements)
            .ToListAsync(stop);
        foreach (var end in ends)
            if (
                await (
                    from entry in db.Journal
                    where entry.Date <= end.Until
                    from line in entry.Lines
                    where line.AccountId == account.Id
                    select isForeign ? line.OriginalAmount ?? 0 : line.Debit - line.Credit
                ).SumAsync(stop) == end.Closing
            )
                return end.Until;
        return null;
    }
}
