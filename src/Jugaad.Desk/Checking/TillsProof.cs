using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>What a till was said to hold follows from the entries up to then, and its difference was booked.</summary>
internal sealed class TillsProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        foreach (var count in await db.TillCounts.Include(c => c.Booking).ToListAsync(stop))
        {
            var held = await db.Set<JournalLine>()
                .Where(l => l.AccountId == count.AccountId && l.EntryId <= count.UpToEntry)
                .SumAsync(l => l.Debit - l.Credit, stop);
            if (held != count.Expected)
                findings.Add(
                    $"Till count {count.Id}: {count.Expected} is kept as expected, the journal up to then comes to {held} (minor units of the home currency)"
                );
            if (count.Booking is { } booking && booking.Date < count.Date)
                findings.Add(
                    $"Till count {count.Id}: is of {count.Date:yyyy-MM-dd}, and its difference was booked on {booking.Date:yyyy-MM-dd}"
                );
            var booked = count.BookingId is null
                ? 0
                : await db
                    .OtherMoney.Where(m => m.BookingId == count.BookingId && m.MoneyAccountId == count.AccountId)
                    .SumAsync(m => m.Amount, stop);
            if (booked != count.Difference)
                findings.Add(
                    $"Till count {count.Id}: its difference is {count.Difference}, and {booked} was booked for it (minor units of the home currency)"
                );
        }

        findings.Count("till counts", await db.TillCounts.LongCountAsync(stop));
    }
}
