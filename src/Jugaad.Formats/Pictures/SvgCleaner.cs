using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using System.Xml;
using System.Xml.Linq;
using Jugaad.Core;
using Jugaad.Core.Layouts;

namespace Jugaad.Formats.Pictures;

/// <summary>
/// Reads a drawing (SVG) and writes it anew with its shapes alone: nothing that runs, moves, or points outside of it.
/// What would be drawn otherwise than it was meant is refused, never left out.
/// </summary>
internal static partial class SvgCleaner
{
    private const int MostElements = 20_000;
    private const int MostDepth = 64;

    /// <summary>Far above any real one; keeps what is reckoned from it a number.</summary>
    private const double MostSide = 1_000_000;

    private static readonly XmlReaderSettings Settings = new()
    {
        // What a document type declares is not read, so nothing can be blown up with it.
        DtdProcessing = DtdProcessing.Ignore,
        XmlResolver = null,
        IgnoreComments = true,
        IgnoreProcessingInstructions = true,
        IgnoreWhitespace = true,
    };

    /// <summary>Whether a file says that it is a drawing, from its first bytes.</summary>
    internal static bool Is(byte[] upload)
    {
        var beginning = Encoding.UTF8.GetString(upload.AsSpan(0, Math.Min(upload.Length, 4_096)));
        return beginning.TrimStart('\uFEFF', ' ', '\t', '\r', '\n').StartsWith('<')
            && beginning.Contains("<svg", StringComparison.Ordinal);
    }

    /// <returns>UTF-8, beginning as <see cref="PictureType.SvgBeginning"/>; the whole of it is its view box.</returns>
    /// <exception cref="RefusalException">When it is damaged, too large, or has what we do not draw.</exception>
    internal static byte[] Clean(byte[] upload, string field)
    {
        var root = Read(upload, field);
        var made = Kept(root, field, 0);
        SvgReferences.Check(made, MostElements, field);
        var (x, y, width, height) = Box(root, field);
        made.SetAttributeValue("x", null);
        made.SetAttributeValue("y", null);
        made.SetAttributeValue("viewBox", FormattableString.Invariant($"{x} {y} {width} {height}"));
        made.SetAttributeValue("width", width.ToString(CultureInfo.InvariantCulture));
        made.SetAttributeValue("height", height.ToString(CultureInfo.InvariantCulture));
        // A browser fits it into its place by this rule, whatever the page that shows it says.
        made.SetAttributeValue("preserveAspectRatio", "xMinYMin meet");
        return Encoding.UTF8.GetBytes(made.ToString(SaveOptions.DisableFormatting));
    }

    private static XElement Read(byte[] upload, string field)
    {
        try
        {
            using var reader = XmlReader.Create(new MemoryStream(upload), Settings);
            var nodes = 0;
            while (reader.Read())
                if (reader.Depth > MostDepth || ++nodes > 4 * MostElements)
                    throw TooMuch(field);
            using var again = XmlReader.Create(new MemoryStream(upload), Settings);
            var root = XElement.Load(again);
            if (root.Name == XName.Get("svg", SvgNames.Space))
                return root;
        }
        catch (XmlException e)
        {
            throw new RefusalException(
                field,
                $"This drawing cannot be read: at line {e.LineNumber}, place {e.LinePosition} it is damaged. Save it again as plain SVG and choose the new file."
            );
        }

        throw new RefusalException(field, "This is no SVG drawing. Save it as plain SVG and choose the new file.");
    }

    /// <summary>An element with what is kept of it and in it.</summary>
    private static XElement Kept(XElement of, string field, int depth)
    {
        var made = new XElement(of.Name);
        if (depth == 0)
            made.SetAttributeValue("xmlns", SvgNames.Space);
        if (of.Attribute("filter") is not null)
            throw Refused(WordsOf("filter"), field);
        foreach (var attribute in of.Attributes())
            if (NameOf(attribute) is { } name)
                made.SetAttributeValue(name, Safe(attribute.Value, field));
        // A frame within the drawing would be fitted by its own rule.
        if (depth > 0 && of.Name.LocalName == "svg")
            throw Refused("a drawing within the drawing", field);
        if (of.Name.LocalName == "style")
            made.Value = StyleOf(of, field);
        else
            foreach (var child in of.Elements().Where(e => e.Name.NamespaceName == SvgNames.Space))
                if (SvgNames.Painting.Contains(child.Name.LocalName))
                    made.Add(Kept(child, field, depth + 1));
                else if (!SvgNames.Silent.Contains(child.Name.LocalName))
                    throw Refused(WordsOf(child.Name.LocalName), field);
        return made;
    }

