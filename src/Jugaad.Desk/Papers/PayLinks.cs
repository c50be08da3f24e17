using Jugaad.Core.Amounts;
using Jugaad.Core.Paying;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>
/// Where customers can pay: the business's own address where it has one, else the page of the paper or the account
/// where cards are taken.
/// </summary>
public sealed class PayLinks(BooksContext db, BooksHead head, CustomerLinks links)
{
    private PayingSettings? _settings;

    public async Task<PayingSettings> SettingsAsync(CancellationToken stop = default) =>
        _settings ??= await db.PayingSettings.AsNoTracking().FirstOrDefaultAsync(stop) ?? new PayingSettings();

    /// <summary>The business's own address for an amount; empty where it has none, or nothing is to be paid.</summary>
    /// <param name="amount">What is open, in minor units.</param>
    public async Task<string> OwnAsync(
        long amount,
        Currency currency,
        string reference,
        string customer,
        CancellationToken stop = default
    ) =>
        amount > 0 && (await SettingsAsync(stop)).Pattern is { Length: > 0 } pattern
            ? PayPattern.Fill(pattern, new PayFields(new Money(amount, currency), reference, customer))
            : "";

    /// <summary>Whether cards are taken for amounts in a currency: the service takes the home currency.</summary>
    public async Task<bool> TakesCardAsync(Currency currency, CancellationToken stop = default) =>
        (await SettingsAsync(stop)).Card && currency.Equals((await head.BusinessAsync(stop)).HomeCurrency);

    /// <summary>Where a document can be paid; empty where nothing of it is open, or there is no way.</summary>
    /// <param name="open">What is open of it.</param>
    public async Task<string> OfDocumentAsync(
        int documentId,
        string number,
        Money open,
        Customer customer,
        CancellationToken stop = default
    )
    {
        var own = await OwnAsync(open.Minor, open.Currency, number, customer.Code, stop);
        return own.Length > 0 ? own
            : open.Minor > 0 && await TakesCardAsync(open.Currency, stop) ? await links.AddressAsync(documentId, stop)
            : "";
    }

    /// <summary>Where a customer can pay what they owe; empty where there is no way.</summary>
    /// <remarks>An address of the business's own names one amount: that of the usual currency, where something is owed
    /// in it.</remarks>
    public async Task<string> OfAccountAsync(Customer customer, Sums owed, CancellationToken stop = default)
    {
        if (owed.Above is not { Count: > 0 } above)
            return "";
        var first = above.FirstOrDefault(m => m.Currency.Equals(customer.Currency), above[0]);
        var own = await OwnAsync(first.Minor, first.Currency, customer.Code, customer.Code, stop);
        if (own.Length > 0)
            return own;
        foreach (var amount in above)
            if (await TakesCardAsync(amount.Currency, stop))
                return await links.AccountAddressAsync(customer.Id, stop);
        return "";
    }
}
