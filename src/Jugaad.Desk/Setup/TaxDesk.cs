using Jugaad.Core;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>A tax code as it is typed.</summary>
/// <param name="Components">The components in order, by name, and which are compound.</param>
public sealed record TaxCodeToAdd(
    string Code,
    string Name,
    TaxCategory Category,
    string? Reason,
    IReadOnlyList<(string Component, bool Compound)> Components
)
{
    /// <summary>Of the list of exemptions (VATEX); empty for none.</summary>
    public string ExemptionCode { get; init; } = "";
}

/// <summary>Authorities, components with their rates, and codes.</summary>
public sealed class TaxDesk(BooksContext db, BookWriter writer, BooksHead head, TaxPlaces places, Retiring retiring)
{
    /// <param name="id">Null for a new one.</param>
    /// <exception cref="RefusalException">With every field that is wrong.</exception>
    /// <param name="basisSince">From which day on it is told otherwise, where it is; null for as it always was, which
    /// can be said until something was filed.</param>
    public Task<int> SaveAuthorityAsync(
        int? id,
        AuthorityDetails details,
        DateOnly? basisSince = null,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var name = details.Name.Trim();
                if (await db.TaxAuthorities.AnyAsync(a => a.Name == name && a.Id != (id ?? 0), stop))
                    throw new RefusalException("name", $"There is an authority {name} already. Choose another name.");
                if (id is null)
                {
                    var made = new TaxAuthority(details);
                    db.TaxAuthorities.Add(made);
                    await writer.TrailAsync($"Tax authority {made.Name} added");
                    await writer.SaveAsync(stop);
                    await places.EnsureAsync(stop);
                    return made.Id;
                }

                var authority =
                    await db.TaxAuthorities.FindAsync([id.Value], stop)
                    ?? throw new RefusalException("", $"There is no tax authority {id}.");
                var (before, changes) = (authority.Details(), authority.Changes.Count);
                await RegistrationHoldsAsync(authority, details, stop);
                await ChangeBasisAsync(authority, details, basisSince, stop);
                await writer.TrailAsync(
                    $"Tax authority {authority.Name} changed{(before.RegisteredFrom == authority.RegisteredFrom ? "" : authority.RegisteredFrom is { } day ? (Phrase)$": registered from {day}" : ": registered from no day yet")}{(before.RegisteredTo == authority.RegisteredTo ? "" : authority.RegisteredTo is { } last ? (Phrase)$": registered until {last}" : ": its registration goes on")}"
                );
                await writer.SaveAsync(stop);
                await places.EnsureAsync(stop);
                if (
                    (before.Basis, before.MostMonths, before.RegisteredTo)
                        != (authority.Basis, authority.MostMonths, authority.RegisteredTo)
                    || !before.PaidCategories.SequenceEqual(authority.PaidCategories)
                    || changes != authority.Changes.Count
                )
                    await places.PlaceAsync(db.TaxFigures.Where(f => f.AuthorityId == authority.Id), stop);
                return authority.Id;
            }
        );

    /// <summary>Sets what a return to an authority says; what is filed stays as it was told.</summary>
    /// <exception cref="RefusalException">With all that contradicts itself.</exception>
    public Task<int> SaveBoxesAsync(int id, IReadOnlyList<ReturnBox> boxes, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var authority =
                    await db.TaxAuthorities.FindAsync([id], stop)
                    ?? throw new RefusalException("", "This authority is not there any more.");
                authority.SayIn(boxes);
                await writer.TrailAsync($"Boxes of returns to {authority.Name} set: {boxes.Count}");
                return id;
            }
        );

    /// <summary>The days of a registration are not set so that what was told of them lies outside.</summary>
    private async Task RegistrationHoldsAsync(TaxAuthority authority, AuthorityDetails details, CancellationToken stop)
    {
        var filed = db.TaxReturns.Where(r => r.AuthorityId == authority.Id);
        if (
            details.RegisteredTo is { } ends
            && ends != authority.RegisteredTo
            && await filed.AnyAsync(r => r.To > ends, stop)
        )
            throw new RefusalException(
                "registeredTo",
                "A return is filed for days after this one. Give a day on or after the last that was told."
            );
        if (
            details.RegisteredFrom != authority.RegisteredFrom
            && await filed.MinAsync(r => (DateOnly?)r.From, stop) is { } first
            && !(details.RegisteredFrom <= first)
        )
            throw new RefusalException(
                "registeredFrom",
                details.RegisteredFrom is null
                    ? (Phrase)
                        $"A return is filed for days from {first:yyyy-MM-dd} on. Give the day on which the registration begins."
                    : (Phrase)$"A return is filed for days before this one. Give {first:yyyy-MM-dd} or a day before."
            );
    }

    private async Task ChangeBasisAsync(
        TaxAuthority authority,
        AuthorityDetails details,
        DateOnly? since,
        CancellationToken stop
    )
    {
        var today = await head.TodayAsync(stop);
        var told = await db.TaxReturns.Where(r => r.AuthorityId == authority.Id).MaxAsync(r => (DateOnly?)r.To, stop);
        var now = authority.Changes.Count == 0 ? authority.Basis : authority.Changes[^1].Basis;
        if (details.Basis == now)
        {
            authority.Describe(details with { Basis = authority.Basis });
            return;
        }

        if (since is not { } day)
        {
            if (told is not null || authority.Changes.Count > 0)
                throw new RefusalException(
                    "basisSince",
                    $"Say from which day on: the first of a period, {authority.PeriodEnd(told ?? today).AddDays(1):yyyy-MM-dd} or later."
                );
            authority.Describe(details);
            return;
        }

        if (day <= told)
            throw new RefusalException(
                "basisSince",
                $"Returns are filed up to {told:yyyy-MM-dd}, and they stay as they were told. Give a later day."
            );
        authority.Describe(details with { Basis = authority.Basis });
        authority.ChangeBasis(details.Basis, day);
    }

    /// <summary>Adds a tax, or has one owed to another authority.</summary>
    public Task<int> SaveComponentAsync(int? id, string name, int? authorityId, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                Texts.Required(refusals, "component", name, 60, "Give the tax a name, such as VAT.");
                refusals.ThrowIfAny();
                var authority = authorityId is { } wanted
                    ? await db.TaxAuthorities.FindAsync([wanted], stop)
                        ?? throw new RefusalException("authorityId", "Choose an authority from the list.")
                    : null;
                var trimmed = name.Trim();
                if (id is null && await db.TaxComponents.AnyAsync(c => c.Name == trimmed, stop))
                    throw new RefusalException("component", $"There is a tax {trimmed} already. Choose another name.");
                var component = id is { } known
                    ? await db.TaxComponents.Include(c => c.Authority).SingleOrDefaultAsync(c => c.Id == known, stop)
                        ?? throw new RefusalException("", $"There is no tax {id}.")
                    : new TaxComponent(trimmed, authority, []);
                component.OweTo(authority);
                if (id is null)
                    db.TaxComponents.Add(component);
                await writer.TrailAsync(
                    $"Tax {component.Name} {(id is null ? "added" : "changed")}, owed to {authority?.Name ?? "no authority"}"
                );
                await writer.SaveAsync(stop);
                return component.Id;
            }
        );

    /// <exception cref="RefusalException">When there is no such tax, the rate cannot be, or one begins on that day
    /// already.</exception>
    public Task<int> AddRateAsync(string component, DateOnly from, decimal percent, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                if (!TaxRate.CanBe(percent))
                    throw new RefusalException("percent", TaxRate.CannotBe);
                if (from.Year is < 1990 or > 2199)
                    throw new RefusalException("from", "Give a day between 1990 and 2199.");
                var found =
                    await db.TaxComponents.SingleOrDefaultAsync(c => c.Name == component, stop)
                    ?? throw new RefusalException("component", $"There is no tax {component}. Add it first.");
                found.AddRate(new TaxRate(from, percent));
                await writer.TrailAsync($"{component}: {percent} % from {from:yyyy-MM-dd}");
                await writer.SaveAsync(stop);
                return found.Id;
            }
        );

    /// <summary>
    /// The rates by their tax and first day with which something was taxed that cannot be changed any more.
    /// </summary>
    public async Task<IReadOnlySet<(int ComponentId, DateOnly From)>> UsedRatesAsync(CancellationToken stop = default)
    {
        var components = await db.TaxComponents.ToDictionaryAsync(c => c.Id, stop);
        var papers = await (
            from document in db.Documents
            from tax in document.Taxes
            where document.Number != null && tax.ComponentId != null
            select new
            {
                Id = tax.ComponentId!.Value,
                Day = document.TaxDate ?? document.Date,
                tax.Percent,
            }
        )
            .Distinct()
            .ToListAsync(stop);
        var used = new HashSet<(int, DateOnly)>();
        // What a paper was taxed with is told by its percentage: a rate for a day gone by that was entered later did
        // not tax it.
        foreach (var paper in papers.Where(p => components.ContainsKey(p.Id)))
            if (
                components[paper.Id]
                    .Rates.Where(r => r.From <= paper.Day && r.Percent == paper.Percent)
                    .MaxBy(r => r.From) is
                { } rate
            )
                used.Add((paper.Id, rate.From));
        var codes = await db.TaxCodes.ToDictionaryAsync(c => c.Id, stop);
        foreach (
            var money in await db
                .OtherMoney.Where(m => m.TaxCodeId != null)
                .Select(m => new { Code = m.TaxCodeId!.Value, m.Date })
                .Distinct()
                .ToListAsync(stop)
        )
        {
            foreach (var part in codes[money.Code].Parts)
                if (part.Component.RateOn(money.Date) is { } rate)
                    used.Add((part.Component.Id, rate.From));
        }
        return used;
    }

    /// <summary>Takes away a rate with which nothing was taxed yet.</summary>
    public Task<int> RemoveRateAsync(int componentId, DateOnly from, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var component =
                    await db.TaxComponents.SingleOrDefaultAsync(c => c.Id == componentId, stop)
                    ?? throw new RefusalException("", $"There is no tax {componentId}.");
                component.RemoveRate(from, (await UsedRatesAsync(stop)).Contains((componentId, from)));
                await writer.TrailAsync(
                    $"{component.Name}: the rate from {from:yyyy-MM-dd} taken away before it was used"
                );
                return componentId;
            }
        );

    public Task<int> AddCodeAsync(TaxCodeToAdd add, CancellationToken stop = default) => SaveCodeAsync(null, add, stop);

    /// <summary>Adds a code, or describes one anew; drafts follow, issued documents stay as they are.</summary>
    /// <exception cref="RefusalException">With every field that is wrong.</exception>
    public Task<int> SaveCodeAsync(int? id, TaxCodeToAdd typed, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                var letters = typed.Code.Trim();
                Texts.Required(refusals, "code", letters, 20, "Give the code itself, short, such as STD.");
                Texts.Required(refusals, "name", typed.Name, 100, "Give the code a name.");
                Texts.Short(refusals, "reason", typed.Reason ?? "", 500);
                if (id is null && await db.TaxCodes.AnyAsync(c => c.Code == letters, stop))
                    refusals.Add("code", $"There is a tax code {letters} already. Choose another.");
                var parts = new List<TaxCodePart>();
                foreach (var (name, compound) in typed.Components)
                {
                    var component = await db.TaxComponents.SingleOrDefaultAsync(c => c.Name == name, stop);
                    if (component is null)
                        refusals.Add("components", $"There is no tax {name}. Add it first.");
                    else
                        parts.Add(new TaxCodePart(parts.Count, component, compound));
                }

                if (
                    parts.Count == typed.Components.Count
                    && TaxCode.Problem(
                        typed.Category,
                        parts.ConvertAll(p => (IReadOnlyList<decimal>)[.. p.Component.Rates.Select(r => r.Percent)]),
                        typed.Reason
                    )
                        is { } problem
                )
                    refusals.Add(problem.Field, problem.Message);
                refusals.ThrowIfAny();
                if (id is null)
                {
                    var made = new TaxCode(letters, typed.Name.Trim(), typed.Category, typed.Reason, parts);
                    made.ExemptBy(typed.ExemptionCode);
                    db.TaxCodes.Add(made);
                    await writer.TrailAsync($"Tax code {made.Code} added");
                    await writer.SaveAsync(stop);
                    await places.EnsureAsync(stop);
                    return made.Id;
                }

                var code =
                    await db.TaxCodes.SingleOrDefaultAsync(c => c.Id == id, stop)
                    ?? throw new RefusalException("", $"There is no tax code {id}.");
                code.Describe(typed.Name, typed.Category, typed.Reason, parts);
                code.ExemptBy(typed.ExemptionCode);
                await writer.TrailAsync($"Tax code {code.Code} changed");
                return code.Id;
            }
        );

    /// <summary>Offers a code no longer, or again.</summary>
    public Task<int> RetireCodeAsync(int id, bool retired, Once once = default) =>
        retiring.RetireAsync<TaxCode>(
            Right.Setup,
            id,
            retired,
            once,
            code => $"Tax code {code.Code}",
            async (code, stop) =>
            {
                if ((await head.BusinessAsync(stop)).DefaultTaxCodeId == id)
                    throw new RefusalException(
                        "",
                        $"{code.Code} is the code that is taken where nothing else says which. Choose another for that first."
                    );
                if (await db.TaxRules.AnyAsync(r => r.TaxCodeId == id, stop))
                    throw new RefusalException("", $"A rule chooses {code.Code}. Take the rule away first.");
            }
        );

    /// <summary>The code for lines that neither an item nor a rule decides.</summary>
    public Task<int> SetUsualCodeAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var code =
                    await db.TaxCodes.FindAsync([id], stop)
                    ?? throw new RefusalException("", $"There is no tax code {id}.");
                var business = await head.BusinessAsync(stop);
                business.SetDefaults(business.DefaultTermsId ?? 0, id, business.DefaultLedgerAccountId ?? 0);
                await writer.TrailAsync($"{code.Code} is the usual tax code now");
                return id;
            }
        );

    /// <summary>Whether the business charges tax, by day.</summary>
    public async Task<TaxStanding> StandingAsync(CancellationToken stop = default) =>
        TaxStanding.With(await db.TaxAuthorities.AsNoTracking().ToListAsync(stop));
}
