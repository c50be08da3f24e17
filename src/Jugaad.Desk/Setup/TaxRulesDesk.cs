using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>A sale that asks which tax codes its lines get.</summary>
/// <param name="PlaceId">As in <see cref="Core.Documents.DraftContent.PlaceId"/>.</param>
/// <param name="Day">The tax date.</param>
/// <param name="ItemIds">The lines' items; null for a line without one.</param>
public sealed record TaxQuestion(int CustomerId, int? PlaceId, DateOnly Day, IReadOnlyList<int?> ItemIds);

/// <summary>The code that a line gets.</summary>
/// <param name="Why">Empty where it is simply the item's own.</param>
/// <param name="Lacks">What the addresses do not say, and what might have given another code.</param>
public sealed record TaxAnswer(int TaxCodeId, string Why, AddressPart Lacks = AddressPart.None);

/// <summary>The table of rules that decides which code applies.</summary>
public sealed class TaxRulesDesk(BooksContext db, BookWriter writer, BooksHead head)
{
    public Task<int> AddRuleAsync(Supply supply, Buyer buyer, Place place, int? taxCodeId, Once once = default) =>
        AddRuleAsync(new TaxRuleCase(supply, buyer, place), taxCodeId, once);

    /// <summary>Puts a rule at the end of the table.</summary>
    /// <exception cref="RefusalException">When a code is not there, or the same case has a rule already.</exception>
    public Task<int> AddRuleAsync(TaxRuleCase @case, int? taxCodeId, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                if (@case.Region.Trim().Length > 0 && @case.Country.Length == 0)
                    @case = @case with { Country = (await head.BusinessAsync(stop)).Address.Country };
                if (taxCodeId is { } id && !await db.TaxCodes.AnyAsync(c => c.Id == id, stop))
                    refusals.Add("taxCodeId", "Choose a tax code from the list.");
                if (@case.PreferredCodeId is { } preferred && !await db.TaxCodes.AnyAsync(c => c.Id == preferred, stop))
                    refusals.Add("preferredCodeId", "Choose a tax code from the list.");
                if (@case.Country.Length > 0 && !Countries.Knows(@case.Country))
                    refusals.Add("country", "Choose a country from the list.");
                Texts.Short(refusals, "region", @case.Region, 60);
                if (Regions.Problem(@case.Country, @case.Region) is { } problem)
                    refusals.Add("region", problem);
                Texts.Short(refusals, "postal", @case.Postal, 400);
                refusals.ThrowIfAny();
                var rules = await db.TaxRules.ToListAsync(stop);
                var rule = new TaxRule(rules.Count == 0 ? 0 : rules.Max(r => r.Position) + 1, @case, taxCodeId);
                if (rules.Any(r => r.Case == rule.Case))
                    throw new RefusalException(
                        "supply",
                        "There is a rule for this case already. Take it away first, or choose another case."
                    );
                db.TaxRules.Add(rule);
                await writer.TrailAsync($"Tax rule added: {Words(rule)}");
                await writer.SaveAsync(stop);
                return rule.Id;
            }
        );

    public Task<int> RemoveRuleAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var rule =
                    await db.TaxRules.FindAsync([id], stop)
                    ?? throw new RefusalException("", "This rule was taken away already.");
                db.TaxRules.Remove(rule);
                await writer.TrailAsync($"Tax rule taken away: {Words(rule)}");
                return id;
            }
        );

    /// <summary>Moves a rule one place up, so that it is looked at before its neighbour.</summary>
    public Task<int> MoveRuleUpAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var rules = await db.TaxRules.OrderBy(r => r.Position).ThenBy(r => r.Id).ToListAsync(stop);
                var at = rules.FindIndex(r => r.Id == id);
                if (at > 0)
                    (rules[at - 1], rules[at]) = (rules[at], rules[at - 1]);
                for (var i = 0; i < rules.Count; i++)
                    rules[i].MoveTo(i);
                return id;
            }
        );

    /// <summary>The codes for the lines of a sale; an item's own where no rule says otherwise.</summary>
    public async Task<IReadOnlyList<TaxAnswer>> DecideAsync(TaxQuestion asked, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var customer = await db
            .Customers.AsNoTracking()
            .Include(c => c.Places)
            .Include(c => c.Certificates)
            .SingleOrDefaultAsync(c => c.Id == asked.CustomerId, stop);
        var rules = await db.TaxRules.AsNoTracking().ToListAsync(stop);
        var wanted = asked.ItemIds.OfType<int>().ToHashSet();
        var items = await db.Items.AsNoTracking().Where(i => wanted.Contains(i.Id)).ToDictionaryAsync(i => i.Id, stop);
        var codes = await db.TaxCodes.AsNoTracking().ToDictionaryAsync(c => c.Id, stop);
        var standing = TaxStanding.With(await db.TaxAuthorities.AsNoTracking().ToListAsync(stop));
        var to = customer is null ? business.Address : PlaceOf(asked.PlaceId, customer, business) ?? customer.Address;
        var lapsed = customer is null ? "" : LapsedWords(customer, asked.Day, business.Format);
        return asked
            .ItemIds.Select(id =>
            {
                var item = id is { } known ? items.GetValueOrDefault(known) : null;
                var own = item?.TaxCodeId ?? business.DefaultTaxCodeId ?? 0;
                if (customer is null)
                    return new TaxAnswer(own, "");
                if (!standing.IsRegisteredOn(asked.Day))
                    return new TaxAnswer(own, "no tax: the business is not registered for tax on this date");
                var decision = TaxDecision.By(
                    rules,
                    TaxCase.Of(item?.IsGoods ?? false, customer, to, business.Address, asked.Day, own)
                );
                return decision.TaxCodeId is { } code && code != own
                    ? new TaxAnswer(code, $"{codes.GetValueOrDefault(code)?.Name}: {decision.Why}", decision.Lacks)
                    : new TaxAnswer(own, lapsed, decision.Lacks);
            })
            .ToList();
    }

    /// <summary>Whether any rule asks for more of an address than its country.</summary>
    public Task<bool> GoByRegionOrPostalCodeAsync(CancellationToken stop = default) =>
        db.TaxRules.AnyAsync(
            r => r.Place == Place.HomeRegion || r.Place == Place.OtherRegion || r.Region != "" || r.Postal != "",
            stop
        );

    /// <summary>Where a sale is supplied, if not at the customer's address.</summary>
    /// <returns>Null for the customer's address, also where the place is not one of theirs.</returns>
    internal static Address? PlaceOf(int? placeId, Customer customer, Business business) =>
        placeId switch
        {
            null => null,
            0 => business.Address,
            _ => customer.Places.FirstOrDefault(p => p.Id == placeId)?.Address,
        };

    /// <summary>Says that a certificate has lapsed, so that nobody wonders where the exemption went.</summary>
    private static string LapsedWords(Customer customer, DateOnly day, DisplayFormat format)
    {
        var last = customer.Certificates.Where(c => c.Until < day).MaxBy(c => c.Until);
        return last is null || customer.CertificateOn(day) is not null
            ? ""
            : $"taxed: the certificate {last.Number} expired on {format.Date(last.Until!.Value)}. Ask for a new one.";
    }

    private static string Words(TaxRule rule) =>
        $"{TaxWords.Of(rule.Supply)} to {TaxWords.Of(rule.Buyer)} {rule.PlaceWords()}";
}
