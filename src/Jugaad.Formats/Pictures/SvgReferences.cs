using System.Text.RegularExpressions;
using System.Xml.Linq;

namespace Jugaad.Formats.Pictures;

/// <summary>
/// Where a drawing points to parts of itself: each of them is there, none leads back to itself, and all that is drawn
/// in the end, each part as often as it is pointed to, has its bound.
/// </summary>
internal sealed partial class SvgReferences
{
    private readonly Dictionary<string, XElement> _byId = new(StringComparer.Ordinal);
    private readonly Dictionary<XElement, long> _weights = [];
    private readonly HashSet<XElement> _within = [];
    private readonly string _field;
    private readonly int _most;

    private SvgReferences(XElement root, int most, string field)
    {
        (_field, _most) = (field, most);
        foreach (var element in root.DescendantsAndSelf())
            if ((string?)element.Attribute("id") is { } id)
                _byId.TryAdd(id, element);
    }

    /// <exception cref="Core.RefusalException">When a part leads back to itself, or there is too much to draw.</exception>
    internal static void Check(XElement root, int most, string field)
    {
        var references = new SvgReferences(root, most, field);
        foreach (var style in root.Descendants().Where(e => e.Name.LocalName == "style"))
        foreach (Match url in Target().Matches(style.Value))
            // A rule of style may hold for any element: colours alone can be pointed to by it.
            if (
                references._byId.TryGetValue(url.Groups[1].Value, out var to)
                && !SvgNames.Gradients.Contains(to.Name.LocalName)
            )
                throw SvgCleaner.Refused("rules of style that point to shapes", field);
        references.Weigh(root);
    }

    /// <summary>How many elements are drawn with one.</summary>
    private long Weigh(XElement element)
    {
        if (_weights.TryGetValue(element, out var known))
            return known;
        if (!_within.Add(element))
            throw SvgCleaner.Refused("a part that leads back to itself", _field);
        var weight = 1L;
        foreach (var part in element.Elements().Concat(Pointed(element)))
        {
            weight += Weigh(part);
            if (weight > _most)
                throw SvgCleaner.TooMuch(_field);
        }

        _within.Remove(element);
        return _weights[element] = weight;
    }

    private IEnumerable<XElement> Pointed(XElement from)
    {
        foreach (var attribute in from.Attributes())
            if (attribute.Name.LocalName == "href")
            {
                if (!attribute.Value.StartsWith('#'))
                    throw SvgCleaner.Refused("something that lies outside of it", _field);
                if (_byId.TryGetValue(attribute.Value[1..], out var part))
                    yield return part;
            }
            else
                foreach (Match url in Target().Matches(attribute.Value))
                    if (_byId.TryGetValue(url.Groups[1].Value, out var part))
                        yield return part;
    }

    [GeneratedRegex(@"url\(\s*['""]?#([^'""\s)]+)")]
    private static partial Regex Target();
}
