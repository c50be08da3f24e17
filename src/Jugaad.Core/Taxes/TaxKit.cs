namespace Jugaad.Core.Taxes;

/// <summary>An authority in a kit; our number and the day of registration are the business's own.</summary>
public sealed record KitAuthority(
    string Name,
    int EveryMonths = 1,
    int FirstMonth = 1,
    TaxBasis Basis = TaxBasis.ByInvoice
)
{
    /// <summary>What a return to it says.</summary>
    public IReadOnlyList<ReturnBox> Boxes { get; init; } = [];
}

/// <summary>A rate in a kit.</summary>
/// <param name="From">First day in force.</param>
public sealed record KitRate(DateOnly From, decimal Percent);

/// <summary>A tax in a kit.</summary>
/// <param name="Authority">By name; empty for none.</param>
public sealed record KitComponent(string Name, string Authority, IReadOnlyList<KitRate> Rates);

/// <summary>A tax within a code.</summary>
public sealed record KitPart(string Component, bool Compound = false);

/// <summary>A code in a kit.</summary>
public sealed record KitCode(
    string Code,
    string Name,
    TaxCategory Category,
    string Reason,
    IReadOnlyList<KitPart> Parts
)
{
    /// <summary>The code of its exemption, of the VATEX list; empty for none.</summary>
    public string Exemption { get; init; } = "";

    /// <exception cref="RefusalException">When it cannot be.</exception>
    public TaxCode Make(IEnumerable<TaxCodePart> parts, string? reason)
    {
        var made = new TaxCode(Code, Name, Category, reason, parts);
        made.ExemptBy(Exemption);
        return made;
    }
}

/// <summary>A row of the table that decides which code applies.</summary>
/// <param name="Prefers">Only items that prefer this code; empty for all.</param>
/// <param name="Code">Empty where the item keeps the code that it prefers.</param>
public sealed record KitRule(
    Supply Supply = Supply.Anything,
    Buyer Buyer = Buyer.Anybody,
    Place Place = Place.Anywhere,
    string Code = "",
    string Prefers = "",
    string Country = "",
    string Region = "",
    string Postal = ""
);

/// <summary>
/// A ready set of taxes: authorities, components with dated rates, codes, and the rules that choose between them. Names
/// tie its parts together.
/// </summary>
public sealed record TaxKit
{
    public string Name { get; init; } = "";

    /// <summary>For whom it is, and what to look over after taking it.</summary>
    public string About { get; init; } = "";

    public IReadOnlyList<KitAuthority> Authorities { get; init; } = [];

    public IReadOnlyList<KitComponent> Components { get; init; } = [];

    public IReadOnlyList<KitCode> Codes { get; init; } = [];

    public IReadOnlyList<KitRule> Rules { get; init; } = [];

    /// <summary>The code for lines that nothing else decides; empty for the first one.</summary>
    public string DefaultCode { get; init; } = "";

    /// <summary>
    /// Its taxes with their rates on a day, such as <c>VAT 24 %, VAT reduced 9 %</c>; empty where it has none.
    /// </summary>
    public Phrase RatesOn(DateOnly day) =>
        Phrase.Join(
            ", ",
            from component in Components
            let rate = component.Rates.Where(r => r.From <= day).MaxBy(r => r.From)
            where rate is { Percent: > 0 }
            select (Phrase)$"{component.Name} {rate.Percent} %"
        );

    /// <summary>
    /// Whether it tells the business's own region from others, so that the business has to say which its own is.
    /// </summary>
    public bool GoesByRegion => Rules.Any(r => r.Place is Place.HomeRegion or Place.OtherRegion);

