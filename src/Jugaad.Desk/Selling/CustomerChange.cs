using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Selling;

/// <summary>What a draft becomes when its customer changes.</summary>
/// <param name="Said">What changed, in words; empty where nothing did.</param>
public sealed record ChangedCustomer(DraftContent Content, IReadOnlyList<string> Said);

/// <summary>Recomputes the terms, prices, discounts and tax of a draft for another customer, and says what that changed.</summary>
public sealed class CustomerChange(BooksContext db, Pricing pricing)
{
    /// <param name="content">With the new customer.</param>
    /// <param name="before">The customer that it had; null where it had none.</param>
    public async Task<ChangedCustomer> ApplyAsync(DraftContent content, int? before, CancellationToken stop = default)
    {
        var customers = await db.Customers.AsNoTracking().Include(c => c.Terms).Where(c => c.Id == content.CustomerId || c.Id == before).ToListAsync(stop);
        var (was, now) = (customers.Find(c => c.Id == before), customers.Find(c => c.Id == content.CustomerId));
        if (now is null) return new ChangedCustomer(content, []);
        var said = new List<string>();
        if (was is not null && was.Terms?.Name != now.Terms?.Name && content.TermsId is null) said.Add($"terms {was.Terms?.Name ?? "as usual"} → {now.Terms?.Name ?? "as usual"}");
        if (was is not null && !was.Currency.Equals(now.Currency)) said.Add($"currency {was.Currency} → {now.Currency}");
        // The other customer's discount goes with that customer.
        var freed = content with
        {
            PlaceId = null,
            Lines = content.Lines.Select(l => was is { TradeDiscount: > 0 } && l.DiscountPercent == was.TradeDiscount ? l with { DiscountPercent = null } : l).ToList(),
        };
        if (was is not null && was.TradeDiscount != now.TradeDiscount) said.Add($"trade discount {Core.Amounts.PlainDecimal.Text(was.TradeDiscount)} % → {Core.Amounts.PlainDecimal.Text(now.TradeDiscount)} %");
        var (priced, changes) = await pricing.AsOfTodayAsync(freed, stop);
        return new ChangedCustomer(priced, [.. said, .. changes]);
    }
}
