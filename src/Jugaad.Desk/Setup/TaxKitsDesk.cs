using Jugaad.Core;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>Takes ready sets of taxes into the books, and makes one of what is in them.</summary>
public sealed class TaxKitsDesk(BooksContext db, BookWriter writer, BooksHead head, TaxPlaces places)
{
    /// <summary>
    /// Takes what the kit has and the books have not; what is there by the same name stays as it is. In books without
    /// rules the kit's usual code becomes the usual one.
    /// </summary>
    /// <param name="registeredFrom">Since when the business is registered with the authorities that are new; null for
    /// not yet.</param>
    /// <returns>How many things were taken.</returns>
    /// <exception cref="RefusalException">When the kit contradicts itself.</exception>
    public Task<int> AdoptAsync(TaxKit kit, DateOnly? registeredFrom, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                kit.Check();
                var took = await AdoptPartsAsync(kit, registeredFrom, stop);
                await writer.TrailAsync($"Tax kit “{kit.Name}” taken: {took} new");
                return took;
            }
        );

    /// <summary>Used when the books are begun as well, where nobody has rights yet.</summary>
    internal async Task<int> AdoptPartsAsync(TaxKit kit, DateOnly? registeredFrom, CancellationToken stop)
    {
        var took = 0;
        var authorities = await db.TaxAuthorities.ToDictionaryAsync(a => a.Name, stop);
        foreach (var add in kit.Authorities.Where(a => !authorities.ContainsKey(a.Name)))
        {
            var made = new TaxAuthority(
                new AuthorityDetails
                {
                    Name = add.Name,
                    EveryMonths = add.EveryMonths,
                    FirstMonth = add.FirstMonth,
                    Basis = add.Basis,
                    RegisteredFrom = registeredFrom,
                }
            );
            made.SayIn(add.Boxes);
            db.TaxAuthorities.Add(authorities[add.Name] = made);
            took++;
        }

        var components = await db.TaxComponents.ToDictionaryAsync(c => c.Name, stop);
        foreach (var add in kit.Components.Where(c => !components.ContainsKey(c.Name)))
        {
            var made = new TaxComponent(
                add.Name,
                add.Authority.Length == 0 ? null : authorities[add.Authority],
                add.Rates.Select(r => new TaxRate(r.From, r.Percent))
            );
            db.TaxComponents.Add(components[add.Name] = made);
            took++;
        }

        var codes = await db.TaxCodes.ToDictionaryAsync(c => c.Code, stop);
        foreach (var add in kit.Codes.Where(c => !codes.ContainsKey(c.Code)))
        {
            var made = add.Make(
                add.Parts.Select((p, i) => new TaxCodePart(i, components[p.Component], p.Compound)),
                add.Reason
            );
            db.TaxCodes.Add(codes[add.Code] = made);
            took++;
        }

        await writer.SaveAsync(stop);
        await places.EnsureAsync(stop);
        return took + await AdoptRulesAsync(kit, codes, stop);
    }

    /// <summary>The books' taxes as a kit.</summary>
    public async Task<TaxKit> MakeAsync(CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var codes = await db.TaxCodes.AsNoTracking().Where(c => !c.Retired).OrderBy(c => c.Id).ToListAsync(stop);
        var letters = codes.ToDictionary(c => c.Id, c => c.Code);
        string Letters(int? id) => id is { } known ? letters.GetValueOrDefault(known, "") : "";
        return new TaxKit
        {
            Name = $"Taxes of {business.Name}",
            About = "Exported from the books.",
            Authorities = (await db.TaxAuthorities.AsNoTracking().OrderBy(a => a.Id).ToListAsync(stop)).ConvertAll(
                a => new KitAuthority(a.Name, a.EveryMonths, a.FirstMonth, a.BasisOn(DateOnly.MaxValue))
                {
                    Boxes = a.Boxes,
                }
            ),
            Components = (
                await db.TaxComponents.AsNoTracking().Include(c => c.Authority).OrderBy(c => c.Id).ToListAsync(stop)
            ).ConvertAll(c => new KitComponent(
                c.Name,
                c.Authority?.Name ?? "",
                c.Rates.OrderBy(r => r.From).Select(r => new KitRate(r.From, r.Percent)).ToList()
            )),
            Codes = codes.ConvertAll(c => new KitCode(
                c.Code,
                c.Name,
                c.Category,
                c.Reason ?? "",
                c.Parts.OrderBy(p => p.Position).Select(p => new KitPart(p.Component.Name, p.Compound)).ToList()
            )
            {
                Exemption = c.ExemptionCode,
            }),
            Rules = (await db.TaxRules.AsNoTracking().OrderBy(r => r.Position).ToListAsync(stop))
                .Where(r =>
                    (r.TaxCodeId is null || letters.ContainsKey(r.TaxCodeId.Value))
                    && (r.PreferredCodeId is null || letters.ContainsKey(r.PreferredCodeId.Value))
                )
                .Select(r => new KitRule(
                    r.Supply,
                    r.Buyer,
                    r.Place,
                    Letters(r.TaxCodeId),
                    Letters(r.PreferredCodeId),
                    r.Country,
                    r.Region,
                    r.Postal
                ))
                .ToList(),
            DefaultCode = Letters(business.DefaultTaxCodeId),
        };
    }

    private async Task<int> AdoptRulesAsync(TaxKit kit, Dictionary<string, TaxCode> codes, CancellationToken stop)
    {
        var rules = await db.TaxRules.ToListAsync(stop);
        var fresh = rules.Count == 0;
        var took = 0;
        foreach (var add in kit.Rules)
        {
            int? Id(string code) => code.Length == 0 ? null : codes[code].Id;
            var rule = new TaxRule(
                rules.Count,
                new TaxRuleCase(add.Supply, add.Buyer, add.Place)
                {
                    PreferredCodeId = Id(add.Prefers),
                    Country = add.Country,
                    Region = add.Region,
                    Postal = add.Postal,
                },
                Id(add.Code)
            );
            if (rules.Any(r => r.Case == rule.Case))
                continue;
            rules.Add(rule);
            db.TaxRules.Add(rule);
            took++;
        }

        if (!fresh)
            return took;
        var business = await head.BusinessAsync(stop);
        var usual = kit.DefaultCode.Length > 0 ? kit.DefaultCode : kit.Codes[0].Code;
        business.SetDefaults(business.DefaultTermsId ?? 0, codes[usual].Id, business.DefaultLedgerAccountId ?? 0);
        return took;
    }
}
