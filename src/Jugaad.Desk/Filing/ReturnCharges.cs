using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Filing;

/// <summary>Notes what authorities charge besides what returns tell.</summary>
public sealed class ReturnCharges(BooksContext db, BookWriter writer, BooksHead head, ReturnBalances balances)
{
    /// <summary>Notes what the authority charges besides, such as for filing late.</summary>
    /// <returns>The charge's id.</returns>
    /// <exception cref="RefusalException">With every field that is wrong.</exception>
    public Task<int> ChargeAsync(
        int returnId,
        TaxChargeKind kind,
        DateOnly date,
        long amount,
        int accountId,
        string text,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var (filed, _) = await balances.FindAsync(returnId, stop);
                var business = await head.BusinessAsync(stop);
                var charge = new TaxCharge(returnId, kind, date, amount, accountId, text);
                var refusals = new Refusals();
                if (
                    !await db.LedgerAccounts.AnyAsync(
                        a => a.Id == accountId && a.Role == AccountRole.Other && !a.Retired,
                        stop
                    )
                )
                    refusals.Add("chargeAccount", "Choose one of the other ledger accounts, such as one for charges.");
                if (date <= filed.To)
                    refusals.Add("chargeDate", $"Give a day after the period of the return, {filed.To:yyyy-MM-dd}.");
                if (date > await head.TodayAsync(stop))
                    refusals.Add("chargeDate", "This day is still to come. Note the charge once it is owed.");
                refusals.ThrowIfAny();
                db.TaxCharges.Add(charge);
                db.Journal.Add(PostingRules.ForCharge(charge, await balances.OwedAsync(filed, stop)));
                await writer.TrailAsync(
                    $"{ReturnBalances.What(filed)}: charged {TaxCharge.Words(kind)}, {new Money(amount, business.HomeCurrency)}"
                );
                await writer.SaveAsync(stop);
                return charge.Id;
            }
        );

    /// <summary>Takes a charge back, as the authority let it go or it was noted wrongly.</summary>
    public Task<int> UnchargeAsync(int chargeId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var charge =
                    await db.TaxCharges.FindAsync([chargeId], stop)
                    ?? throw new RefusalException("", "This charge is not there any more.");
                var (filed, _) = await balances.FindAsync(charge.ReturnId, stop);
                charge.Undo(await head.TodayAsync(stop));
                var posted = PostingRules.ForCharge(charge, await balances.OwedAsync(filed, stop));
                var entries = await db
                    .Journal.Include(e => e.Lines)
                    .Where(e =>
                        e.ReturnId == charge.ReturnId
                        && e.Event == JournalEvent.TaxCharged
                        && !e.IsMirrored
                        && e.Date == charge.Date
                        && e.Text == posted.Text
                    )
                    .ToListAsync(stop);
                var entry = entries.First(e => e.Lines.Any(l => l.Debit == charge.Amount));
                db.Journal.Add(entry.Mirror());
                await writer.TrailAsync(
                    $"{ReturnBalances.What(filed)}: charge {TaxCharge.Words(charge.Kind)} of {charge.Date:yyyy-MM-dd} taken back"
                );
                return charge.ReturnId;
            }
        );
}
