using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>The next return to an authority.</summary>
/// <param name="Due">The day on which it is due.</param>
/// <param name="DaysLeft">Until then; below zero once that has passed.</param>
public sealed record ReturnDue(TaxAuthority Authority, DateOnly From, DateOnly To, DateOnly Due, int DaysLeft)
{
    /// <summary>Whether its period has ended, so that it can be filed.</summary>
    public bool HasEnded { get; init; }
}

/// <summary>A return about to be filed.</summary>
/// <param name="Seen">The tax that the person saw, in minor units, so that nothing is filed unseen.</param>
public sealed record ReturnToFile(int AuthorityId, DateOnly From, DateOnly To, long Seen, string Reference);

/// <summary>Files returns, one period after the other.</summary>
public sealed class ReturnFiling(BooksContext db, BookWriter writer, BooksHead head, TaxReturns returns)
{
    /// <summary>The next return to each authority with which the business is registered, the first due first.</summary>
    public async Task<IReadOnlyList<ReturnDue>> DueAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var due = new List<ReturnDue>();
        foreach (var authority in await db.TaxAuthorities.AsNoTracking().ToListAsync(stop))
            if (authority.IsRegisteredOn(today) && await NextAsync(authority, today, stop) is { } next)
                due.Add(next);
        return [.. due.OrderBy(d => d.Due).ThenBy(d => d.Authority.Id)];
    }

    /// <summary>
    /// The period after the last that was filed; where none was, the one in which the first thing counts that is told.
    /// </summary>
    private async Task<ReturnDue?> NextAsync(TaxAuthority authority, DateOnly today, CancellationToken stop)
    {
        var last = await db.TaxReturns.Where(r => r.AuthorityId == authority.Id).MaxAsync(r => (DateOnly?)r.To, stop);
        DateOnly from;
        if (last is { } filed)
            from = filed.AddDays(1);
        else
            from = authority.PeriodStart(
                await db.TaxFigures.Where(f => f.AuthorityId == authority.Id).MinAsync(f => (DateOnly?)f.Date, stop)
                    ?? today
            );
        var to = authority.PeriodEnd(from);
        var due = authority.DueFor(to);
        return new ReturnDue(authority, from, to, due, due.DayNumber - today.DayNumber) { HasEnded = to < today };
    }

    /// <summary>All that was filed to an authority, the newest first, without their rows.</summary>
    public async Task<IReadOnlyList<TaxReturn>> HistoryAsync(int authorityId, CancellationToken stop = default) =>
        await db
            .TaxReturns.AsNoTracking()
            .Where(r => r.AuthorityId == authorityId)
            .OrderByDescending(r => r.From)
            .ToListAsync(stop);

    /// <summary>Freezes what a return tells, with every row behind it.</summary>
    /// <returns>The return's id.</returns>
    /// <exception cref="RefusalException">When it is not the next one, its period has not ended, or what it tells
    /// changed since it was looked at.</exception>
    public Task<int> FileAsync(ReturnToFile file, Once once = default) =>
        writer.WriteAsync(
            Right.File,
            once,
            async stop =>
            {
                var authority =
                    await db.TaxAuthorities.FindAsync([file.AuthorityId], stop)
                    ?? throw new RefusalException("", "This authority is not there any more.");
                var today = await head.TodayAsync(stop);
                var next =
                    await NextAsync(authority, today, stop)
                    ?? throw new RefusalException("", $"There is nothing to tell {authority.Name}.");
                if ((next.From, next.To) != (file.From, file.To))
                    throw new RefusalException(
                        "",
                        $"Returns are filed in their order. The next to {authority.Name} is that of {next.From:yyyy-MM-dd} to {next.To:yyyy-MM-dd}."
                    );
                var then = await returns.ComputeAsync(authority, file.From, file.To, stop);
                if (then.Tax != file.Seen)
                    throw new RefusalException(
                        "",
                        $"Something was posted since you looked at it: the tax is {new Money(then.Tax, then.Home)} now, not {new Money(file.Seen, then.Home)}. Look it over once more, then file it."
                    );
                var made = new TaxReturn(
                    authority,
                    file.From,
                    file.To,
                    today,
                    writer.Who,
                    file.Reference,
                    then.Rows,
                    then.Home
                );
                db.TaxReturns.Add(made);
                await writer.SaveAsync(stop);
                await writer.TrailAsync(
                    $"Tax return to {authority.Name} for {file.From:yyyy-MM-dd} to {file.To:yyyy-MM-dd} filed: {new Money(then.Tax, then.Home)} of tax in {then.Rows.Count} rows{(made.Reference.Length > 0 ? $", their reference {made.Reference}" : "")}"
                );
                return made.Id;
            }
        );

    /// <summary>Opens the latest return to its authority again, as if it had not been filed.</summary>
    /// <exception cref="RefusalException">When a later one is filed, or no reason is given.</exception>
    public Task<int> OpenAgainAsync(int returnId, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.File,
            once,
            async stop =>
            {
                var filed =
                    await db.TaxReturns.Include(r => r.Rows).SingleOrDefaultAsync(r => r.Id == returnId, stop)
                    ?? throw new RefusalException("", "This return is not there any more.");
                var refusals = new Refusals();
                Texts.Required(refusals, "reason", reason, 300, "Say why it is opened again; it stands in the trail.");
                refusals.ThrowIfAny();
                if (await db.TaxReturns.AnyAsync(r => r.AuthorityId == filed.AuthorityId && r.From > filed.To, stop))
                    throw new RefusalException(
                        "",
                        "A later return is filed already, so this one stays as it was told. What was wrong goes into the next one."
                    );
                if (
                    await (
                        from payment in db.Set<TaxPayment>()
                        where payment.ReturnId == returnId
                        join moved in db.OtherMoney on payment.OtherMoneyId equals moved.Id
                        where moved.Booking!.UndoneOn == null
                        select moved.Id
                    ).AnyAsync(stop)
                )
                    throw new RefusalException("", "Something was paid of it already. Undo that first.");
                db.TaxReturns.Remove(filed);
                await writer.TrailAsync(
                    $"Tax return to {filed.Authority} for {filed.From:yyyy-MM-dd} to {filed.To:yyyy-MM-dd} opened again: {reason.Trim()}"
                );
                return returnId;
            }
        );
}
