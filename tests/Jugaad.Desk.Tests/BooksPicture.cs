using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reports;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// All that accounts, allocations, the journal by day and the states of papers say, as text that can be compared.
/// </summary>
internal static class BooksPicture
{
    internal static Task<string> PictureAsync(this Loft loft) =>
        loft.WithAsync<BooksContext, string>(async db =>
        {
            var items = await db
                .AccountItems.AsNoTracking()
                .OrderBy(i => i.CustomerId)
                .ThenBy(i => i.Number)
                .ThenBy(i => i.Kind)
                .ToListAsync();
            var allocations = await db
                .Allocations.AsNoTracking()
                .Select(a => new
                {
                    Raising = a.Raising.Number,
                    RaisingKind = a.Raising.Kind,
                    Lowering = a.Lowering.Number,
                    a.Amount,
                    a.Date,
                    a.HomeRaising,
                    a.HomeLowering,
                })
                .ToListAsync();
            var posted = await (
                from entry in db.Journal
                from line in entry.Lines
                group line by new { entry.Date, line.AccountId } into same
                select new
                {
                    same.Key.Date,
                    same.Key.AccountId,
                    Sum = same.Sum(l => l.Debit - l.Credit),
                }
            ).ToListAsync();
            var documents = await db
                .Documents.AsNoTracking()
                .OrderBy(d => d.Id)
                .Select(d => new { d.Number, d.State })
                .ToListAsync();
            return string.Join(
                '\n',
                items
                    .Select(i =>
                        $"item {i.CustomerId} {i.Kind} {i.Number} {i.Date:O} {i.Amount} {i.Open} {i.HomeAmount} {i.HomeOpen}"
                    )
                    .Concat(
                        allocations
                            .Select(a =>
                                $"allocation {a.RaisingKind} {a.Raising} {a.Lowering} {a.Amount} {a.Date:O} {a.HomeRaising} {a.HomeLowering}"
                            )
                            .Order()
                    )
                    .Concat(
                        posted
                            .Where(p => p.Sum != 0)
                            .OrderBy(p => p.Date)
                            .ThenBy(p => p.AccountId)
                            .Select(p => $"posted {p.Date:O} {p.AccountId} {p.Sum}")
                    )
                    .Concat(documents.Select(d => $"paper {d.Number} {d.State}"))
            );
        });

    /// <summary>
    /// On each of the days: what is open comes to the balance, aged too, and in home currency to the journal's
    /// receivables.
    /// </summary>
    internal static Task AgreesOnAsync(this Loft loft, IEnumerable<DateOnly> days) =>
        loft.WithAsync<AgedReports>(reports =>
            loft.WithAsync<BooksContext>(async db =>
            {
                var items = await db.AccountItems.AsNoTracking().ToListAsync();
                var allocations = await db.Allocations.IgnoreQueryFilters().AsNoTracking().ToListAsync();
                var posted = await (
                    from entry in db.Journal
                    from line in entry.Lines
                    join account in db.LedgerAccounts on line.AccountId equals account.Id
                    where account.Role == AccountRole.Receivables
                    select new { entry.Date, Amount = line.Debit - line.Credit }
                ).ToListAsync();
                foreach (var day in days)
                {
                    var there = items.Where(i => i.Date <= day).ToList();
                    var counting = allocations.Where(a => a.CountsOn(day)).ToList();
                    foreach (var item in there)
                    {
                        var open =
                            item.Amount
                            - counting.Where(a => a.RaisingId == item.Id || a.LoweringId == item.Id).Sum(a => a.Amount);
                        open.ShouldBeInRange(0, item.Amount, $"{item.Number} on {day:O}");
                    }

                    var home = there.Sum(i =>
                        i.Sign
                        * (
                            i.HomeAmount
                            - counting.Where(a => a.RaisingId == i.Id).Sum(a => a.HomeRaising)
                            - counting.Where(a => a.LoweringId == i.Id).Sum(a => a.HomeLowering)
                        )
                    );
                    home.ShouldBe(posted.Where(p => p.Date <= day).Sum(p => p.Amount), $"receivables on {day:O}");
                    var aged = await reports.AgedAsync(day);
                    (aged.HomeBalance, aged.Receivables).ShouldBe((home, home), $"aged on {day:O}");
                    foreach (var row in aged.Rows)
                        row.Aged.Balance.ShouldBe(
                            there.Where(i => i.CustomerId == row.CustomerId).Sum(i => i.Sign * i.OpenOnDay(counting)),
                            $"{row.Name} on {day:O}"
                        );
                }
            })
        );

    private static long OpenOnDay(this Core.Accounts.AccountItem item, List<Core.Accounts.Allocation> counting) =>
        item.Amount - counting.Where(a => a.RaisingId == item.Id || a.LoweringId == item.Id).Sum(a => a.Amount);
}
