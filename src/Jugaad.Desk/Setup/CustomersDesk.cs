using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>Makes and changes customers.</summary>
public sealed class CustomersDesk(BooksContext db, BookWriter writer)
{
    /// <param name="id">Null for a new one.</param>
    /// <param name="version">What the person had before them; 0 for a new one.</param>
    public Task<int> SaveAsync(int? id, int version, CustomerDetails details, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(id is null ? Right.Draft : Right.Masters, formKey, async () =>
    {
        if (details.Code.Trim().Length == 0 && details.Name.Trim().Length > 0) details = details with { Code = await FreeCodeAsync(details.Name, stop) };
        var code = details.Code.Trim();
        var other = await db.Customers.Where(c => c.Code == code && c.Id != (id ?? 0)).Select(c => c.Name).FirstOrDefaultAsync(stop);
        if (other is not null) throw new RefusalException("code", $"The code {code} belongs to {other} already. Choose another.");
        if (details.TermsId is { } termsId && !await db.Terms.AnyAsync(t => t.Id == termsId, stop)) throw new RefusalException("termsId", "Choose terms from the list.");
        if (id is null)
        {
            var made = new Customer(details);
            db.Customers.Add(made);
            await writer.SaveAsync(stop);
            await writer.TrailAsync($"Customer {made.Name} added", made.Id);
            return made.Id;
        }

        var customer = await db.Customers.FindAsync([id.Value], stop) ?? throw new RefusalException("", $"There is no customer {id}.");
        if (customer.Version != version) throw new RefusalException("", "Somebody else changed this customer while you had it open. What you typed is still here; compare it with the customer's page, then save again from a fresh form.");
        if (customer.Currency.Code != details.Currency && await db.Documents.AnyAsync(d => d.CustomerId == id, stop))
            throw new RefusalException("currency", $"{customer.Name} has documents in {customer.Currency}, so the currency stays. Add a second customer for another currency.");
        customer.Describe(details);
        await writer.TrailAsync($"Customer {customer.Name} changed", customer.Id);
        return customer.Id;
    }, stop);

    /// <summary>A short code from the name that nobody has yet.</summary>
    private async Task<string> FreeCodeAsync(string name, CancellationToken stop)
    {
        var letters = string.Concat(name.ToUpperInvariant().Where(char.IsAsciiLetterOrDigit).Take(6));
        var start = letters.Length == 0 ? "C" : letters;
        var taken = (await db.Customers.Where(c => c.Code.StartsWith(start)).Select(c => c.Code).ToListAsync(stop)).ToHashSet();
        return taken.Contains(start) ? Enumerable.Range(2, taken.Count + 1).Select(n => start + n).First(c => !taken.Contains(c)) : start;
    }
}

/// <summary>Makes and changes items.</summary>
public sealed class ItemsDesk(BooksContext db, BookWriter writer)
{
    /// <inheritdoc cref="CustomersDesk.SaveAsync"/>
    public Task<int> SaveAsync(int? id, int version, ItemDetails details, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Masters, formKey, async () =>
    {
        var code = details.Code.Trim();
        var other = await db.Items.Where(c => c.Code == code && c.Id != (id ?? 0)).Select(c => c.Name).FirstOrDefaultAsync(stop);
        if (other is not null) throw new RefusalException("code", $"The code {code} belongs to {other} already. Choose another.");
        if (details.TaxCodeId != 0 && !await db.TaxCodes.AnyAsync(t => t.Id == details.TaxCodeId, stop)) throw new RefusalException("taxCodeId", "Choose a tax code from the list.");
        if (details.LedgerAccountId != 0 && !await db.LedgerAccounts.AnyAsync(t => t.Id == details.LedgerAccountId && t.Role == Core.Journal.AccountRole.Sales, stop))
            throw new RefusalException("ledgerAccountId", "Choose a sales account from the list.");
        if (id is null)
        {
            var made = new Item(details);
            db.Items.Add(made);
            await writer.SaveAsync(stop);
            await writer.TrailAsync($"Item {made.Code} added");
            return made.Id;
        }

        var item = await db.Items.FindAsync([id.Value], stop) ?? throw new RefusalException("", $"There is no item {id}.");
        if (item.Version != version) throw new RefusalException("", "Somebody else changed this item while you had it open. What you typed is still here; compare it with the list, then save again from a fresh form.");
        item.Describe(details);
        await writer.TrailAsync($"Item {item.Code} changed");
        return item.Id;
    }, stop);
}
