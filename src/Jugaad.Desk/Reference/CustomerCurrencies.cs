using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reference;

/// <summary>In which currencies customers are billed, and in which they were.</summary>
public static class CustomerCurrencies
{
    /// <summary>
    /// The currency in which something for a customer is read and shown: the chosen one where they are billed in it,
    /// else their usual one; home for nobody in particular.
    /// </summary>
    /// <param name="chosen">Its code; null or empty for none.</param>
    public static async Task<Currency> BilledInAsync(
        this BooksContext db,
        int? customerId,
        string? chosen,
        Currency home,
        CancellationToken stop = default
    )
    {
        if (await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == customerId, stop) is not { } customer)
            return home;
        return customer.Currencies.FirstOrDefault(c => c.Code == chosen) ?? customer.Currency;
    }

    /// <summary>The currencies of documents and items of some customers, by the customers' ids.</summary>
    /// <param name="only">Of one customer; null for all.</param>
    public static async Task<ILookup<int, Currency>> UsedCurrenciesAsync(
        this BooksContext db,
        int? only,
        CancellationToken stop = default
    )
    {
        var documents = await db
            .Documents.Where(d => only == null || d.CustomerId == only)
            .Select(d => new { d.CustomerId, d.Currency })
            .Distinct()
            .ToListAsync(stop);
        var items = await db
            .AccountItems.Where(i => only == null || i.CustomerId == only)
            .Select(i => new { i.CustomerId, i.Currency })
            .Distinct()
            .ToListAsync(stop);
        return documents.Concat(items).Distinct().ToLookup(u => u.CustomerId, u => u.Currency);
    }

    /// <summary>
    /// What is there in a currency stays: the usual one while there is anything in it, as a limit and a price list are
    /// in it too, and the others as ones that they are billed in.
    /// </summary>
    /// <exception cref="RefusalException">When the details leave one out that is used.</exception>
    public static void MustKeep(Customer customer, CustomerDetails details, IEnumerable<Currency> used)
    {
        var there = used.ToHashSet();
        if (customer.Currency.Code != details.Currency && there.Contains(customer.Currency))
            throw new RefusalException(
                "currency",
                $"{customer.Name} has documents in {customer.Currency}, so that stays their usual currency. Name the other under Also billed in."
            );
        var after = new Customer(details).Currencies;
        if (there.FirstOrDefault(c => !after.Contains(c)) is { } gone)
            throw new RefusalException(
                "alsoIn",
                $"{customer.Name} has documents or payments in {gone}, so they stay billed in it. Leave {gone} under Also billed in."
            );
    }
}
