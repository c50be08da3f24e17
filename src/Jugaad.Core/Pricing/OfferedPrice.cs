using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Pricing;

/// <summary>Which price a customer is offered, and where it comes from.</summary>
/// <param name="From">Such as <c>price list Trade</c>, or <c>own price, converted</c>; empty for the item's own price.
/// </param>
public sealed record OfferedPrice(decimal Price, string From)
{
    private const int TaxDecimals = 6;

    /// <summary>
    /// The price in the customer's list; else in another list of the currency; else that of the customer's list at
    /// home, or the item's own, divided by the exchange rate and rounded half away from zero to the currency's decimals
    /// (at least 2). Where the document wants tax in its prices and the price has none, or the other way round, it is
    /// converted by the treatment and rounded to 6 decimals.
    /// </summary>
    /// <param name="listId">The customer's; where it has ended by that day, the one that follows it.</param>
    /// <param name="day">Lists that do not hold on it are left out.</param>
    /// <param name="home">The currency of the items' own prices.</param>
    /// <param name="rate">Null where there is none, which gives a price of 0.</param>
    /// <param name="treatment">How the item is taxed; null where it is not known.</param>
    public static OfferedPrice Of(
        Item item,
        int? listId,
        IReadOnlyCollection<PriceList> lists,
        DateOnly day,
        Currency currency,
        Currency home,
        QuotedRate? rate,
        bool withTax,
        Treatment? treatment
    )
    {
        listId = Following(listId, lists, day);
        var offers = item
            .Prices.Join(
                lists.Where(l => l.HoldsOn(day) && l.Currency.Equals(currency)),
                p => p.PriceListId,
                l => l.Id,
                (p, l) => (p.Price, List: l)
            )
            .OrderByDescending(o => o.List.Id == listId)
            .ThenBy(o => o.List.Id)
            .ToList();
        // A list that the customer does not have is better than a price converted from another currency, but not than
        // the item's own.
        if (offers.Count > 0 && (offers[0].List.Id == listId || rate != QuotedRate.One))
            return new OfferedPrice(
                Convert(offers[0].Price, offers[0].List.IncludesTax, withTax, treatment),
                $"price list {offers[0].List.Name}"
            );
        // What they get at home is what they get abroad, at the rate of the day.
        if (
            rate is { } quotedRate
            && lists.FirstOrDefault(l => l.Id == listId && l.HoldsOn(day) && l.Currency.Equals(home)) is { } usual
            && item.Prices.FirstOrDefault(p => p.PriceListId == usual.Id) is { } listed
        )
            return new OfferedPrice(
                Convert(
                    quotedRate.PriceOf(listed.Price, Math.Max(2, currency.Decimals)),
                    usual.IncludesTax,
                    withTax,
                    treatment
                ),
                $"price list {usual.Name}, converted at the rate of the day"
            );
        var own =
            rate == QuotedRate.One ? item.Price
            : rate is { } quoted ? quoted.PriceOf(item.Price, Math.Max(2, currency.Decimals))
            : 0;
        return new OfferedPrice(
            Convert(own, item.PriceIncludesTax, withTax, treatment),
            rate == QuotedRate.One ? ""
                : rate is null ? "no price: there is no exchange rate for the day"
                : "own price, converted at the rate of the day"
        );
    }

    /// <summary>The list that somebody's list has become by a day.</summary>
    private static int? Following(int? listId, IReadOnlyCollection<PriceList> lists, DateOnly day)
    {
        var steps = 0;
        while (
            lists.FirstOrDefault(l => l.Id == listId) is { Until: { } until, FollowedById: { } next }
            && until < day
            && steps++ < lists.Count
        )
            listId = next;
        return listId;
    }

    private static decimal Convert(decimal price, bool hasTax, bool withTax, Treatment? treatment)
    {
        if (hasTax == withTax || treatment is null)
            return price;
        var factor = treatment.Factor;
        return Math.Round(withTax ? price * factor : price / factor, TaxDecimals, MidpointRounding.AwayFromZero);
    }
}
