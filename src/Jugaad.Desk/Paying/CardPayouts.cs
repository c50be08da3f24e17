using Jugaad.Core;
using Jugaad.Core.Banking;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Paying;

/// <summary>What the card service pays out: told by it, and expected at the bank.</summary>
public sealed class CardPayouts(BooksContext db, BooksHead head)
{
    /// <returns>Why it was not taken; empty where all is well; null where it should be told again.</returns>
    internal async Task<string?> TakeAsync(CardTold told, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        if (told.Currency != home.Code)
            return $"The payout {told.About} is not in {home}. Book it by hand.";
        if (await db.CardPayouts.AnyAsync(p => p.Reference == told.About, stop))
            return $"The payout {told.About} was told once more, as another one. Ask the service.";
        var names = told.Parts.Select(p => p.About).ToList();
        var requests = (await db.PayRequests.Where(r => names.Contains(r.ServiceId)).ToListAsync(stop)).ToDictionary(
            r => r.ServiceId
        );
        if (told.Parts.FirstOrDefault(p => !requests.ContainsKey(p.About)) is { } unknown)
            return $"The payout {told.About} names a payment {unknown.About} that we never asked for. Book it by hand, and ask the service.";
        // What was told and could not be booked never will be by itself.
        var unbooked = requests.Values.Where(r => r.State != PayState.Paid).Select(r => r.ServiceId).ToList();
        if (
            await db
                .CardCalls.Where(c => c.News == CardNews.Paid && c.Problem != "" && unbooked.Contains(c.About))
                .Select(c => c.About)
                .FirstOrDefaultAsync(stop) is
            { } stuck
        )
            return $"The payout {told.About} has the payment {stuck} in it, which could not be booked. Book both by hand.";
        // Its payments may be told after it.
        if (requests.Values.Any(r => r.State != PayState.Paid))
            return null;
        if (told.Parts.FirstOrDefault(p => p.Amount > 0 && p.Amount != requests[p.About].Total) is { } other)
            return $"The payout {told.About} names another amount for the payment {other.About}. Book it by hand, and ask the service.";
        var ids = requests.Values.Select(r => r.Id).ToList();
        var before = await db
            .CardPayouts.SelectMany(p => p.Parts)
            .Where(p => p.Amount > 0 && ids.Contains(p.RequestId))
            .Select(p => p.RequestId)
            .ToListAsync(stop);
        var paid = told.Parts.Where(p => p.Amount > 0).Select(p => requests[p.About].Id).Concat(before).ToList();
        if (paid.Distinct().Count() != paid.Count)
            return $"The payout {told.About} has a payment in it that was paid out before. Book it by hand, and ask the service.";
        if (
            told.Parts.Count == 0
            || told.Parts.Any(p => p.Fee < 0)
            || told.Parts.Sum(p => p.Amount - p.Fee) != told.Amount
        )
            return $"The payments of the payout {told.About} less their fees do not come to what it says. Book it by hand, and ask the service.";
        db.CardPayouts.Add(
            new CardPayout(
                told.About,
                told.Day,
                [.. told.Parts.Select((p, i) => new CardPayoutPart(i + 1, requests[p.About].Id, p.Amount, p.Fee))]
            )
        );
        return "";
    }

    /// <summary>Payouts that have not been seen at the bank, the earliest first.</summary>
    public async Task<IReadOnlyList<CardPayout>> OnTheWayAsync(CancellationToken stop = default) =>
        await db
            .CardPayouts.AsNoTracking()
            .Include(p => p.Parts)
            .Where(p => !db.Bookings.Any(b => b.Id == p.BookingId && b.UndoneOn == null))
            .OrderBy(p => p.Day)
            .ThenBy(p => p.Id)
            .ToListAsync(stop);

    /// <summary>Whether a bank line names a payout.</summary>
    public static bool Names(BankLine line, CardPayout payout) =>
        line.Text.Contains(payout.Reference, StringComparison.OrdinalIgnoreCase)
        || line.Reference.Contains(payout.Reference, StringComparison.OrdinalIgnoreCase);
}
