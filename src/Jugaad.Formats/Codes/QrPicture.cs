using System.Globalization;
using System.Text;
using QRCoder;

namespace Jugaad.Formats.Codes;

/// <summary>QR codes (ISO/IEC 18004, error correction M) as SVG without style or script.</summary>
public static class QrPicture
{
    /// <param name="words">What the picture says to whoever does not see it.</param>
    /// <param name="side">Pixels.</param>
    public static string Svg(string text, string words, int side)
    {
        using var generator = new QRCodeGenerator();
        using var code = generator.CreateQrCode(text, QRCodeGenerator.ECCLevel.M);
        var rows = code.ModuleMatrix;
        var path = new StringBuilder();
        for (var y = 0; y < rows.Count; y++)
        {
            for (var x = 0; x < rows[y].Length; x++)
                if (rows[y][x]) path.Append(CultureInfo.InvariantCulture, $"M{x} {y}h1v1h-1z");
        }

        return $"<svg width=\"{side}\" height=\"{side}\" viewBox=\"0 0 {rows.Count} {rows.Count}\" role=\"img\" aria-label=\"{System.Net.WebUtility.HtmlEncode(words)}\" shape-rendering=\"crispEdges\"><rect width=\"{rows.Count}\" height=\"{rows.Count}\" fill=\"#fff\"/><path d=\"{path}\" fill=\"#000\"/></svg>";
    }
}
