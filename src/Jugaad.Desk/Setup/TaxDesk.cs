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
public sealed class TaxDesk(BooksContext db, BookWriter writer, BooksHead head)
{
    /// <exception cref="RefusalException">When the rate cannot be, or one begins on that day already.</exception>
    public Task<int> AddRateAsync(string component, DateOnly from, decimal percent, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, null, async () =>
    {
        if (percent is < 0 or > 100 || PlainDecimal.DecimalsOf(percent) > Limits.PercentDecimals) throw new RefusalException("percent", "Give a rate from 0 to 100 with at most 4 decimals.");
        var found = await db.TaxComponents.SingleOrDefaultAsync(c => c.Name == component, stop);
        if (found is null) db.TaxComponents.Add(found = new TaxComponent(component, "", [new TaxRate(from, percent)]));
        else found.AddRate(new TaxRate(from, percent));
        await writer.TrailAsync($"{component}: {PlainDecimal.Text(percent)} % from {from:yyyy-MM-dd}");
        await writer.SaveAsync(stop);
        return found.Id;
    }, stop);

    public Task<int> AddCodeAsync(TaxCodeToAdd add, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, null, async () =>
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

    /// <summary>Puts a rule at the end of the table that decides which code a line gets.</summary>
    /// <exception cref="RefusalException">When the code is not there, or the same case has a rule already.</exception>
    public Task<int> AddRuleAsync(Supply supply, Buyer buyer, Place place, int? taxCodeId, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, formKey, async () =>
    {
        if (taxCodeId is { } id && !await db.TaxCodes.AnyAsync(c => c.Id == id, stop)) throw new RefusalException("taxCodeId", "Choose a tax code from the list.");
        if (await db.TaxRules.AnyAsync(r => r.Supply == supply && r.Buyer == buyer && r.Place == place, stop))
            throw new RefusalException("supply", "There is a rule for this case already. Take it away first, or choose another case.");
        var rule = new TaxRule(await db.TaxRules.Select(r => (int?)r.Position).MaxAsync(stop) + 1 ?? 0, supply, buyer, place, taxCodeId);
        db.TaxRules.Add(rule);
        await writer.TrailAsync($"Tax rule added: {RuleWords(rule)}");
        await writer.SaveAsync(stop);
        return rule.Id;
    }, stop);

    public Task<int> RemoveRuleAsync(int id, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, formKey, async () =>
    {
        var rule = await db.TaxRules.FindAsync([id], stop) ?? throw new RefusalException("", "This rule was taken away already.");
        db.TaxRules.Remove(rule);
        await writer.TrailAsync($"Tax rule taken away: {RuleWords(rule)}");
        return id;
    }, stop);

    /// <summary>Moves a rule one place up, so that it is looked at before its neighbour.</summary>
    public Task<int> MoveRuleUpAsync(int id, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, formKey, async () =>
    {
        var rules = await db.TaxRules.OrderBy(r => r.Position).ThenBy(r => r.Id).ToListAsync(stop);
        var at = rules.FindIndex(r => r.Id == id);
        if (at > 0) (rules[at - 1], rules[at]) = (rules[at], rules[at - 1]);
        for (var i = 0; i < rules.Count; i++) rules[i].MoveTo(i);
        return id;
    }, stop);

    /// <summary>The code for an item, or a line without one, sold to a customer; the item's own where no rule says otherwise.</summary>
    public async Task<IReadOnlyList<(int TaxCodeId, string Why)>> DecideAsync(int customerId, IReadOnlyList<int?> itemIds, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var customer = await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == customerId, stop);
        var rules = await db.TaxRules.AsNoTracking().ToListAsync(stop);
        var wanted = itemIds.OfType<int>().ToHashSet();
        var items = await db.Items.AsNoTracking().Where(i => wanted.Contains(i.Id)).ToDictionaryAsync(i => i.Id, stop);
        var names = await db.TaxCodes.AsNoTracking().ToDictionaryAsync(c => c.Id, c => c.Name, stop);
        return itemIds.Select(id =>
        {
            var item = id is { } known ? items.GetValueOrDefault(known) : null;
            var own = item?.TaxCodeId ?? business.DefaultTaxCodeId ?? 0;
            var decision = customer is null ? new TaxDecision(null, "") : TaxDecision.By(rules, item?.IsGoods ?? false, customer, business.Address.Country);
            return decision.TaxCodeId is { } code && code != own ? (code, $"{names.GetValueOrDefault(code)}: {decision.Why}") : (own, "");
        }).ToList();
    }

    private static string RuleWords(TaxRule rule) => $"{TaxDecision.Words(rule.Supply)} to {TaxDecision.Words(rule.Buyer)} {TaxDecision.Words(rule.Place)}";

    public Task<int> AddAccountAsync(string code, string name, AccountRole role, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, null, async () =>
    {
        if (await db.LedgerAccounts.AnyAsync(a => a.Code == code, stop)) throw new RefusalException("code", $"There is an account {code} already. Choose another number.");
        var made = new LedgerAccount(code, name, role);
        db.LedgerAccounts.Add(made);
        await writer.TrailAsync($"Account {code} {name} added");
        await writer.SaveAsync(stop);
        return made.Id;
    }, stop);

    public Task<int> AddTermsAsync(PaymentTerms terms, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, null, async () =>
    {
        db.Terms.Add(terms);
        await writer.TrailAsync($"Terms {terms.Name} added");
        await writer.SaveAsync(stop);
        return terms.Id;
    }, stop);
}
