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
    /// <param name="amount">What of the line it is, in minor units of the line's currency.</param>
    /// <param name="theirs">What was typed for it in the customer's currency; null for the rate of the day.</param>
    /// <returns>Minor units of the customer's currency, and the rate at which both are the same money; no rate where
    /// the currency is one.</returns>
    /// <exception cref="RefusalException">When there is no rate, or the account itself is in another currency than the
    /// books.</exception>
    public async Task<(long Amount, QuotedRate? Rate)> OfAsync(
        BankLine line,
        int customerId,
        long amount,
        long? theirs,
        CancellationToken stop = default
    )
    {
        var currency = await db.Customers.Where(c => c.Id == customerId).Select(c => c.Currency).SingleAsync(stop);
        if (currency.Equals(line.Currency))
            return (amount, null);
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        if (!line.Currency.Equals(home))
            throw new RefusalException(
                "amount",
                $"The customer is billed in {currency}, and this account is in {line.Currency}. Money is converted only between {home} and another currency: enter it under Receive instead."
            );
        var converted = theirs ?? await AtTheDaysRateAsync(amount, currency, home, line.Date, stop);
        if (converted <= 0)
            throw new RefusalException("theirAmount", $"Give what it is in {currency}, above zero.");
        // The rate follows from the two amounts; with ten decimals the bank's comes out exactly.
        var rate = QuotedRate.Between(converted, currency, amount, home);
        if (rate.Figure <= 0)
            throw new RefusalException(
                "theirAmount",
                $"{new Money(converted, currency)} {currency} for {new Money(amount, home)} {home} cannot be. Look at the amount."
            );
        return (converted, rate);
    }

    private async Task<long> AtTheDaysRateAsync(
        long amount,
        Currency currency,
        Currency home,
        DateOnly day,
        CancellationToken stop
    ) => HomeAmount.Back(amount, home, await rates.OfAsync(currency, day, RateUse.Money, stop), currency);
}
