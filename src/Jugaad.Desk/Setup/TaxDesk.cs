using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>A tax code as it is to be added.</summary>
/// <param name="Components">The components in order, by name, and which are compound.</param>
public sealed record TaxCodeToAdd(string Code, string Name, TaxCategory Category, string? Reason, IReadOnlyList<(string Component, bool Compound)> Components);

/// <summary>Adds taxes, accounts and terms.</summary>
public sealed class TaxDesk(BooksContext db, BookWriter writer)
{
    /// <exception cref="RefusalException">When the rate cannot be, or one begins on that day already.</exception>
    public Task<int> AddRateAsync(string component, DateOnly from, decimal percent, CancellationToken stop = default) => writer.WriteAsync(null, async () =>
    {
        if (percent is < 0 or > 100 || PlainDecimal.DecimalsOf(percent) > Limits.PercentDecimals) throw new RefusalException("percent", "Give a rate from 0 to 100 with at most 4 decimals.");
        var found = await db.TaxComponents.SingleOrDefaultAsync(c => c.Name == component, stop);
        if (found is null) db.TaxComponents.Add(found = new TaxComponent(component, "", [new TaxRate(from, percent)]));
        else found.AddRate(new TaxRate(from, percent));
        await writer.TrailAsync($"{component}: {PlainDecimal.Text(percent)} % from {from:yyyy-MM-dd}");
        await writer.SaveAsync(stop);
        return found.Id;
    }, stop);

    public Task<int> AddCodeAsync(TaxCodeToAdd add, CancellationToken stop = default) => writer.WriteAsync(null, async () =>
    {
        if (await db.TaxCodes.AnyAsync(c => c.Code == add.Code, stop)) throw new RefusalException("code", $"There is a tax code {add.Code} already. Choose another.");
        var parts = new List<TaxCodePart>();
        foreach (var (name, compound) in add.Components)
        {
            var component = await db.TaxComponents.SingleOrDefaultAsync(c => c.Name == name, stop) ?? throw new RefusalException("components", $"There is no tax {name}. Add it first.");
            parts.Add(new TaxCodePart(parts.Count, component, compound));
        }

        var made = new TaxCode(add.Code, add.Name, add.Category, add.Reason, parts);
        db.TaxCodes.Add(made);
        await writer.TrailAsync($"Tax code {add.Code} added");
        await writer.SaveAsync(stop);
        return made.Id;
    }, stop);

    public Task<int> AddAccountAsync(string code, string name, AccountRole role, CancellationToken stop = default) => writer.WriteAsync(null, async () =>
    {
        if (await db.LedgerAccounts.AnyAsync(a => a.Code == code, stop)) throw new RefusalException("code", $"There is an account {code} already. Choose another number.");
        var made = new LedgerAccount(code, name, role);
        db.LedgerAccounts.Add(made);
        await writer.TrailAsync($"Account {code} {name} added");
        await writer.SaveAsync(stop);
        return made.Id;
    }, stop);

    public Task<int> AddTermsAsync(PaymentTerms terms, CancellationToken stop = default) => writer.WriteAsync(null, async () =>
    {
        db.Terms.Add(terms);
        await writer.TrailAsync($"Terms {terms.Name} added");
        await writer.SaveAsync(stop);
        return terms.Id;
    }, stop);
}
