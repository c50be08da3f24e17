using Jugaad.Core;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>Closes the books up to a day and opens them again, and says how rests are dealt with.</summary>
public sealed class Periods(BooksContext db, BookWriter writer, BooksHead head)
{
    /// <param name="day">The last day that is closed; null for none.</param>
    /// <exception cref="RefusalException">When the day is today or later.</exception>
    public Task<int> CloseUpToAsync(DateOnly? day, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var business = await head.BusinessAsync(stop);
                var before = business.ClosedUpTo;
                business.CloseUpTo(day, await head.TodayAsync(stop));
                if (before != day)
                    await writer.TrailAsync(
                        day is { } to
                            ? (Phrase)
                                $"Books closed up to {to:yyyy-MM-dd}{(before > to ? (Phrase)$", opened again from {before:yyyy-MM-dd}" : "")}"
                            : (Phrase)$"Books opened again; they were closed up to {before:yyyy-MM-dd}"
                    );
                return business.Id;
            }
        );

    /// <summary>By which spans of days, and from which day on, balances are aged.</summary>
    /// <param name="edges">The last day of each span, as typed.</param>
    public Task<int> AgeAsync(string edges, bool byDate, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var business = await head.BusinessAsync(stop);
                business.Age(edges, byDate);
                await writer.TrailAsync(
                    $"Balances are aged by the {(byDate ? "date" : "due day")}, in spans up to {business.AgeingEdges.Replace(",", ", ", StringComparison.Ordinal)} days"
                );
                return business.Id;
            }
        );

    /// <summary>How small a rest may be given up, and whether paying early lowers the tax.</summary>
    /// <param name="smallDifference">Minor units.</param>
    /// <param name="feeAccountId">Where fees go that banks and card companies keep; null for nowhere.</param>
    public Task<int> SettleAsync(
        bool earlyPaymentLeavesTax,
        long smallDifference,
        int? feeAccountId,
        bool depositsAtOnce = false,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var business = await head.BusinessAsync(stop);
                business.Settle(earlyPaymentLeavesTax, smallDifference);
                business.TakeDepositsOff(depositsAtOnce);
                if (
                    feeAccountId is { } account
                    && !await db.LedgerAccounts.AnyAsync(
                        a => a.Id == account && a.Role == AccountRole.Other && !a.Retired,
                        stop
                    )
                )
                    throw new RefusalException("feeAccountId", "Choose an account for fees, such as bank charges.");
                business.SetFeeAccount(feeAccountId);
                await writer.TrailAsync(
                    $"A rest of up to {new Core.Amounts.Money(smallDifference, business.HomeCurrency)} {business.HomeCurrency} counts as small; an early-payment discount {(earlyPaymentLeavesTax ? "leaves the tax as it was" : "lowers the tax")}; the {(depositsAtOnce ? "first bill takes all of a deposit off" : "bills take deposits off in proportion")}"
                );
                return business.Id;
            }
        );
}
