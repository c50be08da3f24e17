using System.Globalization;
using System.Xml.Linq;
using Jugaad.Core.Amounts;
using Jugaad.Core.EInvoicing;

namespace Jugaad.Formats.EInvoices;

/// <summary>Small pieces that both syntaxes are written and read with.</summary>
internal static class XmlParts
{
    /// <summary>An element with what is in it; null where nothing is, so that it is left out.</summary>
    internal static XElement? Group(XName name, params object?[] parts)
    {
        var there = parts.Where(p => p is not null and not "").ToList();
        return there.Exists(p => p is not XAttribute) ? new XElement(name, there) : null;
    }

    /// <summary>An element of text; null where that is empty.</summary>
    internal static XElement? Text(XName name, string? text, params XAttribute?[] with) =>
        string.IsNullOrEmpty(text) ? null : new XElement(name, with, Clean(text));

    /// <summary>An attribute; null where it is empty.</summary>
    internal static XAttribute? With(string name, string? value) =>
        string.IsNullOrEmpty(value) ? null : new XAttribute(name, value);

    /// <summary>An amount with the decimals that its currency has, at least.</summary>
    internal static string? Figure(decimal? amount, string currency) =>
        amount?.ToString(
            Currency.TryOf(currency, out var known) && known.MinorPerUnit == 1 ? "0.####" : "0.00##",
            CultureInfo.InvariantCulture
        );

    /// <summary>Without the zeros at its end that a figure happens to carry.</summary>
    internal static string? Short(decimal? figure) => figure?.ToString("0.##########", CultureInfo.InvariantCulture);

    /// <summary>Control characters have no place in XML 1.0.</summary>
    private static string Clean(string text) =>
        string.Concat(
            text.Where(c => c is '\n' or '\t' || !char.IsControl(c)).Where(c => c is not ('\uFFFE' or '\uFFFF'))
        );

    /// <summary>The text at a path below an element; empty where there is none.</summary>
    internal static string TextAt(this XElement? at, params XName[] path) => at.At(path)?.Value.Trim() ?? "";

    internal static XElement? At(this XElement? at, params XName[] path)
    {
        foreach (var step in path)
            at = at?.Element(step);
        return at;
    }

    internal static IEnumerable<XElement> All(this XElement? at, XName name) => at?.Elements(name) ?? [];

    internal static string Marked(this XElement? at, string name) => at?.Attribute(name)?.Value.Trim() ?? "";

    /// <exception cref="UnreadableException">When it is no figure.</exception>
    internal static decimal? FigureAt(this XElement? at, params XName[] path)
    {
        var text = at.TextAt(path);
        if (text.Length == 0)
            return null;
        return
            text.Length <= 40
            && decimal.TryParse(
                text,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var figure
            )
            ? figure
            : throw new UnreadableException(PathOf(at.At(path)!), $"“{Cut(text)}” is no figure");
    }

    /// <param name="form">As the syntax writes days.</param>
    /// <exception cref="UnreadableException">When it is no day.</exception>
    internal static DateOnly? DayOf(XElement? at, string form)
    {
        var text = at?.Value.Trim() ?? "";
        if (text.Length == 0)
            return null;
        return DateOnly.TryParseExact(text, form, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
            ? day
            : throw new UnreadableException(PathOf(at!), $"“{Cut(text)}” is no day");
    }

    internal static Identifier? IdAt(this XElement? at, string scheme, params XName[] path) =>
        at.At(path) is { Value.Length: > 0 } id ? new Identifier(id.Value.Trim(), id.Marked(scheme)) : null;

    internal static string PathOf(XElement at) =>
        string.Join('/', at.AncestorsAndSelf().Reverse().Skip(1).Select(e => e.Name.LocalName));

    internal static string Cut(string text) => text.Length > 60 ? text[..60] + "…" : text;
}

/// <summary>Something in a file cannot be read: where, and why.</summary>
internal sealed class UnreadableException(string place, string problem) : Exception($"{place}: {problem}");
