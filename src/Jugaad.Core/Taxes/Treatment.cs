using System.Globalization;
using Jugaad.Core.Amounts;

namespace Jugaad.Core.Taxes;

/// <summary>One component within a treatment, with its rate on the tax date.</summary>
/// <param name="ComponentId">The kept component, or 0 where there are no books.</param>
/// <param name="Percent">At most 4 decimals.</param>
/// <param name="Compound">Also taxes the components before it.</param>
public sealed record TreatmentPart(int ComponentId, string Name, decimal Percent, bool Compound);

/// <summary>
/// The tax category with the components, their rates on the tax date, and which are compound. Lines of equal treatment
/// are taxed together, whatever their codes are called. It has a text form that an issued document keeps, so that its
/// figures can be recomputed after the rates have changed.
/// </summary>
public sealed class Treatment : IEquatable<Treatment>
{
    private readonly string _text;

    public Treatment(TaxCategory category, IReadOnlyList<TreatmentPart> parts)
    {
        (Category, Parts) = (category, parts);
        _text = string.Join(
            ';',
            parts
                .Select(p =>
                    $"{Uri.EscapeDataString(p.Name)}#{p.ComponentId}@{PlainDecimal.Text(p.Percent)}{(p.Compound ? "*" : "")}"
                )
                .Prepend(category.Letters())
        );
    }

    /// <summary>Nothing is said of tax.</summary>
    public static Treatment OutOfScope { get; } = new(TaxCategory.OutOfScope, []);

    public TaxCategory Category { get; }

    public IReadOnlyList<TreatmentPart> Parts { get; }

    /// <summary>1 plus the exact tax of all components on 1.</summary>
    public decimal Factor
    {
        get
        {
            var taxes = 0m;
            foreach (var part in Parts)
                taxes += (part.Compound ? 1 + taxes : 1) * part.Percent / 100;
            return 1 + taxes;
        }
    }

    /// <summary>The rates in words, such as <c>5 % + 9.975 %</c>, or <c>no tax</c>.</summary>
    public Phrase Rates =>
        Parts.Count == 0 ? "no tax" : Phrase.Join(" + ", Parts.Select(p => (Phrase)$"{p.Percent} %"));

    /// <summary>Reads the text form back.</summary>
    /// <exception cref="FormatException">When it is not a treatment's text.</exception>
    public static Treatment Parse(string text)
    {
        var pieces = text.Split(';');
        var parts = pieces
            .Skip(1)
            .Select(piece =>
            {
                var hash = piece.IndexOf('#', StringComparison.Ordinal);
                var at = piece.IndexOf('@', StringComparison.Ordinal);
                if (hash < 0 || at < hash)
                    throw new FormatException($"Not a treatment: {text}");
                var compound = piece.EndsWith('*');
                return new TreatmentPart(
                    int.Parse(piece.AsSpan(hash + 1, at - hash - 1), CultureInfo.InvariantCulture),
                    Uri.UnescapeDataString(piece[..hash]),
                    decimal.Parse(piece[(at + 1)..(compound ? ^1 : ^0)], CultureInfo.InvariantCulture),
                    compound
                );
            });
        return new Treatment(TaxCategories.Of(pieces[0], "treatment"), parts.ToList());
    }

    public bool Equals(Treatment? other) => other is not null && other._text == _text;

    public override bool Equals(object? obj) => Equals(obj as Treatment);

    public override int GetHashCode() => _text.GetHashCode(StringComparison.Ordinal);

    /// <summary>The text form, such as <c>S;VAT#1@24</c>.</summary>
    public override string ToString() => _text;
}