    /// <exception cref="RefusalException">With every place where the kit contradicts itself.</exception>
    public void Check()
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "name", Name, 100, "Give the kit a name.");
        Texts.Short(refusals, "about", About, 2_000);
        if (Codes.Count == 0)
            refusals.Add("codes", "A kit has at least one code.");
        Once(refusals, "authorities", Authorities.Select(a => a.Name));
        Once(refusals, "components", Components.Select(c => c.Name));
        Once(refusals, "codes", Codes.Select(c => c.Code));
        for (var i = 0; i < Authorities.Count; i++)
        {
            var authority = Authorities[i];
            Under(
                refusals,
                $"authorities[{i}]",
                () =>
                    _ = new TaxAuthority(
                        new AuthorityDetails
                        {
                            Name = authority.Name,
                            EveryMonths = authority.EveryMonths,
                            FirstMonth = authority.FirstMonth,
                        }
                    )
            );
            Under(refusals, $"authorities[{i}]", () => ReturnBox.Check(authority.Boxes));
        }

        for (var i = 0; i < Components.Count; i++)
            CheckComponent(refusals, Components[i], $"components[{i}]");
        for (var i = 0; i < Codes.Count; i++)
            CheckCode(refusals, Codes[i], $"codes[{i}]");
        for (var i = 0; i < Rules.Count; i++)
        {
            Known(refusals, $"rules[{i}].code", Rules[i].Code, Codes.Select(c => c.Code), "code");
            Known(refusals, $"rules[{i}].prefers", Rules[i].Prefers, Codes.Select(c => c.Code), "code");
            if (Rules[i].Country.Length > 0 && !Trade.Countries.Knows(Rules[i].Country))
                refusals.Add(
                    $"rules[{i}].country",
                    $"“{Rules[i].Country}” is not a country that we know. Use two letters of ISO 3166-1."
                );
            if (Trade.Regions.Problem(Rules[i].Country, Rules[i].Region) is { } problem)
                refusals.Add($"rules[{i}].region", problem);
        }

        Known(refusals, "defaultCode", DefaultCode, Codes.Select(c => c.Code), "code");
        refusals.ThrowIfAny();
    }

    private void CheckComponent(Refusals refusals, KitComponent component, string at)
    {
        Texts.Required(refusals, $"{at}.name", component.Name, 60, "Give the tax a name.");
        Known(refusals, $"{at}.authority", component.Authority, Authorities.Select(a => a.Name), "authority");
        if (component.Rates.Count == 0)
            refusals.Add($"{at}.rates", "Give at least one rate.");
        for (var n = 0; n < component.Rates.Count; n++)
        {
            var rate = component.Rates[n];
            if (!TaxRate.CanBe(rate.Percent))
                refusals.Add($"{at}.rates[{n}].percent", TaxRate.CannotBe);
            if (component.Rates.Count(r => r.From == rate.From) > 1)
                refusals.Add($"{at}.rates[{n}].from", $"Two rates begin on {rate.From:yyyy-MM-dd}. Keep one of them.");
        }
    }

    private void CheckCode(Refusals refusals, KitCode code, string at)
    {
        Texts.Required(refusals, $"{at}.code", code.Code, 20, "Give the code itself, such as STD.");
        Texts.Required(refusals, $"{at}.name", code.Name, 100, "Give the code a name.");
        Texts.Short(refusals, $"{at}.reason", code.Reason, 500);
        for (var n = 0; n < code.Parts.Count; n++)
            Known(
                refusals,
                $"{at}.parts[{n}].component",
                code.Parts[n].Component,
                Components.Select(c => c.Name),
                "tax",
                required: true
            );
        IReadOnlyList<decimal> RatesOf(KitPart part) =>
            [.. Components.Where(c => c.Name == part.Component).SelectMany(c => c.Rates).Select(r => r.Percent)];
        if (TaxCode.Problem(code.Category, [.. code.Parts.Select(RatesOf)], code.Reason) is { } problem)
            refusals.Add($"{at}.{problem.Field}", problem.Message);
        Under(
            refusals,
            at,
            () =>
                _ = code.Make(
                    code.Parts.Select(
                        (p, n) => new TaxCodePart(n, new TaxComponent(p.Component, null, []), p.Compound)
                    ),
                    null
                )
        );
    }

    private static void Known(
        Refusals refusals,
        string field,
        string name,
        IEnumerable<string> names,
        string what,
        bool required = false
    )
    {
        if ((name.Length > 0 || required) && !names.Contains(name))
            refusals.Add(field, $"The kit has no {what} “{name}”. Add it, or name another.");
    }

    private static void Once(Refusals refusals, string field, IEnumerable<string> names)
    {
        foreach (var twice in names.GroupBy(n => n, StringComparer.OrdinalIgnoreCase).Where(g => g.Count() > 1))
            refusals.Add(field, $"“{twice.Key}” is there {twice.Count()} times. Keep one of them.");
    }

    private static void Under(Refusals refusals, string at, Action work)
    {
        try
        {
            work();
        }
        catch (RefusalException refused)
        {
            refusals.AddRange(refused.Below(at).Refusals);
        }
    }
}
