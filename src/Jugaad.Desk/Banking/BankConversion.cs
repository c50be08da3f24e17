using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Banking;

/// <summary>
/// What a bank line is in the currency of the customer whose money it is: the bank's amount is booked, and the
/// customer's is set against what they owe.
/// </summary>
public sealed class BankConversion(BooksContext db, BooksHead head, RateBook rates)
{
    /// <summary>The currency of what money is set against; where that is nothing the chosen one, or the customer's usual.
    /// </summary>
    public async Task<Currency> PaysInAsync(
        int customerId,
        IReadOnlyList<(int ItemId, long Amount)> against,
        Currency? chosen,
        CancellationToken stop = default
    )
    {
        var ids = against.Where(a => a.Amount != 0).Select(a => a.ItemId).ToList();
        var currencies = (
            await db.AccountItems.Where(i => ids.Contains(i.Id)).Select(i => i.Currency).ToListAsync(stop)
        )
            .Distinct()
            .ToList();
        return currencies switch
        {
            [] when chosen is not null => chosen,
            [] => await db.Customers.Where(c => c.Id == customerId).Select(c => c.Currency).SingleAsync(stop),
            [var one] => one,
            _ => throw new RefusalException(
                "against",
                $"These are in {string.Join(" and ", currencies.Select(c => c.Code).Order())}. Place a part of the line for each currency."
            ),
        };
    }

    /// <param name="currency">Of what it pays.</param>
    /// <param name="amount">What of the line it is, in minor units of the line's currency.</param>
    /// <param name="theirs">What was typed for it in the other currency; null for the rates of the day.</param>
    /// <returns>Minor units of <paramref name="currency"/>.</returns>
    /// <exception cref="RefusalException">When there is no rate.</exception>
    public async Task<long> OfAsync(
        BankLine line,
        Currency currency,
        long amount,
        long? theirs,
        CancellationToken stop = default
    )
    {
        if (currency.Equals(line.Currency))
            return amount;
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var worth = HomeAmount.Of(
            amount,
            line.Currency,
            await rates.OfAsync(line.Currency, line.Date, RateUse.Money, stop),
            home
        );
        var converted =
            theirs
            ?? HomeAmount.Back(worth, home, await rates.OfAsync(currency, line.Date, RateUse.Money, stop), currency);
        return converted > 0
            ? converted
            : throw new RefusalException("theirAmount", $"Give what it is in {currency}, above zero.");
    }

    /// <summary>
    /// A rest of a few cents that only comes from the rate of the day is none: what was meant, where a converted amount
    /// is off it by no more than counts as small at home; else the converted amount.
    /// </summary>
    /// <param name="meant">What it may be meant for, in minor units of <paramref name="currency"/>; the nearest counts.
    /// </param>
    public async Task<long> MeantAsync(
        BankLine line,
        Currency currency,
        long converted,
        IEnumerable<long> meant,
        CancellationToken stop = default
    )
    {
        if (currency.Equals(line.Currency))
            return converted;
        var business = await head.BusinessAsync(stop);
        var rate = await rates.OfAsync(currency, line.Date, RateUse.Money, stop);
        return meant
            .Where(m => m > 0)
            .Where(m =>
                HomeAmount.Of(Math.Abs(m - converted), currency, rate, business.HomeCurrency)
                <= business.SmallDifference
            )
            .DefaultIfEmpty(converted)
            .MinBy(m => Math.Abs(m - converted));
    }
}
