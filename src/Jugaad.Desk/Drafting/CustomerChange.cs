using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Drafting;

/// <summary>What a draft becomes when its customer changes.</summary>
/// <param name="Said">What changed, in words; empty where nothing did.</param>
public sealed record ChangedCustomer(DraftContent Content, IReadOnlyList<string> Said);

/// <summary>
/// Recomputes the terms, prices, discounts and tax of a draft for another customer, and says what that changed.
/// </summary>
public sealed class CustomerChange(BooksContext db, Pricing pricing, MastersLoader masters, BooksHead head)
{
    /// <param name="content">With the new customer.</param>
    /// <param name="before">The customer that it had; null where it had none.</param>
    /// <param name="typedIn">The currency that it was typed in; that of the customer before where it is null.</param>
    /// <param name="keepsPrices">Whether special prices stay, as those of a starter do; else items get the
    /// customer's.</param>
    public async Task<ChangedCustomer> ApplyAsync(
        DraftContent content,
        int? before,
        Currency? typedIn = null,
        bool keepsPrices = false,
        CancellationToken stop = default
    )
    {
        var customers = await db
            .Customers.AsNoTracking()
            .Include(c => c.Terms)
            .Where(c => c.Id == content.CustomerId || c.Id == before)
            .ToListAsync(stop);
        var (was, now) = (customers.Find(c => c.Id == before), customers.Find(c => c.Id == content.CustomerId));
        if (now is null && was is null)
            return new ChangedCustomer(content, []);
        // Nobody in particular buys at the business's own prices.
        var business = await head.BusinessAsync(stop);
        // What the new customer is not billed in, the document cannot be in.
        var currency =
            now?.Currencies.FirstOrDefault(c => c.Code == content.Currency) ?? now?.Currency ?? business.HomeCurrency;
        content = content with { Currency = now is null ? "" : currency.Code };
        var format = business.Format;
        var said = new List<string>();
        if (was is not null && now is not null && was.Terms?.Name != now.Terms?.Name && content.TermsId is null)
            said.Add($"terms {was.Terms?.Name ?? "as usual"} → {now.Terms?.Name ?? "as usual"}");
        if ((typedIn ?? was?.Currency) is { } from && !from.Equals(currency))
        {
            var (converted, words) = await ConvertAsync(content, from, currency, stop);
            // An item gets its price from the list, unless a special one stays.
            content = keepsPrices
                ? converted
                : converted with
                {
                    Lines =
                    [
                        .. converted.Lines.Zip(
                            content.Lines,
                            (c, l) => l.ItemId is null ? c : c with { UnitPrice = l.UnitPrice }
                        ),
                    ],
                };
            said.Add(words);
        }

        if (keepsPrices)
            return new ChangedCustomer(content, said);
        // The other customer's discount goes with that customer.
        var freed = content with
        {
            // What is handed over here is handed over here, whoever buys.
            PlaceId = content.PlaceId == 0 ? 0 : null,
            Lines = content
                .Lines.Select(l =>
                    was is { TradeDiscount: > 0 } && l.DiscountPercent == was.TradeDiscount
                        ? l with
                        {
                            DiscountPercent = null,
                        }
                        : l
                )
                .ToList(),
        };
        if (was is not null && now is not null && was.TradeDiscount != now.TradeDiscount)
            said.Add($"trade discount {format.Percent(was.TradeDiscount)} → {format.Percent(now.TradeDiscount)}");
        var (priced, changes) = await pricing.AsOfTodayAsync(freed, stop);
        return new ChangedCustomer(priced, [.. said, .. changes]);
    }

    /// <summary>
    /// Prices, discounts in money and charges in another currency at the rates of the content's date, and words that
    /// say so.
    /// </summary>
    /// <remarks>Without a rate nothing is converted, and the words say that.</remarks>
    public async Task<(DraftContent Content, string Said)> ConvertAsync(
        DraftContent content,
        Currency from,
        Currency to,
        CancellationToken stop = default
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        try
        {
            var factor =
                (await masters.RateAsync(from, content.Date, stop)).HomeForOne
                / (await masters.RateAsync(to, content.Date, stop)).HomeForOne;
            return (
                content.Into(from, to, factor),
                $"currency {from} → {to}, converted at 1 {from} = {format.Figure(factor)} {to}"
            );
        }
        catch (RefusalException)
        {
            return (
                content,
                $"currency {from} → {to}; without an exchange rate for {format.Date(content.Date)} the figures stay as typed, so look each of them over"
            );
        }
    }
}
