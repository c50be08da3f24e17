using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>
/// Works out what moved on a money account, in its currency, for an amount in the currency of what it is for.
/// </summary>
public sealed class MoneySides(BooksContext db, BooksHead head, RateBook rates)
{
    /// <summary>The currency of a money account; home where it is not said, or the account is none.</summary>
    public async Task<Currency> CurrencyOfAsync(int accountId, CancellationToken stop = default) =>
        await db.LedgerAccounts.Where(a => a.Id == accountId).Select(a => a.Currency).SingleOrDefaultAsync(stop)
        ?? (await head.BusinessAsync(stop)).HomeCurrency;

    /// <param name="amount">What the payer gave, in minor units of <paramref name="currency"/>.</param>
    /// <param name="arrived">In minor units of the account's currency; null for what was given, less the charge, at the
    /// rate of the day.</param>
    /// <exception cref="RefusalException">When there is no rate, or what arrived cannot be of what was given.</exception>
    public Task<MoneySide> CameAsync(
        int accountId,
        Currency currency,
        long amount,
        long? arrived,
        long charge,
        DateOnly day,
        CancellationToken stop = default
    ) => SideAsync(accountId, currency, amount, arrived, charge, -charge, day, stop);

    /// <inheritdoc cref="CameAsync"/>
    /// <param name="left">What left the account with the charge; null for what is paid back, with the charge, at the
    /// rate of the day.</param>
    public Task<MoneySide> WentAsync(
        int accountId,
        Currency currency,
        long amount,
        long? left,
        long charge,
        DateOnly day,
        CancellationToken stop = default
    ) => SideAsync(accountId, currency, amount, left, charge, charge, day, stop);

    /// <summary>Money that belongs to no customer.</summary>
    /// <param name="amount">Minor units of the account's currency.</param>
    public async Task<MoneySide> OtherAsync(int accountId, long amount, DateOnly day, CancellationToken stop = default)
    {
        var of = await CurrencyOfAsync(accountId, stop);
        return MoneySide.Plain(of, amount, await rates.OfAsync(of, day, RateUse.Money, stop));
    }

    private async Task<MoneySide> SideAsync(
        int accountId,
        Currency currency,
        long amount,
        long? typed,
        long charge,
        long adds,
        DateOnly day,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var (home, of) = (business.HomeCurrency, await CurrencyOfAsync(accountId, stop));
        var rate = await rates.OfAsync(of, day, RateUse.Money, stop);
        var moved = typed ?? await AtTheDaysRateAsync(amount, currency, of, rate, home, day, stop) + adds;
        // In one currency nothing is left to a rate: what was given is what arrived and what was kept.
        if (currency.Equals(of) && moved - adds != amount)
            throw new RefusalException(
                "arrived",
                $"{new Money(amount, of)} {of} {(adds > 0 ? "with" : "less")} the charge of {new Money(charge, of)} is {new Money(amount + adds, of)}, and not {new Money(moved, of)}. Look at the three amounts."
            );
        var side = new MoneySide(of, moved, charge, charge > 0 ? business.FeeAccountId : null, rate);
        var refusals = new Refusals();
        side.Check(refusals, given: adds > 0);
        refusals.ThrowIfAny();
        return side;
    }

    private async Task<long> AtTheDaysRateAsync(
        long amount,
        Currency currency,
        Currency of,
        QuotedRate rate,
        Currency home,
        DateOnly day,
        CancellationToken stop
    ) =>
        currency.Equals(of)
            ? amount
            : HomeAmount.Back(
                HomeAmount.Of(amount, currency, await rates.OfAsync(currency, day, RateUse.Money, stop), home),
                home,
                rate,
                of
            );
}
