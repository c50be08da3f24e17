using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>A rate as it holds on a day.</summary>
/// <param name="From">The day that it was quoted for; the day asked for, or one before it.</param>
public sealed record RateOnDay(QuotedRate Rate, DateOnly From);

/// <summary>
/// The exchange rates of a day, for all who need one. A day without a rate has the last one before it, unless that is
/// older than the business allows.
/// </summary>
public sealed class RateBook(BooksContext db, BooksHead head)
{
    public async Task<RateRules> RulesAsync(CancellationToken stop = default) =>
        await db.RateRules.AsNoTracking().FirstOrDefaultAsync(stop) ?? new RateRules();

    /// <summary>1 for the home currency itself.</summary>
    /// <exception cref="RefusalException">When there is none up to that day, or the last is too old.</exception>
    public async Task<QuotedRate> OfAsync(
        Currency currency,
        DateOnly day,
        RateUse use,
        CancellationToken stop = default
    )
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        if (currency.Equals(home))
            return QuotedRate.One;
        var rules = await RulesAsync(stop);
        if (await LastAsync(currency, day, stop) is not { } last)
            throw new RefusalException(
                "date",
                $"There is no exchange rate for {currency} on {day:yyyy-MM-dd}. Enter one under Setup first."
            );
        if (IsTooOld(last.From, day, rules))
            throw new RefusalException(
                "date",
                $"The last exchange rate for {currency} before {day:yyyy-MM-dd} is of {last.From:yyyy-MM-dd}, older than the {rules.OldestDays} days that a rate is used for. Enter a newer one under Setup."
            );
        return last.Of(rules.For(use));
    }

    /// <summary>The rate of every currency that has one on the day, by the currency's code.</summary>
    public async Task<IReadOnlyDictionary<string, RateOnDay>> AllAsync(
        DateOnly day,
        RateUse use,
        CancellationToken stop = default
    )
    {
        var rules = await RulesAsync(stop);
        return (await db.ExchangeRates.AsNoTracking().Where(r => r.From <= day).ToListAsync(stop))
            .GroupBy(r => r.Currency.Code)
            .Select(g => g.MaxBy(r => r.From)!)
            .Where(r => !IsTooOld(r.From, day, rules))
            .ToDictionary(r => r.Currency.Code, r => new RateOnDay(r.Of(rules.For(use)), r.From));
    }

    /// <summary>The last rates up to a day, however old.</summary>
    public Task<ExchangeRate?> LastAsync(Currency currency, DateOnly day, CancellationToken stop = default) =>
        db
            .ExchangeRates.AsNoTracking()
            .Where(r => r.Currency == currency && r.From <= day)
            .OrderByDescending(r => r.From)
            .FirstOrDefaultAsync(stop);

    private static bool IsTooOld(DateOnly from, DateOnly day, RateRules rules) =>
        rules.OldestDays is { } most && day.DayNumber - from.DayNumber > most;
}
