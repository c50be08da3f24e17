using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Pricing;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Drafting;

/// <summary>For whom, where and when something is priced.</summary>
/// <param name="PlaceId">As in <see cref="DraftContent.PlaceId"/>.</param>
public sealed record PriceQuestion(int? CustomerId, int? PlaceId, DateOnly Day, bool WithTax)
{
    /// <summary>The code of the currency that is asked for; empty for the customer's usual one.</summary>
    public string Currency { get; init; } = "";
}

/// <summary>What an item is offered at.</summary>
/// <param name="Discount">The customer's trade discount in percent; null for none.</param>
/// <param name="Why">Why it has this tax code; empty where it is simply the item's own.</param>
public sealed record Offer(Item Item, decimal Price, Currency Currency, decimal? Discount, int TaxCodeId, string Why)
{
    /// <summary>Where the price comes from; empty where it is simply the item's own.</summary>
    public string From { get; init; } = "";
}

/// <summary>Finds the price, the discount and the tax code that an item has for a customer on a day.</summary>
public sealed class Pricing(BooksContext db, BooksHead head, MastersLoader masters, TaxRulesDesk rules)
{
    /// <summary>One offer for each item, in their order. Without an exchange rate for the day the price is 0.</summary>
    public async Task<IReadOnlyList<Offer>> OffersAsync(
        IReadOnlyList<Item> items,
        PriceQuestion question,
        CancellationToken stop = default
    )
    {
        if (items.Count == 0)
            return [];
        var business = await head.BusinessAsync(stop);
        var buyer = question.CustomerId is { } id
            ? await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, stop)
            : null;
        var currency =
            buyer?.Currencies.FirstOrDefault(c => c.Code == question.Currency)
            ?? buyer?.Currency
            ?? business.HomeCurrency;
        var rate = await RateOrNoneAsync(currency, question.Day, stop);
        var answers = await rules.DecideAsync(
            new TaxQuestion(
                question.CustomerId ?? 0,
                question.PlaceId,
                question.Day,
                [.. items.Select(i => (int?)i.Id)]
            ),
            stop
        );
        var lists = await db.PriceLists.AsNoTracking().ToListAsync(stop);
        var codes = await db.TaxCodes.AsNoTracking().ToDictionaryAsync(c => c.Id, stop);
        var standing = TaxStanding.With(await db.TaxAuthorities.AsNoTracking().ToListAsync(stop));
        return items
            .Select(
                (item, n) =>
                {
                    var offered = OfferedPrice.Of(
                        item,
                        buyer?.PriceListId,
                        lists,
                        question.Day,
                        currency,
                        business.HomeCurrency,
                        rate,
                        question.WithTax,
                        TreatmentOf(codes, answers[n].TaxCodeId, question.Day, standing)
                    );
                    return new Offer(
                        item,
                        offered.Price,
                        currency,
                        buyer is { TradeDiscount: > 0 } ? buyer.TradeDiscount : null,
                        answers[n].TaxCodeId,
                        answers[n].Why
                    )
                    {
                        From = offered.From,
                    };
                }
            )
            .ToList();
    }

    /// <summary>
    /// The same content at the prices, discounts and tax codes of its date and customer, and what that changed in
    /// words.
    /// </summary>
    public async Task<(DraftContent Content, IReadOnlyList<string> Said)> AsOfTodayAsync(
        DraftContent content,
        CancellationToken stop = default
    )
    {
        var ids = content.Lines.Select(l => l.ItemId).OfType<int>().Distinct().ToList();
        var items = await db.Items.AsNoTracking().Where(i => ids.Contains(i.Id)).ToListAsync(stop);
        var offers = (
            await OffersAsync(
                items,
                new PriceQuestion(
                    content.CustomerId,
                    content.PlaceId,
                    content.TaxDate ?? content.Date,
                    content.PricesIncludeTax
                )
                {
                    Currency = content.Currency,
                },
                stop
            )
        ).ToDictionary(o => o.Item.Id);
        var said = new List<string>();
        var format = (await head.BusinessAsync(stop)).Format;
        var codes = await db.TaxCodes.AsNoTracking().ToDictionaryAsync(c => c.Id, c => c.Code, stop);
        var plain = await rules.DecideAsync(
            new TaxQuestion(content.CustomerId, content.PlaceId, content.TaxDate ?? content.Date, [null]),
            stop
        );
        return (content with { Lines = content.Lines.Select(l => Priced(l)).ToList() }, said);

        DraftLine Priced(DraftLine line)
        {
            if (!line.Role.HasFigures())
                return line;
            if (line.ItemId is not { } id || !offers.TryGetValue(id, out var offer))
                return line with { TaxCodeId = line.TaxCodeId == 0 ? plain[0].TaxCodeId : line.TaxCodeId };
            var name = line.Text.Split('\n')[0];
            if (offer.Price != line.UnitPrice)
                said.Add($"{name}: price {format.Figure(line.UnitPrice)} → {format.Figure(offer.Price)}");
            if (offer.TaxCodeId != line.TaxCodeId)
                said.Add(
                    $"{name}: tax {codes.GetValueOrDefault(line.TaxCodeId, "none")} → {codes.GetValueOrDefault(offer.TaxCodeId, "none")}"
                );
            // A discount that was given by hand stays; without one the customer's own applies.
            var discount =
                line.DiscountPercent is null && line.DiscountAmount is null ? offer.Discount : line.DiscountPercent;
            return line with { UnitPrice = offer.Price, TaxCodeId = offer.TaxCodeId, DiscountPercent = discount };
        }
    }

    /// <summary>
    /// The same content with tax in its prices, or without. List prices are taken from the list; others are converted
    /// by the tax of their line on the tax date.
    /// </summary>
    /// <exception cref="RefusalException">When lines were made from another document, whose prices they
    /// share.</exception>
    public async Task<DraftContent> SwitchAsync(DraftContent content, bool withTax, CancellationToken stop = default)
    {
        if (content.PricesIncludeTax == withTax)
            return content;
        if (content.Lines.Any(l => l.FromLineId is not null) || content.Charges.Any(c => c.FromChargeId is not null))
            throw new RefusalException(
                "lines",
                $"The prices of what this was made from are {(withTax ? "without" : "with")} tax. Keep them so here."
            );
        var day = content.TaxDate ?? content.Date;
        var codes = await db.TaxCodes.AsNoTracking().ToDictionaryAsync(c => c.Id, stop);
        var standing = TaxStanding.With(await db.TaxAuthorities.AsNoTracking().ToListAsync(stop));
        decimal Factor(int code) =>
            TreatmentOf(codes, code, day, standing) is { } treatment
                ? withTax
                    ? treatment.Factor
                    : 1 / treatment.Factor
                : 1;
        var ids = content.Lines.Select(l => l.ItemId).OfType<int>().Distinct().ToList();
        var items = await db.Items.AsNoTracking().Where(i => ids.Contains(i.Id)).ToListAsync(stop);
        int? customer = content.CustomerId > 0 ? content.CustomerId : null;
        var asked = new PriceQuestion(customer, content.PlaceId, day, withTax) { Currency = content.Currency };
        var before = (await OffersAsync(items, asked with { WithTax = !withTax }, stop)).ToDictionary(o => o.Item.Id);
        var after = (await OffersAsync(items, asked, stop)).ToDictionary(o => o.Item.Id);
        decimal Price(int i)
        {
            var line = content.Lines[i];
            return
                line.ItemId is { } id
                && before.TryGetValue(id, out var was)
                && was.TaxCodeId == line.TaxCodeId
                && was.Price == line.UnitPrice
                ? after[id].Price
                : DraftConversion.PriceBy(line.UnitPrice, Factor(line.TaxCodeId));
        }

        return content.Switched(
            withTax,
            Price,
            i => Factor(content.Lines[i].TaxCodeId),
            i => Factor(content.Charges[i].TaxCodeId)
        );
    }

    /// <summary>Without a rate there is no price to propose; whoever computes the totals is told so then.</summary>
    private async Task<QuotedRate?> RateOrNoneAsync(Currency currency, DateOnly day, CancellationToken stop)
    {
        try
        {
            return await masters.RateAsync(currency, day, stop);
        }
        catch (RefusalException)
        {
            return null;
        }
    }

    private static Treatment? TreatmentOf(Dictionary<int, TaxCode> codes, int id, DateOnly day, TaxStanding standing)
    {
        try
        {
            return codes.GetValueOrDefault(id)?.TreatmentOn(day, "", standing);
        }
        catch (RefusalException)
        {
            // A day before the first rate; the editor says so when it computes the totals.
            return null;
        }
    }
}
