using System.Globalization;
using System.Text;

namespace Jugaad.Formats.Codes;

/// <summary>QR codes (ISO/IEC 18004, error correction M) as SVG without style or script.</summary>
public static class QrPicture
{
    /// <param name="words">What the picture says to whoever does not see it.</param>
    /// <param name="side">Pixels.</param>
    public static string Svg(string text, string words, int side)
    {
        var code = CodeModules.Of(text);
        var path = new StringBuilder();
        foreach (var (x, y, length) in code.Runs)
            path.Append(CultureInfo.InvariantCulture, $"M{x} {y}h{length}v1h-{length}z");
        return $"<svg width=\"{side}\" height=\"{side}\" viewBox=\"0 0 {code.Side} {code.Side}\" role=\"img\" aria-label=\"{System.Net.WebUtility.HtmlEncode(words)}\" shape-rendering=\"crispEdges\"><rect width=\"{code.Side}\" height=\"{code.Side}\" fill=\"#fff\"/><path d=\"{path}\" fill=\"#000\"/></svg>";
    }
}
