using System.Globalization;

namespace Jugaad.Core.Layouts;

/// <summary>By which a place on a painted paper can be led to.</summary>
public static class PaperAnchor
{
    /// <param name="piece">The piece of the layout.</param>
    /// <param name="line">The line of the document within it, from 0; null for the piece itself.</param>
    public static string Of(string piece, int? line = null) =>
        line is { } n ? string.Create(CultureInfo.InvariantCulture, $"on-{piece}-{n + 1}") : $"on-{piece}";
}
