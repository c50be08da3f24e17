using System.Globalization;
using System.Runtime.CompilerServices;
using Jugaad.Core.Amounts;

namespace Jugaad.Core;

/// <summary>
/// A sentence with amounts, figures and days in it that are not written out yet, so that whoever reads it gets them as
/// the business writes them. An interpolated string becomes one by itself; a text that is no more than text does too.
/// </summary>
[InterpolatedStringHandler]
public sealed class Phrase : IEquatable<Phrase>
{
    private readonly List<object> _parts;

    /// <summary>Called by the compiler for an interpolated string.</summary>
    public Phrase(int literalLength, int formattedCount) => _parts = new(formattedCount * 2 + Math.Sign(literalLength));

    private Phrase(string text) => _parts = [text];

    public static implicit operator Phrase(string text) => FromString(text);

    public static Phrase FromString(string text) => new(text);

    public static Phrase Join(string separator, IEnumerable<Phrase> phrases)
    {
        var all = new Phrase("");
        foreach (var phrase in phrases)
        {
            if (all._parts.Count > 1)
                all._parts.Add(separator);
            all._parts.AddRange(phrase._parts);
        }

        return all;
    }

    public void AppendLiteral(string value) => _parts.Add(value);

    public void AppendFormatted(Money value) => _parts.Add(value);

    /// <summary>Each sum with its currency.</summary>
    public void AppendFormatted(Sums value)
    {
        for (var i = 0; i < value.Count; i++)
        {
            if (i > 0)
                _parts.Add(i == value.Count - 1 ? " and " : ", ");
            _parts.Add(value[i]);
            _parts.Add($" {value[i].Currency}");
        }
    }

    public void AppendFormatted(decimal value) => _parts.Add(value);

    /// <summary>A day; written otherwise than as a whole date, it stays as it is asked for.</summary>
    public void AppendFormatted(DateOnly value, string? format = null) =>
        _parts.Add(format is null or "yyyy-MM-dd" ? value : value.ToString(format, CultureInfo.InvariantCulture));

    /// <inheritdoc cref="AppendFormatted(DateOnly, string)"/>
    public void AppendFormatted(DateOnly? value, string? format = null)
    {
        if (value is { } day)
            AppendFormatted(day, format);
    }

    public void AppendFormatted(Phrase value) => _parts.AddRange(value._parts);

    public void AppendFormatted<T>(T value, string? format = null) =>
        _parts.Add(
            value is IFormattable formattable
                ? formattable.ToString(format, CultureInfo.InvariantCulture)
                : value?.ToString() ?? ""
        );

    /// <summary>With amounts, figures and days as the business writes them.</summary>
    public string In(DisplayFormat format) =>
        string.Concat(
            _parts.Select(part =>
                part switch
                {
                    Money money => format.Amount(money),
                    decimal figure => format.Exact(figure),
                    DateOnly day => format.Date(day),
                    _ => (string)part,
                }
            )
        );

    /// <summary>With amounts and figures as plain decimals and days as ISO 8601 writes them.</summary>
    public override string ToString() =>
        string.Concat(
            _parts.Select(part =>
                part switch
                {
                    decimal figure => PlainDecimal.Text(figure),
                    DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                    _ => part.ToString(),
                }
            )
        );

    public bool Equals(Phrase? other) => other is not null && ToString() == other.ToString();

    public override bool Equals(object? obj) => Equals(obj as Phrase);

    public override int GetHashCode() => ToString().GetHashCode(StringComparison.Ordinal);
}
