using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A statement in the list. Amounts are minor units.</summary>
/// <param name="ToPlace">Lines that are not placed in full.</param>
/// <param name="Books">What the books say for the account at the statement's end.</param>
public sealed record StatementRow(
    int Id,
    string Account,
    string Number,
    DateOnly From,
    DateOnly Until,
    Currency Currency,
    long? Opening,
    long? Closing,
    int Lines,
    int ToPlace,
    long Books,
    string Remarks
)
{
    /// <summary>Whether all of it is placed and the books say what the bank says.</summary>
    public bool Reconciled => ToPlace == 0 && Closing == Books;
}

/// <summary>Reads bank statements, their lines, and what was learned of payers.</summary>
public sealed class BankScreens(BooksContext db)
{
    /// <summary>The newest statements.</summary>
    public async Task<IReadOnlyList<StatementRow>> StatementsAsync(CancellationToken stop = default)
    {
        var rows = await (
            from statement in db.BankStatements
            join account in db.LedgerAccounts on statement.AccountId equals account.Id
            orderby statement.Until descending, statement.Id descending
            select new
            {
                statement.Id,
                statement.AccountId,
                account.Name,
                statement.Number,
                statement.From,
                statement.Until,
                statement.Currency,
                statement.Opening,
                statement.Closing,
                Lines = statement.Lines.Count,
                ToPlace = statement.Lines.Count(l => l.Placed != l.Amount),
                statement.Remarks,
            }
        )
            .Take(24)
            .ToListAsync(stop);
        var list = new List<StatementRow>();
        foreach (var row in rows)
        {
            var books = await (
                from entry in db.Journal
                where entry.Date <= row.Until
                from line in entry.Lines
                where line.AccountId == row.AccountId
                select line.Debit - line.Credit
            ).SumAsync(stop);
            list.Add(
                new StatementRow(
                    row.Id,
                    row.Name,
                    row.Number,
                    row.From,
                    row.Until,
                    row.Currency,
                    row.Opening,
                    row.Closing,
                    row.Lines,
                    row.ToPlace,
                    books,
                    row.Remarks
                )
            );
        }

        return list;
    }

    /// <summary>The lines of a statement with what each was placed as; null where there is none.</summary>
    public Task<BankStatement?> StatementAsync(int id, CancellationToken stop = default) =>
        db
            .BankStatements.AsNoTracking()
            .Include(s => s.Lines.OrderBy(l => l.Position))
                .ThenInclude(l => l.Placements)
            .SingleOrDefaultAsync(s => s.Id == id, stop);

    public Task<BankLine?> LineAsync(int id, CancellationToken stop = default) =>
        db.BankLines.AsNoTracking().Include(l => l.Placements).SingleOrDefaultAsync(l => l.Id == id, stop);

    /// <summary>Lines that were placed last, newest first, to be put back.</summary>
    public async Task<IReadOnlyList<BankLine>> LatelyPlacedAsync(CancellationToken stop = default) =>
        await db
            .BankLines.AsNoTracking()
            .Include(l => l.Placements)
            .Where(l => l.Placed != 0)
            .OrderByDescending(l => l.Placements.Max(p => p.Id))
            .Take(8)
            .ToListAsync(stop);

    /// <summary>How many lines are to be placed, and what came in with them, in minor units.</summary>
    public async Task<(int Lines, long In)> ToPlaceAsync(CancellationToken stop = default)
    {
        var open = db.BankLines.Where(l => l.Placed != l.Amount);
        return (
            await open.CountAsync(stop),
            await open.Where(l => l.Amount > 0).SumAsync(l => l.Amount - l.Placed, stop)
        );
    }

    /// <summary>What was learned of payers, newest first.</summary>
    public async Task<IReadOnlyList<(PayerRule Rule, string Of)>> RulesAsync(CancellationToken stop = default)
    {
        var rows = await db
            .PayerRules.AsNoTracking()
            .OrderByDescending(r => r.Id)
            .Take(200)
            .Select(r => new
            {
                Rule = r,
                Of = r.CustomerId != null
                    ? db.Customers.Where(c => c.Id == r.CustomerId).Select(c => c.Name).FirstOrDefault()
                    : db
                        .LedgerAccounts.Where(a => a.Id == r.LedgerAccountId)
                        .Select(a => a.Code + " " + a.Name)
                        .FirstOrDefault(),
            })
            .ToListAsync(stop);
        return rows.ConvertAll(r => (r.Rule, r.Of ?? ""));
    }

    /// <summary>The accounts whose CSV columns are remembered.</summary>
    public async Task<IReadOnlyList<(int Id, string Name)>> RememberedAsync(CancellationToken stop = default) =>
        (
            await (
                from map in db.CsvMaps
                join account in db.LedgerAccounts on map.AccountId equals account.Id
                orderby account.Code
                select new { account.Id, account.Name }
            ).ToListAsync(stop)
        ).ConvertAll(a => (a.Id, a.Name));

    /// <summary>The bank accounts whose statements can be taken in.</summary>
    public async Task<IReadOnlyList<(int Id, string Name)>> AccountsAsync(CancellationToken stop = default) =>
        (
            await db
                .LedgerAccounts.Where(a => a.Role == AccountRole.Money && a.Kind == MoneyKind.Bank && !a.Retired)
                .OrderBy(a => a.Code)
                .Select(a => new { a.Id, a.Name })
                .ToListAsync(stop)
        ).ConvertAll(a => (a.Id, a.Name));
}
