using Jugaad.Core.Amounts;

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
public sealed class TaxCode
{
    private readonly List<TaxCodePart> _parts = [];

    private TaxCode() => (Code, Name) = ("", "");

    public TaxCode(string code, string name, TaxCategory category, string? reason, IEnumerable<TaxCodePart> parts)
    {
        (Code, Name, Category, Reason) = (code, name, category, reason);
        _parts.AddRange(parts);
    }

    public int Id { get; private set; }

    /// <summary>Short and unique, such as STD.</summary>
    public string Code { get; private set; }

    public string Name { get; private set; }

    public TaxCategory Category { get; private set; }

    /// <summary>Printed on the paper where no tax is charged.</summary>
    public string? Reason { get; private set; }

    public IReadOnlyList<TaxCodePart> Parts => _parts;

    /// <summary>The category with the rates in force on a day.</summary>
    /// <exception cref="RefusalException">When a component has no rate yet on that day.</exception>
    public Treatment TreatmentOn(DateOnly taxDate, string field)
    {
        var parts = new List<TreatmentPart>(_parts.Count);
        foreach (var part in _parts.OrderBy(p => p.Position))
        {
            var rate = part.Component.RateOn(taxDate);
            if (rate is null)
            {
                throw new RefusalException(field, part.Component.Rates.Count == 0
                    ? $"The tax {part.Component.Name} of code {Code} has no rate. Give it one first."
                    : $"The tax {part.Component.Name} of code {Code} has no rate on {taxDate:yyyy-MM-dd}; its first one begins on {part.Component.Rates.Min(r => r.From):yyyy-MM-dd}. Choose a later date, or another code.");
            }

            parts.Add(new TreatmentPart(part.Component.Id, part.Component.Name, rate.Percent, part.Compound));
        }

        return new Treatment(Category, parts);
    }

    /// <summary>Such as <c>24 %</c> or <c>5 % + 9.975 %</c>; empty where no tax is charged.</summary>
    public string RateTextOn(DateOnly day) =>
        string.Join(" + ", _parts.OrderBy(p => p.Position).Select(p => p.Component.RateOn(day)).OfType<TaxRate>().Select(r => PlainDecimal.Text(r.Percent) + " %"));
}
