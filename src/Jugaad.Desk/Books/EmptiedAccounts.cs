using Jugaad.Core;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>
/// Sees to it that an account in another currency that came to nothing stands for nothing at home, on every day,
/// whatever was posted, dated back or undone.
/// </summary>
public sealed class EmptiedAccounts(BooksContext db)
{
    /// <summary>What should be taken off an account by day, and what is.</summary>
    public async Task<IReadOnlyList<(DateOnly Day, long Should, long Is)>> OfAsync(
        int accountId,
        CancellationToken stop = default
    )
    {
        var lines = await (
            from entry in db.Journal
            from line in entry.Lines
            where line.AccountId == accountId
            group line by new { entry.Date, IsRest = entry.Event == JournalEvent.AccountEmptied } into same
            select new
            {
                same.Key.Date,
                same.Key.IsRest,
                Amount = same.Sum(l => l.OriginalAmount ?? 0),
                Home = same.Sum(l => l.Debit - l.Credit),
            }
        ).ToListAsync(stop);
        var should = EmptiedAccount.Rests(lines.Where(l => !l.IsRest).Select(l => (l.Date, l.Amount, l.Home)));
        var taken = lines.Where(l => l.IsRest).ToDictionary(l => l.Date, l => -l.Home);
        return
        [
            .. should
                .Keys.Union(taken.Keys)
                .Order()
                .Select(d => (d, should.GetValueOrDefault(d), taken.GetValueOrDefault(d))),
        ];
    }

    /// <summary>Posts what is missing of it, or too much.</summary>
    internal async Task FollowAsync(IReadOnlyCollection<int> accountIds, CancellationToken stop)
    {
        foreach (
            var account in await db
                .LedgerAccounts.AsNoTracking()
                .Where(a => accountIds.Contains(a.Id) && a.Currency != null)
                .ToListAsync(stop)
        )
        {
            var wrong = (await OfAsync(account.Id, stop)).Where(d => d.Should != d.Is).ToList();
            if (wrong.Count == 0)
                continue;
            var differences =
                await db
                    .LedgerAccounts.Where(a => a.Role == AccountRole.ExchangeDifferences)
                    .OrderBy(a => a.Id)
                    .Select(a => (int?)a.Id)
                    .FirstOrDefaultAsync(stop)
                ?? throw new RefusalException(
                    "",
                    "The chart of accounts lacks one for exchange differences. Add it under Setup first."
                );
            foreach (var (day, should, taken) in wrong)
                db.Journal.Add(
                    PostingRules.ForAccountEmptied(account.Id, account.Name, day, should - taken, differences)
                );
        }
    }
}
