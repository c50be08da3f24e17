using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Paying;

/// <summary>An open item as its payer sees it. Minor units of the customer's currency.</summary>
public sealed record PayableItem(
    int ItemId,
    string Number,
    AccountItemKind Kind,
    DateOnly Date,
    DateOnly Due,
    long Amount,
    long Open,
    int? DocumentId
)
{
    /// <summary>What of it is about to be paid.</summary>
    public long Pays { get; init; }
}

/// <summary>What a payer is about to pay. Minor units.</summary>
/// <param name="Parts">What of each item is paid, and the surcharge on it.</param>
public sealed record PayOfferMade(
    int CustomerId,
    Currency Currency,
    IReadOnlyList<(PayableItem Item, long Surcharge)> Parts,
    long Amount,
    long Surcharge
)
{
    public long Total => Amount + Surcharge;
}

/// <summary>What a customer can pay online, and what it comes to.</summary>
public sealed class PayOffer(BooksContext db, BooksHead head, PayLinks pay)
{
    /// <summary>What is open on an account in the home currency, which cards pay; the earliest due first.</summary>
    public async Task<IReadOnlyList<PayableItem>> OpenAsync(int customerId, CancellationToken stop = default)
    {
        var currency = (await head.BusinessAsync(stop)).HomeCurrency;
        return await db
            .AccountItems.AsNoTracking()
            .Where(i => i.CustomerId == customerId && i.Open > 0 && i.Sign > 0 && i.Currency == currency)
            .Where(i => i.Kind == AccountItemKind.Invoice || i.Kind == AccountItemKind.DebitNote)
            .OrderBy(i => i.Due)
            .ThenBy(i => i.Date)
            .ThenBy(i => i.Id)
            .Select(i => new PayableItem(i.Id, i.Number, i.Kind, i.Date, i.Due, i.Amount, i.Open, i.DocumentId))
            .ToListAsync(stop);
    }

    /// <summary>What paying some items comes to: what is open of them now, and the surcharge.</summary>
    /// <param name="most">What is paid of an item at most, in minor units; all that is open of those that it does not
    /// name.</param>
    /// <exception cref="RefusalException">When cards are not taken, or nothing of them is open any more.</exception>
    public async Task<PayOfferMade> OfAsync(
        int customerId,
        IReadOnlyCollection<int> items,
        IReadOnlyDictionary<int, long>? most = null,
        CancellationToken stop = default
    )
    {
        var customer = await db.Customers.AsNoTracking().SingleAsync(c => c.Id == customerId, stop);
        var business = await head.BusinessAsync(stop);
        var home = business.HomeCurrency;
        if (!await pay.TakesCardAsync(home, stop))
            throw new RefusalException("", PaperWords.English[PaperWord.SiteNoCard]);
        var chosen = (await OpenAsync(customerId, stop))
            .Where(i => items.Contains(i.ItemId))
            .Select(i => i with { Pays = Math.Min(i.Open, most?.GetValueOrDefault(i.ItemId, i.Open) ?? i.Open) })
            .Where(i => i.Pays > 0)
            .ToList();
        if (items.Count == 0)
            throw new RefusalException("items", PaperWords.English[PaperWord.SiteNoItems]);
        if (
            chosen.Count == 0
            && await db.AccountItems.AnyAsync(
                i => i.CustomerId == customerId && items.Contains(i.Id) && i.Open > 0 && i.Currency != home,
                stop
            )
        )
            throw new RefusalException("", PaperWords.English[PaperWord.SiteNoCard]);
        if (chosen.Count == 0)
            throw new RefusalException("", PaperWords.English[PaperWord.SitePaidAlready]);
        // What is charged is put on a debit note to an invoice; what was taken over from other books has none.
        var charged = chosen.ConvertAll(i => i.DocumentId is null ? 0 : i.Pays);
        var settings = await pay.SettingsAsync(stop);
        var surcharge = Surcharge.MayCharge(business.Address.Country, customer.Kind)
            ? settings.Surcharge.On(charged.Sum())
            : 0;
        var shares = Surcharge.Split(surcharge, charged);
        return new PayOfferMade(
            customerId,
            home,
            [.. chosen.Select((c, i) => (c, shares[i]))],
            chosen.Sum(c => c.Pays),
            shares.Sum()
        );
    }

    /// <summary>What would be added to a payment by card; <see cref="Surcharge.None"/> where nothing is.</summary>
    public async Task<Surcharge> SurchargeOfAsync(int customerId, CancellationToken stop = default)
    {
        var surcharge = (await pay.SettingsAsync(stop)).Surcharge;
        var kind = await db.Customers.Where(c => c.Id == customerId).Select(c => c.Kind).SingleAsync(stop);
        var country = (await head.BusinessAsync(stop)).Address.Country;
        return Surcharge.MayCharge(country, kind) ? surcharge : Surcharge.None;
    }
}
