using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
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

/// <summary>An authority with the next return to it, where there is one, and all that was filed.</summary>
public sealed record AuthorityReturns(TaxAuthority Authority, ReturnDue? Due, IReadOnlyList<TaxReturn> Filed);

/// <summary>A return about to be filed.</summary>
/// <param name="Seen">The tax that the person saw, in minor units, so that nothing is filed unseen.</param>
public sealed record ReturnToFile(int AuthorityId, DateOnly From, DateOnly To, long Seen, string Reference)
{
    /// <summary>What was typed into boxes.</summary>
    public IReadOnlyList<TypedBox> Typed { get; init; } = [];
}

/// <summary>Files returns, one period after the other.</summary>
public sealed class ReturnFiling(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    TaxReturns returns,
    IAuthorityDesk desk,
    ReturnCarrying carrying
)
{
    /// <summary>The next return to each authority with which the business is registered, the first due first.</summary>
    public async Task<IReadOnlyList<ReturnDue>> DueAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var due = new List<ReturnDue>();
        foreach (var authority in await db.TaxAuthorities.AsNoTracking().ToListAsync(stop))
            if (authority.RegisteredFrom <= today && await NextAsync(authority, today, stop) is { } next)
                due.Add(next);
        return [.. due.OrderBy(d => d.Due).ThenBy(d => d.Authority.Id)];
    }

    /// <summary>All authorities that were ever told anything, or are to be, the first due first.</summary>
    public async Task<IReadOnlyList<AuthorityReturns>> AuthoritiesAsync(CancellationToken stop = default)
    {
        var due = await DueAsync(stop);
        var all = new List<AuthorityReturns>();
        foreach (var authority in await db.TaxAuthorities.AsNoTracking().ToListAsync(stop))
        {
            var next = due.FirstOrDefault(d => d.Authority.Id == authority.Id);
            var filed = await HistoryAsync(authority.Id, stop);
            if (next is not null || filed.Count > 0)
                all.Add(new AuthorityReturns(authority, next, filed));
        }

        return [.. all.OrderBy(a => a.Due?.Due ?? DateOnly.MaxValue).ThenBy(a => a.Authority.Id)];
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
            from = authority.PeriodStart(await FirstAsync(authority, stop) ?? today);
        // The last return is that of the period in which the registration ends, unless something is credited after it.
        if (
            authority.RegisteredTo < from
            && !await db.TaxFigures.AnyAsync(f => f.AuthorityId == authority.Id && f.Date >= from, stop)
        )
            return null;
        var to = authority.PeriodEnd(from);
        var due = authority.DueFor(to);
        return new ReturnDue(authority, from, to, due, due.DayNumber - today.DayNumber) { HasEnded = to < today };
    }

    /// <summary>
    /// The first day of which something is told: of what is taken over, that on which something of it was paid, since
    /// the books before have told all else.
    /// </summary>
    private async Task<DateOnly?> FirstAsync(TaxAuthority authority, CancellationToken stop)
    {
        var figures = db.TaxFigures.Where(f => f.AuthorityId == authority.Id);
        var posted = await figures
            .Where(f => f.DocumentId != null || f.BookingId != null)
            .MinAsync(f => (DateOnly?)f.Date, stop);
        // Only what is told as it is paid is taken over with its tax.
        if (!CountingRule.Of(authority).HasPayment)
            return posted;
        var taken = figures.Where(f => f.DocumentId == null && f.BookingId == null).Select(f => f.ItemId);
        var paid = await db
            .Allocations.Where(a => taken.Contains(a.RaisingId) || taken.Contains(a.LoweringId))
            .MinAsync(a => (DateOnly?)a.Date, stop);
        return new[] { posted, paid }.Min();
    }

    /// <summary>All that was filed to an authority, the newest first, without their rows.</summary>
    public async Task<IReadOnlyList<TaxReturn>> HistoryAsync(int authorityId, CancellationToken stop = default) =>
        await db
            .TaxReturns.AsNoTracking()
            .Where(r => r.AuthorityId == authorityId)
            .OrderByDescending(r => r.From)
            .ThenByDescending(r => r.Amendment)
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
                await CheckAccountsAsync(file.Typed, stop);
                foreach (var late in then.ToAmend)
                    await AmendAsync(authority, late, "Entered late; told by itself, as the authority wants it.", stop);
                var made = new TaxReturn(
                    authority,
                    file.From,
                    file.To,
                    today,
                    writer.Who,
                    file.Reference,
                    then.Rows,
                    then.Home,
                    file.Typed
                );
                await AddAsync(made, authority, stop);
                await writer.TrailAsync(
                    $"Tax return to {authority.Name} for {file.From:yyyy-MM-dd} to {file.To:yyyy-MM-dd} filed: {new Money(then.Tax, then.Home)} of tax in {then.Rows.Count} rows{(made.Reference.Length > 0 ? $", their reference {made.Reference}" : "")}"
                );
                await writer.SaveAsync(stop);
                await carrying.CarryOverpaidAsync(authority.Id, stop);
                return made.Id;
            }
        );

    private async Task CheckAccountsAsync(IReadOnlyList<TypedBox> typed, CancellationToken stop)
    {
        var refusals = new Refusals();
        foreach (var box in typed.Where(t => t.Amount != 0 && t.AccountId != 0))
            if (
                !await db.LedgerAccounts.AnyAsync(
                    a => a.Id == box.AccountId && a.Role == AccountRole.Other && !a.Retired,
                    stop
                )
            )
                refusals.Add($"account-{box.Number}", "Choose one of the other ledger accounts.");
        refusals.ThrowIfAny();
    }

    /// <summary>Keeps a return, and posts what filing changes of what is owed.</summary>
    private async Task AddAsync(TaxReturn made, TaxAuthority authority, CancellationToken stop)
    {
        db.TaxReturns.Add(made);
        await writer.SaveAsync(stop);
        var owed = ReturnOwed.Of(made.BoxSet, made.Boxes, made.Typed, made.Tax);
        if (owed.Typed.Any(t => t.Box.AccountId == 0))
            throw new RefusalException(
                $"account-{owed.Typed.First(t => t.Box.AccountId == 0).Box.Number}",
                "This amount changes what is to be paid. Choose the ledger account against which it is posted."
            );
        var entry = PostingRules.ForFiling(
            $"{made.Title} to {made.Authority}, {made.From:yyyy-MM-dd} to {made.To:yyyy-MM-dd}",
            made.FiledOn,
            authority.OwedAccountId!.Value,
            owed.Typed.Select(t => (t.Box.AccountId, t.Adds)),
            owed.Rounding,
            await db.PostingAccountsAsync(stop)
        );
        if (entry is null)
            return;
        entry.ReturnId = made.Id;
        db.Journal.Add(entry);
    }

    private async Task<TaxReturn> AmendAsync(
        TaxAuthority authority,
        LateOfPeriod late,
        string reason,
        CancellationToken stop
    )
    {
        var told = await db
            .TaxReturns.Where(r => r.AuthorityId == authority.Id && r.From == late.From && r.To == late.To)
            .OrderBy(r => r.Amendment)
            .ToListAsync(stop);
        if (told.Count == 0)
            throw new RefusalException("", "No return is filed for this period. File it first.");
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var made = TaxReturn.Amending(
            told[0],
            told[^1].Amendment + 1,
            authority,
            await head.TodayAsync(stop),
            writer.Who,
            reason,
            // Within its own period nothing of it is late.
            [.. late.Rows.Select(r => r with { IsLate = false })],
            home
        );
        await AddAsync(made, authority, stop);
        await writer.TrailAsync(
            $"{made.Title} to {made.Authority} for {made.From:yyyy-MM-dd} to {made.To:yyyy-MM-dd} filed: {new Money(made.Tax, home)} of tax more or less; {made.Reason}"
        );
        return made;
    }

    /// <summary>Tells a period anew that was told: what should have been, less what was told.</summary>
    /// <returns>The amendment's id.</returns>
    /// <exception cref="RefusalException">When nothing of it was told otherwise than it counts, or no reason is
    /// given.</exception>
    public Task<int> AmendAsync(
        int authorityId,
        DateOnly from,
        DateOnly to,
        string reason,
        long seen,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.File,
            once,
            async stop =>
            {
                var authority =
                    await db.TaxAuthorities.FindAsync([authorityId], stop)
                    ?? throw new RefusalException("", "This authority is not there any more.");
                var late = await returns.LateOfAsync(authority, from, to, stop);
                if (late.Tax != seen)
                    throw new RefusalException(
                        "",
                        "Something was posted since you looked at it. Look it over once more, then amend it."
                    );
                return (await AmendAsync(authority, late, reason, stop)).Id;
            }
        );

    /// <summary>Hands a filed return in at the authority's desk, which takes it or says why not.</summary>
    /// <returns>Why it was refused; empty where it was taken.</returns>
    public async Task<IReadOnlyList<string>> HandInAsync(int returnId, Once once = default)
    {
        writer.Must(Right.File);
        var filed =
            await db.TaxReturns.AsNoTracking().SingleOrDefaultAsync(r => r.Id == returnId, once.Stop)
            ?? throw new RefusalException("", "This return is not filed any more.");
        if (filed.TakenOn is { } taken)
            throw new RefusalException("", $"{filed.Authority} has it since {taken:yyyy-MM-dd}.");
        var authority = await db.TaxAuthorities.AsNoTracking().SingleAsync(a => a.Id == filed.AuthorityId, once.Stop);
        var then = await returns.FiledAsync(authority, filed.From, filed.To, filed.Amendment, once.Stop);
        // The books are not held while somebody else's machine answers.
        var answer = await desk.HandInAsync(then, once.Stop);
        if (answer.Reasons.Count > 0)
        {
            await writer.NoteAsync(
                Right.File,
                $"{filed.Title} to {filed.Authority} for {filed.From:yyyy-MM-dd} to {filed.To:yyyy-MM-dd} refused by their desk: {string.Join(" ", answer.Reasons)}"
            );
            return answer.Reasons;
        }

        await TakenAsync(returnId, answer.Receipt, once);
        return [];
    }

    /// <summary>Notes that the authority has a return, with what it answered.</summary>
    public Task<int> TakenAsync(int returnId, string reference, Once once = default) =>
        writer.WriteAsync(
            Right.File,
            once,
            async stop =>
            {
                var filed =
                    await db.TaxReturns.FindAsync([returnId], stop)
                    ?? throw new RefusalException("", "This return is not filed any more.");
                filed.Take(await head.TodayAsync(stop), reference);
                await writer.TrailAsync(
                    $"{filed.Title} to {filed.Authority} for {filed.From:yyyy-MM-dd} to {filed.To:yyyy-MM-dd} taken by them: {filed.Reference}"
                );
                return returnId;
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
                if (filed.TakenOn is { } taken)
                    throw new RefusalException(
                        "",
                        $"{filed.Authority} has it since {taken:yyyy-MM-dd}, so it stays as it was told. Amend it, or let what was wrong go into the next one."
                    );
                if (await db.TaxReturns.AnyAsync(r => r.AuthorityId == filed.AuthorityId && r.Id > filed.Id, stop))
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
                if (await db.TaxCharges.AnyAsync(c => c.ReturnId == returnId && c.UndoneOn == null, stop))
                    throw new RefusalException("", "A charge was noted with it. Take that back first.");
                if (await db.TaxCarries.AnyAsync(c => c.FromReturnId == returnId, stop))
                    throw new RefusalException(
                        "",
                        "What was left over of it is set against another return. Take that apart first."
                    );
                db.TaxCarries.RemoveRange(await db.TaxCarries.Where(c => c.ToReturnId == returnId).ToListAsync(stop));
                foreach (
                    var entry in await db
                        .Journal.Include(e => e.Lines)
                        .Where(e => e.ReturnId == returnId && !e.IsMirrored)
                        .ToListAsync(stop)
                )
                    db.Journal.Add(entry.Mirror());
                db.TaxReturns.Remove(filed);
                await writer.TrailAsync(
                    $"Tax return to {filed.Authority} for {filed.From:yyyy-MM-dd} to {filed.To:yyyy-MM-dd} opened again: {reason.Trim()}"
                );
                return returnId;
            }
        );
}
