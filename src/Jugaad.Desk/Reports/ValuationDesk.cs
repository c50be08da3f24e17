using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>A valuation that is posted.</summary>
/// <param name="Difference">Minor units of home; above zero for a gain.</param>
/// <param name="IsAsNow">Whether a valuation of that day would come to the same now.</param>
public sealed record PostedValuation(int BookingId, DateOnly Day, long Difference, bool IsAsNow);

/// <summary>Posts what is not realised of other currencies at a period's end, and its reverse on the next day.</summary>
public sealed class ValuationDesk(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    AccountBook book,
    Undoing undoing,
    ValuationReports reports
)
{
    /// <summary>
    /// Done twice it is done once: where it is posted as it would be now, nothing happens; where the books changed since,
    /// the new one takes its place.
    /// </summary>
    /// <returns>The booking's id.</returns>
    /// <exception cref="RefusalException">When the day is yet to come or closed, a rate is missing, or there is nothing
    /// to post.</exception>
    public Task<int> PostAsync(DateOnly day, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var business = await head.BusinessAsync(stop);
                if (day > await head.TodayAsync(stop))
                    throw new RefusalException("on", $"{day:yyyy-MM-dd} is yet to come. Choose today or a day before.");
                if (business.ClosedUpTo is { } closed && day <= closed)
                    throw new RefusalException(
                        "on",
                        $"The books are closed up to {closed:yyyy-MM-dd}. Choose a later day, or open them again under Setup."
                    );
                var parts = await reports.PartsAsync(day, stop);
                if (await FindAsync(day, stop) is { } there)
                {
                    if (there.Parts.SequenceEqual(parts))
                        return there.BookingId;
                    await undoing.UndoAsync(there.BookingId, stop);
                }

                var accounts = await book.AccountsAsync(stop);
                var booking = await book.BeginAsync(BookingKind.Valuation, day, null, stop);
                var posting = new ValuationPosting(day, parts, await AccountAsync(stop), booking.Id);
                db.Valuations.Add(posting);
                foreach (var entry in PostingRules.ForValuation(posting, accounts.ExchangeDifferences))
                    book.Post(booking, entry);
                booking.Say(
                    $"Valuation of other currencies on {day:yyyy-MM-dd}: {business.Format.WithCode(posting.Difference, business.HomeCurrency)}, taken back on the next day"
                );
                await writer.TrailAsync(booking.Words);
                await writer.SaveAsync(stop);
                return booking.Id;
            }
        );

    /// <summary>The valuations that are posted, newest first.</summary>
    public async Task<IReadOnlyList<PostedValuation>> PostedAsync(int most = 24, CancellationToken stop = default)
    {
        var posted = new List<PostedValuation>();
        foreach (
            var one in await db
                .Valuations.AsNoTracking()
                .Where(v => db.Bookings.Any(b => b.Id == v.BookingId && b.UndoneOn == null))
                .OrderByDescending(v => v.Day)
                .Take(most)
                .ToListAsync(stop)
        )
            posted.Add(
                new(
                    one.BookingId,
                    one.Day,
                    one.Difference,
                    one.Parts.SequenceEqual(await reports.PartsAsync(one.Day, stop))
                )
            );
        return posted;
    }

    private Task<ValuationPosting?> FindAsync(DateOnly day, CancellationToken stop) =>
        db
            .Valuations.AsNoTracking()
            .FirstOrDefaultAsync(
                v => v.Day == day && db.Bookings.Any(b => b.Id == v.BookingId && b.UndoneOn == null),
                stop
            );

    /// <summary>The account beside receivables; the first valuation makes it.</summary>
    private async Task<int> AccountAsync(CancellationToken stop)
    {
        if (
            await db
                .LedgerAccounts.Where(a => a.Role == AccountRole.Valuation)
                .OrderBy(a => a.Id)
                .Select(a => (int?)a.Id)
                .FirstOrDefaultAsync(stop) is
            { } there
        )
            return there;
        var codes = (await db.LedgerAccounts.Select(a => a.Code).ToListAsync(stop)).ToHashSet();
        var code = Enumerable
            .Range(1290, 8_000)
            .Select(n => n.ToString(System.Globalization.CultureInfo.InvariantCulture))
            .First(c => !codes.Contains(c));
        var made = new LedgerAccount(code, "Valuation of other currencies", AccountRole.Valuation);
        db.LedgerAccounts.Add(made);
        await writer.TrailAsync($"Account {made.Code} {made.Name} added");
        await writer.SaveAsync(stop);
        return made.Id;
    }
}