    /// <summary>Under which name an attribute is kept; null where it is not.</summary>
    private static string? NameOf(XAttribute attribute) =>
        attribute.Name.NamespaceName is "" or SvgNames.LinkSpace
        && !attribute.IsNamespaceDeclaration
        && SvgNames.Attributes.Contains(attribute.Name.LocalName)
        && (attribute.Name.LocalName == "href" || attribute.Name.NamespaceName.Length == 0)
            ? attribute.Name.LocalName
            : null;

    private static string StyleOf(XElement style, string field)
    {
        if (style.Value.Contains('@') || style.Value.Contains('<'))
            throw Refused("rules of style that depend on something else (@)", field);
        return Safe(style.Value, field);
    }

    /// <summary>A value that points to nothing but places in the drawing.</summary>
    private static string Safe(string value, string field)
    {
        if (value.Contains('\\') || value.Contains("javascript:", StringComparison.OrdinalIgnoreCase))
            throw Refused("signs that hide what is meant", field);
        if (AnyFilter().IsMatch(value))
            throw Refused(WordsOf("filter"), field);
        foreach (Match url in AnyUrl().Matches(value))
            if (!OwnUrl().IsMatch(url.Value))
                throw Refused("something that lies outside of it", field);
        return value;
    }

    /// <summary>What of the plane is drawn: its view box, or its width and height.</summary>
    private static (double X, double Y, double Width, double Height) Box(XElement root, string field)
    {
        var parts = ((string?)root.Attribute("viewBox") ?? "")
            .Split([' ', ',', '\t', '\r', '\n'], StringSplitOptions.RemoveEmptyEntries)
            .Select(Number)
            .ToList();
        var box = parts is [{ } x, { } y, { } w, { } h]
            ? (X: x, Y: y, Width: w, Height: h)
            : (
                0,
                0,
                Number(Length((string?)root.Attribute("width"))) ?? 0,
                Number(Length((string?)root.Attribute("height"))) ?? 0
            );
        if (box.Width <= 0 || box.Height <= 0 || Math.Max(box.Width, box.Height) > MostSide)
            throw new RefusalException(
                field,
                "This drawing does not say how large it is. Save it with a view box, or with a width and a height."
            );
        return box;
    }

    /// <summary>Without its unit, since only the proportion counts; shares of a page say nothing.</summary>
    private static string Length(string? of) =>
        of is null || of.Trim().EndsWith('%') ? "" : of.Trim().TrimEnd([.. "pxtcmin"]);

    private static double? Number(string text) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number)
        && double.IsFinite(number)
        && Math.Abs(number) <= MostSide
            ? number
            : null;

    private static string WordsOf(string element) =>
        element switch
        {
            "text" or "tspan" or "textPath" or "tref" or "font" or "altGlyph" =>
                "text, which needs a typeface that the paper may not have. Turn its texts into outlines (paths)",
            "image" or "feImage" => "a picture of pixels in it. Save the whole as PNG",
            "filter" => "effects such as shadows (a filter). Save it without them, or the whole as PNG",
            _ => $"a part that we do not draw (<{element}>). Save it as plain SVG, or the whole as PNG",
        };

    internal static RefusalException Refused(string what, string field) =>
        new(
            field,
            what.Contains('.')
                ? $"This drawing has {what}, and choose the new file."
                : $"This drawing has {what}. Save it as plain SVG, or the whole as PNG, and choose the new file."
        );

    internal static RefusalException TooMuch(string field) =>
        new(
            field,
            "This drawing has more parts than a paper can show quickly. Simplify it, or save it as PNG, and choose the new file."
        );

    /// <summary>A property of style, however it is spaced; a rule of style may have a remark in between.</summary>
    [GeneratedRegex(@"filter\s*(/\*.*?\*/\s*)*:", RegexOptions.IgnoreCase | RegexOptions.Singleline)]
    private static partial Regex AnyFilter();

    [GeneratedRegex(@"url\s*\([^)]*\)?", RegexOptions.IgnoreCase)]
    private static partial Regex AnyUrl();

    [GeneratedRegex(@"^url\(\s*['""]?#[^'""\s)]+['""]?\s*\)$")]
    private static partial Regex OwnUrl();
}
