using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Counter;

/// <summary>A cash box as it was counted.</summary>
/// <param name="Counted">Minor units of the home currency.</param>
/// <param name="Expected">What the books said when it was counted.</param>
/// <param name="DifferenceAccountId">What a difference is booked to; the rounding differences where it is null.</param>
public sealed record TillToCount(
    int AccountId,
    long Counted,
    long Expected,
    string Reason,
    int? DifferenceAccountId,
    string? FormKey = null
);

/// <summary>
/// Counts cash boxes: what is in them against what the books say, the difference booked with its reason.
/// </summary>
public sealed class Tills(BooksContext db, BookWriter writer, BooksHead head, OtherMoneyDesk other)
{
    /// <summary>What the books say that is in a cash box, in minor units of the home currency.</summary>
    public Task<long> ExpectedAsync(int accountId, CancellationToken stop = default) =>
        db.Set<JournalLine>().Where(l => l.AccountId == accountId).SumAsync(l => l.Debit - l.Credit, stop);

    /// <returns>The count's id.</returns>
    /// <exception cref="RefusalException">When something was booked meanwhile, or a difference has no
    /// reason.</exception>
    public Task<int> CountAsync(TillToCount typed, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Money,
            new Once(typed.FormKey, stop),
            async () =>
            {
                var box =
                    await db.LedgerAccounts.SingleOrDefaultAsync(
                        a => a.Id == typed.AccountId && a.Kind == MoneyKind.Cash && a.Role == AccountRole.Money,
                        stop
                    ) ?? throw new RefusalException("account", "Choose the cash box that was counted.");
                var business = await head.BusinessAsync(stop);
                var today = await head.TodayAsync(stop);
                var expected = await ExpectedAsync(box.Id, stop);
                if (expected != typed.Expected)
                    throw new RefusalException(
                        "counted",
                        $"Something was booked since this page was opened: the books now say {business.Format.WithCode(expected, business.HomeCurrency)}. Look again at what is in the box."
                    );
                var upTo = await db.Journal.MaxAsync(e => (int?)e.Id, stop) ?? 0;
                // Checked before anything is booked, so that each refusal stands at its own field.
                _ = new TillCount(box.Id, today, expected, typed.Counted, typed.Reason, upTo, writer.Who, null);
                var difference = typed.Counted - expected;
                var booking = difference == 0 ? null : await BookAsync(typed, difference, today, stop);
                var count = new TillCount(
                    box.Id,
                    today,
                    expected,
                    typed.Counted,
                    typed.Reason,
                    upTo,
                    writer.Who,
                    booking
                );
                db.TillCounts.Add(count);
                await writer.TrailAsync(
                    $"{box.Name} counted: {business.Format.WithCode(typed.Counted, business.HomeCurrency)}{(difference == 0 ? ", as the books say" : $", {business.Format.WithCode(Math.Abs(difference), business.HomeCurrency)} {(difference > 0 ? "more" : "less")} than the books say: {count.Reason}")}"
                );
                await writer.SaveAsync(stop);
                return count.Id;
            }
        );

    private async Task<Booking> BookAsync(TillToCount typed, long difference, DateOnly today, CancellationToken stop)
    {
        var account =
            typed.DifferenceAccountId
            ?? await db
                .LedgerAccounts.Where(a => a.Role == AccountRole.RoundingDifferences)
                .Select(a => a.Id)
                .FirstAsync(stop);
        var id = await other.PostAsync(
            new OtherMoneyToPost(
                today,
                typed.AccountId,
                account,
                difference,
                null,
                $"Till counted: {typed.Reason.Trim()}"
            ),
            stop
        );
        return await db.Bookings.SingleAsync(b => b.Id == id, stop);
    }
}
