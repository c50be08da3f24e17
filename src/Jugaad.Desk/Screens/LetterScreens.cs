using System.Globalization;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A step that was taken.</summary>
/// <param name="Post">What became of it in the post; null for a call.</param>
public sealed record LetterRow(
    int Id,
    DateOnly Day,
    int CustomerId,
    string Customer,
    int Step,
    StepWay Way,
    Sums Asked,
    int? PostItemId,
    PostItem? Post
);

/// <summary>Somebody, or something of theirs, that is left out of letters.</summary>
public sealed record LeftOutRow(LeftOut Left, string Customer, string Number);

/// <summary>Reads what was written by the steps of ladders, and who is left out.</summary>
public sealed class LetterScreens(BooksContext db, BooksHead head)
{
    /// <summary>The steps that were taken last.</summary>
    /// <param name="customerId">With one customer only.</param>
    public async Task<IReadOnlyList<LetterRow>> LatelyAsync(
        int most,
        int? customerId = null,
        CancellationToken stop = default
    )
    {
        var rows = await (
            from letter in db.ChaseLetters.AsNoTracking()
            join customer in db.Customers on letter.CustomerId equals customer.Id
            where customerId == null || letter.CustomerId == customerId
            orderby letter.Day descending, letter.Id descending
            select new
            {
                letter.Id,
                letter.Day,
                letter.CustomerId,
                customer.Name,
                letter.Step,
                letter.Way,
                letter.PostItemId,
                Asked = letter
                    .Items.Join(db.AccountItems, i => i.ItemId, a => a.Id, (i, a) => new { i.Asked, a.Currency })
                    .ToList(),
                Post = db.Post.FirstOrDefault(p => p.Id == letter.PostItemId),
            }
        )
            .Take(most)
            .ToListAsync(stop);
        return rows.ConvertAll(r => new LetterRow(
            r.Id,
            r.Day,
            r.CustomerId,
            r.Name,
            r.Step,
            r.Way,
            Sums.Of(r.Asked.Select(a => new Money(a.Asked, a.Currency))),
            r.PostItemId,
            r.Post
        ));
    }

    /// <summary>Who and what is left out now.</summary>
    /// <param name="customerId">Of one customer only.</param>
    public async Task<IReadOnlyList<LeftOutRow>> LeftOutAsync(int? customerId = null, CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var rows = await (
            from left in db.LeftOut.AsNoTracking()
            join customer in db.Customers on left.CustomerId equals customer.Id
            where left.EndedOn == null && (customerId == null || left.CustomerId == customerId)
            orderby customer.Name, left.Id
            select new
            {
                left,
                customer.Name,
                Number = db.AccountItems.Where(i => i.Id == left.ItemId).Select(i => i.Number).FirstOrDefault(),
            }
        ).ToListAsync(stop);
        return [.. rows.Where(r => r.left.HoldsOn(today)).Select(r => new LeftOutRow(r.left, r.Name, r.Number ?? ""))];
    }

    /// <summary>All ladders, by name.</summary>
    public async Task<IReadOnlyList<LetterLadder>> LaddersAsync(CancellationToken stop = default) =>
        await db.Ladders.AsNoTracking().Include(l => l.Steps).OrderBy(l => l.Name).ToListAsync(stop);

    public async Task<IReadOnlyList<Holiday>> HolidaysAsync(CancellationToken stop = default) =>
        await db.Holidays.AsNoTracking().OrderBy(h => h.Day).ToListAsync(stop);

    /// <summary>Tax codes for what late payment costs: what bears no tax first.</summary>
    public async Task<IReadOnlyList<(string, string)>> ChargeTaxesAsync(CancellationToken stop = default) =>
        [
            .. (await db.TaxCodes.AsNoTracking().Where(c => !c.Retired).ToListAsync(stop))
                .OrderByDescending(c => c.Category == TaxCategory.OutOfScope)
                .ThenByDescending(c => c.Category == TaxCategory.Exempt)
                .ThenBy(c => c.Code, StringComparer.Ordinal)
                .Select(c => (c.Id.ToString(CultureInfo.InvariantCulture), $"{c.Code}: {c.Name}")),
        ];

    /// <summary>Ledger accounts for it.</summary>
    public async Task<IReadOnlyList<(string, string)>> ChargeAccountsAsync(CancellationToken stop = default) =>
        [
            .. (
                await db
                    .LedgerAccounts.AsNoTracking()
                    .Where(a => !a.Retired && (a.Role == AccountRole.Sales || a.Role == AccountRole.Other))
                    .OrderBy(a => a.Code)
                    .ToListAsync(stop)
            ).Select(a => (a.Id.ToString(CultureInfo.InvariantCulture), $"{a.Code} {a.Name}")),
        ];
}
