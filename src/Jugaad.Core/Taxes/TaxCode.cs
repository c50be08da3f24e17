using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Taxes;

/// <summary>The place of a component in a code: its turn, and whether it also taxes the components before it.</summary>
public sealed class TaxCodePart
{
    private TaxCodePart() => Component = null!;

    public TaxCodePart(int position, TaxComponent component, bool compound) =>
        (Position, Component, Compound) = (position, component, compound);

    public int Id { get; private set; }

    public int Position { get; private set; }

    public TaxComponent Component { get; private set; }

    public bool Compound { get; private set; }
}

/// <summary>The tax treatment of a line, by name: a category and its components in order.</summary>
public sealed class TaxCode : IRetirable
{
    private readonly List<TaxCodePart> _parts = [];

    private TaxCode() => (Code, Name) = ("", "");

    public TaxCode(string code, string name, TaxCategory category, string? reason, IEnumerable<TaxCodePart> parts)
        : this()
    {
        Code = code;
        Describe(name, category, reason, parts);
    }

    public int Id { get; private set; }

    /// <summary>Short and unique, such as STD. It never changes.</summary>
    public string Code { get; private set; }

    public string Name { get; private set; }

    public TaxCategory Category { get; private set; }

    /// <summary>Printed on the paper, such as why no tax is charged.</summary>
    public string? Reason { get; private set; }

    /// <summary>The code of the list of exemptions (VATEX) that e-invoices tell; empty for the one of the category.</summary>
    public string ExemptionCode { get; private set; } = "";

    /// <exception cref="RefusalException">When the list has no such code.</exception>
    public void ExemptBy(string code)
    {
        var letters = code.Trim().ToUpperInvariant();
        if (letters.Length > 0 && Category is (TaxCategory.Standard or TaxCategory.Zero))
            throw new RefusalException("exemptionCode", "Only a code that charges no tax has a code of exemption.");
        if (letters.Length > 0 && !Trade.CodeLists.Exemptions.Contains(letters))
            throw new RefusalException(
                "exemptionCode",
                $"“{letters}” is not in the list of exemptions. Give its code, such as VATEX-EU-132-1I."
            );
        ExemptionCode = letters;
    }

    /// <summary>No longer offered; what was made with it stays.</summary>
    public bool Retired { get; private set; }

    public IReadOnlyList<TaxCodePart> Parts => _parts;

    /// <summary>Takes a new description; drafts follow it, issued documents do not.</summary>
    /// <exception cref="RefusalException">When it cannot be.</exception>
    public void Describe(string name, TaxCategory category, string? reason, IEnumerable<TaxCodePart> parts)
    {
        var wanted = parts.ToList();
        var refusals = new Refusals();
        if (wanted.Count > Limits.Components)
            refusals.Add("components", $"A code has at most {Limits.Components} taxes.");
        if (wanted.Select(p => p.Component).Distinct().Count() < wanted.Count)
            refusals.Add("components", "One tax is named twice. Name each once.");
        refusals.ThrowIfAny();
        (Name, Category, Reason) = (name.Trim(), category, string.IsNullOrWhiteSpace(reason) ? null : reason.Trim());
        var same =
            wanted.Count == _parts.Count
            && wanted
                .Zip(_parts.OrderBy(p => p.Position))
                .All(p => p.First.Component == p.Second.Component && p.First.Compound == p.Second.Compound);
        if (same)
            return;
        _parts.Clear();
        _parts.AddRange(wanted);
    }

    /// <summary>What contradicts a code's category, by its field; null where nothing does.</summary>
    /// <param name="rates">The rates of its taxes, at any time; one that has none yet counts as taxed.</param>
    /// <param name="reason">What the paper says, such as why no tax is charged.</param>
    public static Refusal? Problem(TaxCategory category, IReadOnlyList<IReadOnlyList<decimal>> rates, string? reason) =>
        category switch
        {
            TaxCategory.Standard when rates.Count == 0 => new Refusal(
                "components",
                "A code of category S (taxed) charges a tax. Choose at least one, or another category."
            ),
            TaxCategory.Zero when rates.Any(r => r.Any(p => p != 0)) => new Refusal(
                "components",
                "A code of category Z (zero rated) charges 0 %, and one of these taxes is above that. Choose S, or a tax of 0 %."
            ),
            TaxCategory.Standard or TaxCategory.Zero => null,
            _ when rates.Count > 0 => new Refusal(
                "components",
                $"A code of category {category.Letters()} ({category.Word()}) charges no tax. Leave its taxes out, or choose S or Z."
            ),
            _ when string.IsNullOrWhiteSpace(reason) => new Refusal(
                "reason",
                $"A code of category {category.Letters()} ({category.Word()}) says on the paper why no tax is charged. Give the reason."
            ),
            _ => null,
        };

    public void Retire(bool retired) => Retired = retired;

    /// <summary>
    /// The category with the rates in force on a day. What the business is not registered for yet is left out; where
    /// that is all, the line is outside the scope of tax.
    /// </summary>
    /// <exception cref="RefusalException">When a component has no rate yet on that day.</exception>
    public Treatment TreatmentOn(DateOnly taxDate, string field, TaxStanding standing)
    {
        if (!standing.IsRegisteredOn(taxDate))
            return Treatment.OutOfScope;
        var parts = new List<TreatmentPart>(_parts.Count);
        foreach (var part in _parts.OrderBy(p => p.Position))
        {
            if (part.Component.Authority is { } authority && !authority.IsRegisteredOn(taxDate))
                continue;
            var rate = part.Component.RateOn(taxDate);
            if (rate is null)
            {
                throw new RefusalException(
                    field,
                    part.Component.Rates.Count == 0
                        ? (Phrase)$"The tax {part.Component.Name} of code {Code} has no rate. Give it one first."
                        : (Phrase)
                            $"The tax {part.Component.Name} of code {Code} has no rate on {taxDate:yyyy-MM-dd}; its first one begins on {part.Component.Rates.Min(r => r.From):yyyy-MM-dd}. Choose a later date, or another code."
                );
            }

            parts.Add(
                new TreatmentPart(
                    part.Component.Id,
                    part.Component.Name,
                    rate.Percent,
                    part.Compound && parts.Count > 0
                )
            );
        }

        return parts.Count == 0 && _parts.Count > 0 ? Treatment.OutOfScope : new Treatment(Category, parts);
    }

    /// <summary>Such as <c>24 %</c> or <c>5 % + 9.975 %</c>; empty where no tax is charged.</summary>
    public Phrase RateTextOn(DateOnly day) =>
        Phrase.Join(
            " + ",
            _parts
                .OrderBy(p => p.Position)
                .Select(p => p.Component.RateOn(day))
                .OfType<TaxRate>()
                .Select(r => (Phrase)$"{r.Percent} %")
        );
}
