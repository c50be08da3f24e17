using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Core.Matching;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Banking;

/// <summary>A conversion as it was typed.</summary>
/// <param name="Given">What left the one account, in minor units of its currency.</param>
/// <param name="Got">What arrived on the other, in minor units of its.</param>
/// <param name="Charge">What the bank kept, in minor units of the side that it was taken on.</param>
/// <param name="ChargeAccountId">Null for the account that the business has bank charges on.</param>
public sealed record ConversionToMake(
    int FromAccountId,
    int ToAccountId,
    long Given,
    long Got,
    DateOnly Date,
    string Text,
    string? FormKey = null
)
{
    public long Charge { get; init; }

    public bool ChargeOnTo { get; init; }

    public int? ChargeAccountId { get; init; }
}

/// <summary>A conversion as one of its two accounts sees it.</summary>
/// <param name="Amount">Minor units of the account's currency; above zero where it got it.</param>
public sealed record SeenConversion(int BookingId, DateOnly Date, long Amount, string Words);

/// <summary>
/// Money moved between own accounts of different currencies, at the rate that the bank gave. Each is booked once, with
/// both amounts; the bank lines on both sides are then the same money.
/// </summary>
public sealed class Conversions(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    AccountBook book,
    MoneySides sides,
    RateBook rates
)
{
    private const int MostDays = 5;

    /// <summary>By what share two bank lines may be off the rate of the day and still look like one conversion.</summary>
    private const decimal Near = 0.05m;

    /// <returns>The booking's id.</returns>
    /// <exception cref="RefusalException">With what is wrong, each by its field.</exception>
    public Task<int> MakeAsync(ConversionToMake typed, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Money,
            new Once(typed.FormKey, stop),
            async () =>
            {
                var refusals = new Refusals();
                MoneyPlaces.CheckDay(refusals, typed.Date, await head.TodayAsync(stop));
                await db.CheckAsync(refusals, typed.FromAccountId, "from", stop);
                await db.CheckAsync(refusals, typed.ToAccountId, "to", stop);
                refusals.ThrowIfAny();
                var business = await head.BusinessAsync(stop);
                var (home, from, to) = (
                    business.HomeCurrency,
                    await sides.CurrencyOfAsync(typed.FromAccountId, stop),
                    await sides.CurrencyOfAsync(typed.ToAccountId, stop)
                );
                var rate = to.Equals(home)
                    ? QuotedRate.One
                    : await rates.OfAsync(from, typed.Date, RateUse.Conversions, stop);
                var charges = typed.ChargeAccountId ?? business.FeeAccountId;
                if (
                    charges is { } bears
                    && !await db.LedgerAccounts.AnyAsync(a => a.Id == bears && a.Role == AccountRole.Other, stop)
                )
                    refusals.Add("charge", "Choose an account for bank charges.");
                refusals.ThrowIfAny();
                var names = await db.LedgerAccounts.ToDictionaryAsync(a => a.Id, a => a.Name, stop);
                var booking = await book.BeginAsync(BookingKind.Conversion, typed.Date, null, stop);
                var made = new Conversion(
                    booking.Date,
                    new ConversionSide(typed.FromAccountId, from, typed.Given),
                    new ConversionSide(typed.ToAccountId, to, typed.Got),
                    typed.Charge,
                    typed.ChargeOnTo,
                    charges,
                    rate,
                    typed.Text.Trim().Length > 0
                        ? typed.Text
                        : $"From {names[typed.FromAccountId]} to {names[typed.ToAccountId]}",
                    booking
                );
                db.Conversions.Add(made);
                book.Post(booking, PostingRules.ForConversion(made, home));
                var format = business.Format;
                booking.Say(
                    $"{format.WithCode(made.Given, from)} of {names[typed.FromAccountId]} became {format.WithCode(made.Got, to)} of {names[typed.ToAccountId]}{(made.Charge > 0 ? (Phrase)$", less {format.WithCode(made.Charge, made.ChargeOnTo ? to : from)} of charges" : "")}"
                );
                await writer.TrailAsync(booking.Words);
                await writer.SaveAsync(stop);
                return booking.Id;
            }
        );

    /// <summary>The last conversions that count, newest first.</summary>
    public async Task<IReadOnlyList<Conversion>> LatelyAsync(int most = 12, CancellationToken stop = default) =>
        await db
            .Conversions.AsNoTracking()
            .Where(c => c.Booking!.UndoneOn == null)
            .OrderByDescending(c => c.Date)
            .ThenByDescending(c => c.Id)
            .Take(most)
            .ToListAsync(stop);

    /// <summary>
    /// Books two bank lines as the two sides of one conversion; the charge is in what the two do not say, so it may be
    /// given.
    /// </summary>
    /// <param name="lineId">The one that is being placed.</param>
    /// <param name="otherLineId">A line of another own account, the other way.</param>
    public Task<int> PairAsync(
        int lineId,
        int otherLineId,
        long charge = 0,
        bool chargeOnTo = false,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var (one, other) = (await LineAsync(lineId, stop), await LineAsync(otherLineId, stop));
                if (one.AccountId == other.AccountId || Math.Sign(one.Left) == Math.Sign(other.Left))
                    throw new RefusalException(
                        "otherLine",
                        "Choose a line of another own account on which the money went the other way."
                    );
                if (one.Placed != 0 || other.Placed != 0)
                    throw new RefusalException("otherLine", "One of the two lines is placed in part already.");
                var (from, to) = one.Left < 0 ? (one, other) : (other, one);
                var booking = await MakeAsync(
                    new ConversionToMake(
                        from.AccountId,
                        to.AccountId,
                        -from.Left,
                        to.Left,
                        from.Date > to.Date ? from.Date : to.Date,
                        ""
                    )
                    {
                        Charge = charge,
                        ChargeOnTo = chargeOnTo,
                    },
                    stop
                );
                var words = await db.Bookings.Where(b => b.Id == booking).Select(b => b.Words).SingleAsync(stop);
                // The booking goes with the line that was placed; the other is joined to it.
                one.Place(one.Left, booking, null, words);
                other.Place(other.Left, null, null, $"the same money: {words}", booking);
                return lineId;
            }
        );

    /// <summary>Conversions that an account took part in and that no bank line of it was seen for yet.</summary>
    public async Task<IReadOnlyList<SeenConversion>> UnseenAsync(int accountId, CancellationToken stop = default)
    {
        var found = await db
            .Conversions.AsNoTracking()
            .Where(c =>
                (c.FromAccountId == accountId || c.ToAccountId == accountId)
                && c.Booking!.UndoneOn == null
                && !db.BankLines.Any(l =>
                    l.AccountId == accountId
                    && l.Placements.Any(p => p.BookingId == c.BookingId || p.JoinedBookingId == c.BookingId)
                )
            )
            .OrderByDescending(c => c.Date)
            .ThenByDescending(c => c.Id)
            .Take(200)
            .ToListAsync(stop);
        return found.ConvertAll(c => new SeenConversion(
            c.BookingId,
            c.Date,
            c.ToAccountId == accountId ? c.Got : -c.Given,
            c.Text
        ));
    }

    /// <summary>
    /// What a bank line may be of a conversion: one that is booked and has the same amount, or a line of another
    /// account on which money of about the same worth went the other way. Never sure.
    /// </summary>
    internal async Task<IReadOnlyList<Proposal>> ProposeAsync(
        BankLine line,
        DisplayFormat format,
        CancellationToken stop
    )
    {
        var proposals = new List<Proposal>();
        proposals.AddRange(
            (await UnseenAsync(line.AccountId, stop))
                .Where(c => c.Amount == line.Left && Math.Abs(c.Date.DayNumber - line.Date.DayNumber) <= MostDays)
                .OrderBy(c => Math.Abs(c.Date.DayNumber - line.Date.DayNumber))
                .Take(2)
                .Select(c => new Proposal(
                    Certainty.Likely,
                    0,
                    [],
                    0,
                    null,
                    $"“{c.Words}” of {format.Date(c.Date)}, between our own accounts, is the same amount: the same money"
                )
                {
                    JoinsBookingId = c.BookingId,
                    IsTransfer = true,
                })
        );
        if (line.Placed != 0 || await WorthAsync(line, stop) is not { } worth)
            return proposals;
        var (first, last) = (line.Date.AddDays(-MostDays), line.Date.AddDays(MostDays));
        var others = await db
            .BankLines.AsNoTracking()
            .Where(l =>
                l.AccountId != line.AccountId
                && l.Placed == 0
                && l.Currency != line.Currency
                && l.Date >= first
                && l.Date <= last
            )
            .ToListAsync(stop);
        foreach (var other in others.Where(o => Math.Sign(o.Amount) != Math.Sign(line.Amount)))
        {
            if (await WorthAsync(other, stop) is not { } theirs || theirs == 0)
                continue;
            var off = Math.Abs((decimal)worth / theirs) - 1;
            if (Math.Abs(off) > Near)
                continue;
            var (from, to) = line.Amount < 0 ? (line, other) : (other, line);
            var rate = QuotedRate.Between(-from.Amount, from.Currency, to.Amount, to.Currency);
            Phrase why =
                $"{format.WithCode(-from.Amount, from.Currency)} went out and {format.WithCode(to.Amount, to.Currency)} came in between our own accounts within {Math.Abs(from.Date.DayNumber - to.Date.DayNumber)} days: 1 {from.Currency} = {format.Typed(QuotedRate.Shortened(rate.Figure))} {to.Currency}, {format.Typed(Math.Round(Math.Abs(off) * 100, 1))} % off the rate of the day";
            proposals.Add(new Proposal(Certainty.Likely, 0, [], 0, null, why.In(format)) { PairsLineId = other.Id });
        }

        return proposals;
    }

    /// <summary>Says that a bank line is one side of a conversion that is booked; nothing is booked again.</summary>
    internal async Task<bool> JoinAsync(int lineId, int bookingId, CancellationToken stop)
    {
        var line = await LineAsync(lineId, stop);
        if ((await UnseenAsync(line.AccountId, stop)).FirstOrDefault(c => c.BookingId == bookingId) is not { } seen)
            return false;
        line.Place(seen.Amount, null, null, $"the same money: {seen.Words}", bookingId);
        await writer.TrailAsync($"Conversion seen at the bank on {line.Date:yyyy-MM-dd}: {seen.Words}");
        return true;
    }

    /// <summary>What a line is worth at home at the rate of its day; null where there is none.</summary>
    private async Task<long?> WorthAsync(BankLine line, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        try
        {
            var rate = await rates.OfAsync(line.Currency, line.Date, RateUse.Conversions, stop);
            return HomeAmount.Of(line.Left, line.Currency, rate, home);
        }
        catch (RefusalException)
        {
            return null;
        }
    }

    private async Task<BankLine> LineAsync(int id, CancellationToken stop) =>
        await db.BankLines.Include(l => l.Placements).SingleOrDefaultAsync(l => l.Id == id, stop)
        ?? throw new RefusalException("otherLine", "This bank line is not there.");
}
