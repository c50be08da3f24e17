using System.Collections.Frozen;

namespace Jugaad.Formats.Pictures;

/// <summary>What of SVG 1.1 and 2 a kept drawing may be made of: shapes and how they are painted.</summary>
internal static class SvgNames
{
    internal const string Space = "http://www.w3.org/2000/svg";

    internal const string LinkSpace = "http://www.w3.org/1999/xlink";

    /// <summary>Elements that paint, or say how something is painted.</summary>
    internal static FrozenSet<string> Painting { get; } =
        Set(
            "svg g defs symbol use path rect circle ellipse line polyline polygon linearGradient radialGradient stop",
            "clipPath mask pattern style"
        );

    /// <summary>Elements that change nothing of a still picture; left out without a word.</summary>
    internal static FrozenSet<string> Silent { get; } =
        Set("title desc metadata script animate animateMotion animateTransform set view cursor");

    internal static FrozenSet<string> Gradients { get; } = Set("linearGradient radialGradient");

    /// <summary>Attributes of place and form.</summary>
    private static readonly string[] Geometry =
    [
        "id class style d points x y width height rx ry cx cy r fx fy fr x1 y1 x2 y2 transform offset pathLength",
        "viewBox gradientUnits gradientTransform spreadMethod clipPathUnits maskUnits maskContentUnits",
        "patternUnits patternContentUnits patternTransform href",
    ];

    /// <summary>Attributes of paint.</summary>
    private static readonly string[] Paint =
    [
        "fill fill-opacity fill-rule stroke stroke-width stroke-opacity stroke-linecap stroke-linejoin",
        "stroke-miterlimit stroke-dasharray stroke-dashoffset opacity color display visibility clip-path clip-rule",
        "mask stop-color stop-opacity paint-order vector-effect",
    ];

    internal static FrozenSet<string> Attributes { get; } = Set([.. Geometry, .. Paint]);

    private static FrozenSet<string> Set(params string[] words) =>
        words.SelectMany(w => w.Split(' ')).ToFrozenSet(StringComparer.Ordinal);
}
